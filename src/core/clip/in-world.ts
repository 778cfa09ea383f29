import { poseSize } from '../body/skeleton';
import { multiply, rotateFrom } from '../math/quaternion';
import type { Clip } from './clip';

/** Which way is up in a file. */
export const UPS = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;
export type Up = (typeof UPS)[number];

const HALF = Math.SQRT1_2;
/** Rotations that take each up to +Y, the shortest way; a figure that looks along −Y with Z up then looks along +Z. */
const TO_Y: Readonly<Record<Up, readonly [number, number, number, number]>> = {
  '+x': [0, 0, HALF, HALF],
  '-x': [0, 0, -HALF, HALF],
  '+y': [0, 0, 0, 1],
  '-y': [1, 0, 0, 0],
  '+z': [-HALF, 0, 0, HALF],
  '-z': [HALF, 0, 0, HALF],
};

/** Rotation from a file's world to ours: up to +Y, then turned by `heading` (rad, left positive). */
export function worldTurn(up: Up, heading: number): Float64Array {
  const out = Float64Array.from(TO_Y[up]);
  multiply(out, 0, [0, Math.sin(heading / 2), 0, Math.cos(heading / 2)], 0, out, 0);
  return out;
}

/** The same clip in metres with Y up, its roots turned by `turn` and every length × `unit`. */
export function inWorld(clip: Clip, unit: number, turn: Float64Array): Clip {
  const { skeleton } = clip;
  const size = poseSize(skeleton);
  const quats = skeleton.moving.length * 3;
  const poses = new Float64Array(clip.poses.length);
  const turns = turn[3] !== 1;
  const roots = [...skeleton.parents].flatMap((p, j) => (p < 0 ? [j] : []));
  poses.set(clip.poses);
  const v = [0, 0, 0];
  for (let at = 0; at < poses.length; at += size) {
    if (unit !== 1) for (let k = 0; k < quats; k++) poses[at + k] = poses[at + k]! * unit;
    if (!turns) continue;
    for (const j of roots) {
      const p = at + skeleton.moving.indexOf(j) * 3;
      rotateFrom(v, 0, turn, 0, poses, p);
      for (let k = 0; k < 3; k++) poses[p + k] = v[k]!;
      multiply(poses, at + quats + j * 4, turn, 0, poses, at + quats + j * 4);
    }
  }
  const offsets = skeleton.offsets.map((x) => x * unit);
  const rest = skeleton.rest.slice();
  if (turns)
    for (const j of roots) {
      rotateFrom(v, 0, turn, 0, offsets, j * 3);
      for (let k = 0; k < 3; k++) offsets[j * 3 + k] = v[k]!;
      multiply(rest, j * 4, turn, 0, rest, j * 4);
    }
  return { ...clip, skeleton: { ...skeleton, offsets, rest }, poses };
}
