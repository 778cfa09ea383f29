import type { Body } from '../body/body';
import { createMannequin } from '../body/mannequin';
import { restWorld, type Skeleton, type WorldPose } from '../body/skeleton';

/** Influences a vertex hangs on at most. */
const INFLUENCES = 4;

/** A skin on a skeleton: per vertex up to four joints with weights and the vertex as each joint's frame has it, m. */
export interface Skin {
  readonly skeleton: Skeleton;
  readonly count: number;
  /** INFLUENCES a vertex; a joint of no weight is −1. */
  readonly joints: Int16Array;
  readonly weights: Float64Array;
  /** 3 numbers an influence. */
  readonly bound: Float64Array;
}

/** A skin from vertices (m, in the mesh's own space), their joints and weights, and `bind(joint, v)`: the vertex in the joint's frame. */
export function createSkin(
  skeleton: Skeleton,
  positions: ArrayLike<number>,
  joints: ArrayLike<number>,
  weights: ArrayLike<number>,
  bind: (joint: number, v: readonly [number, number, number]) => readonly [number, number, number],
): Skin {
  const count = positions.length / 3;
  const skin = {
    skeleton,
    count,
    joints: new Int16Array(count * INFLUENCES).fill(-1),
    weights: new Float64Array(count * INFLUENCES),
    bound: new Float64Array(count * INFLUENCES * 3),
  };
  for (let i = 0; i < count * INFLUENCES; i++) {
    if (!(weights[i]! > 0)) continue;
    const v = Math.floor(i / INFLUENCES) * 3;
    skin.joints[i] = joints[i]!;
    skin.weights[i] = weights[i]!;
    skin.bound.set(bind(joints[i]!, [positions[v]!, positions[v + 1]!, positions[v + 2]!]), i * 3);
  }
  return skin;
}

/** The clay figure's skin. */
export function mannequinSkin(body: Body): Skin {
  const mesh = createMannequin(body);
  const rest = restWorld(body.skeleton).positions;
  return createSkin(body.skeleton, mesh.positions, mesh.joints, mesh.weights, (j, [x, y, z]) => [x - rest[j * 3]!, y - rest[j * 3 + 1]!, z - rest[j * 3 + 2]!]);
}

/** Joint a vertex hangs on most, and which of its influences that is. */
export function mainInfluence({ joints, weights }: Skin, vertex: number): { readonly joint: number; readonly influence: number } {
  let best = vertex * INFLUENCES;
  for (let i = best + 1; i < (vertex + 1) * INFLUENCES; i++) if (weights[i]! > weights[best]!) best = i;
  return { joint: joints[best]!, influence: best };
}

/** World place (m) of a vertex, by linear blend skinning as glTF 2.0 has it, into out[o..o+2]. Allocates nothing. */
export function skinVertex({ joints, weights, bound }: Skin, vertex: number, { positions, rotations }: WorldPose, out: Float64Array, o: number): void {
  let ox = 0,
    oy = 0,
    oz = 0;
  for (let i = vertex * INFLUENCES; i < (vertex + 1) * INFLUENCES; i++) {
    const j = joints[i]!;
    if (j < 0) continue;
    const w = weights[i]!;
    const qx = rotations[j * 4]!,
      qy = rotations[j * 4 + 1]!,
      qz = rotations[j * 4 + 2]!,
      qw = rotations[j * 4 + 3]!;
    const vx = bound[i * 3]!,
      vy = bound[i * 3 + 1]!,
      vz = bound[i * 3 + 2]!;
    const tx = 2 * (qy * vz - qz * vy),
      ty = 2 * (qz * vx - qx * vz),
      tz = 2 * (qx * vy - qy * vx);
    ox += w * (positions[j * 3]! + vx + qw * tx + qy * tz - qz * ty);
    oy += w * (positions[j * 3 + 1]! + vy + qw * ty + qz * tx - qx * tz);
    oz += w * (positions[j * 3 + 2]! + vz + qw * tz + qx * ty - qy * tx);
  }
  out[o] = ox;
  out[o + 1] = oy;
  out[o + 2] = oz;
}
