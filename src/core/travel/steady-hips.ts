import { createWorldPose, forwardKinematics, poseSize, rotationAt, withAncestors, type Skeleton, type WorldPose } from '../body/skeleton';
import type { Clip } from '../clip/clip';
import { lowPass } from '../math/low-pass';
import { multiply, multiplyConjugate } from '../math/quaternion';
import { fromRotationVector, toRotationVector } from '../math/rotation-vector';

/** Numbers a picture of how hips are moved: their place (m) and their turn (rotation vector), world. */
export const HIPS = 6;

/**
 * From the hips as recorded to hips without shaking, HIPS numbers a picture: a foot that stands still has all of their shaking in
 * its knee otherwise. `cutoff` in Hz; Infinity for no change. `first`: the first frame that belongs to the motion.
 */
export function hipsNoise({ skeleton, poses, frames, rate }: Clip, hips: number, first: number, cutoff: number): Float64Array {
  const noise = new Float64Array(frames * HIPS);
  if (!(cutoff < 0.49 * rate)) return noise;
  const world = createWorldPose(skeleton);
  const only = withAncestors(skeleton, [hips]);
  const size = poseSize(skeleton);
  const n = 7;
  const raw = new Float64Array(frames * n);
  for (let f = 0; f < frames; f++) {
    forwardKinematics(skeleton, poses, f * size, world, only);
    const o = f * n;
    for (let k = 0; k < 3; k++) raw[o + k] = world.positions[hips * 3 + k]!;
    for (let k = 0; k < 4; k++) raw[o + 3 + k] = world.rotations[hips * 4 + k]!;
    // A rotation and its negative are the same: the sign that goes on.
    let dot = 0;
    if (f > 0) for (let k = 3; k < n; k++) dot += raw[o + k]! * raw[o - n + k]!;
    if (dot < 0) for (let k = 3; k < n; k++) raw[o + k] = -raw[o + k]!;
  }
  const calm = raw.slice();
  for (let k = 0; k < n; k++) lowPass(calm, first * n + k, n, frames - first, cutoff, rate);
  const q = new Float64Array(4);
  for (let f = first; f < frames; f++) {
    const o = f * n;
    const l = Math.hypot(calm[o + 3]!, calm[o + 4]!, calm[o + 5]!, calm[o + 6]!);
    for (let k = 3; k < n; k++) calm[o + k] = calm[o + k]! / l;
    for (let k = 0; k < 3; k++) noise[f * HIPS + k] = calm[o + k]! - raw[o + k]!;
    multiply(q, 0, calm, o + 3, [-raw[o + 3]!, -raw[o + 4]!, -raw[o + 5]!, raw[o + 6]!], 0);
    toRotationVector(noise, f * HIPS + 3, q, 0);
  }
  return noise;
}

/** The joints that hang on the hips and carry none of the legs: what keeps its own turn where the hips are turned. */
export function overHips({ parents }: Skeleton, hips: number, legs: readonly number[]): number[] {
  const carries = new Set<number>();
  for (let j of legs) for (; j >= 0; j = parents[j]!) carries.add(j);
  return [...parents.keys()].filter((j) => parents[j] === hips && !carries.has(j));
}

/** Turns the hips of a pose by a rotation vector of the world at by[i..], `share` of it; `over` keep their turns. `world` holds the pose. */
export function turnHips(
  skeleton: Skeleton,
  hips: number,
  over: readonly number[],
  { rotations }: WorldPose,
  by: Float64Array,
  i: number,
  share: number,
  out: Float64Array,
  at: number,
): void {
  for (let k = 0; k < 3; k++) V[k] = by[i + k]! * share;
  fromRotationVector(Q, 0, V, 0);
  multiply(Q, 4, Q, 0, rotations, hips * 4);
  const parent = skeleton.parents[hips]!;
  if (parent < 0) for (let k = 0; k < 4; k++) out[at + rotationAt(skeleton, hips) + k] = Q[4 + k]!;
  else multiplyConjugate(out, at + rotationAt(skeleton, hips), rotations, parent * 4, Q, 4);
  for (const j of over) multiplyConjugate(out, at + rotationAt(skeleton, j), Q, 4, rotations, j * 4);
}
const Q = new Float64Array(8);
const V = new Float64Array(3);
