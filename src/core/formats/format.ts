import { strToU8 } from 'fflate';
import { encodeBvh } from './bvh/encode';
import { toBvh } from './bvh/from-clip';
import type { ClipDocument } from './clip-info';
import { encodeGlb } from './gltf/bytes';

/** A file format clips can be written in, and what it can hold. */
export interface ExportFormat {
  readonly id: 'glb' | 'bvh';
  readonly label: string;
  readonly extension: `.${string}`;
  /** Where travel goes: on a joint of its own, or into the hips. */
  readonly travel: 'root' | 'hips';
  readonly carriesFigure: boolean;
  readonly encode: (document: ClipDocument) => Promise<Uint8Array>;
}

export const EXPORT_FORMATS: readonly ExportFormat[] = [
  { id: 'glb', label: 'GLB (glTF 2.0)', extension: '.glb', travel: 'root', carriesFigure: true, encode: (document) => encodeGlb([document]) },
  { id: 'bvh', label: 'BVH', extension: '.bvh', travel: 'hips', carriesFigure: false, encode: async (document) => strToU8(encodeBvh(toBvh(document))) },
];
