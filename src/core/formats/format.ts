/** A file format clips can be written in, and what it can hold. Interface and exporter read the same flags. */
export interface ExportFormat {
  readonly id: 'glb' | 'bvh';
  readonly label: string;
  readonly extension: `.${string}`;
  readonly mime: string;
  /** Where travel goes: on a joint of its own, or into the hips. */
  readonly travel: 'root' | 'hips';
  readonly carriesFigure: boolean;
}

export const EXPORT_FORMATS: readonly ExportFormat[] = [
  { id: 'glb', label: 'GLB (glTF 2.0)', extension: '.glb', mime: 'model/gltf-binary', travel: 'root', carriesFigure: true },
  { id: 'bvh', label: 'BVH', extension: '.bvh', mime: 'text/plain', travel: 'hips', carriesFigure: false },
];
