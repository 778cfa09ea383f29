import type { WorldPose } from '@/core/body/skeleton';
import type { ShownSkin } from '@/core/formats/gltf/read';

/** A skeleton made elsewhere: where its joints are at a time (s), roles by JOINT, skins. */
export interface OwnFigure {
  readonly at: (t: number) => WorldPose;
  readonly joints: number;
  readonly roles: Int32Array;
  readonly skins: readonly ShownSkin[];
}
