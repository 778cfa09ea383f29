import { multiply } from '../math/quaternion';
import { fromRotationVector, toRotationVector } from '../math/rotation-vector';

/** Numbers a picture of how a foot is moved by a lock: its ankle's place, turn of the ankle, turn of the toes (rotation vectors, world). */
export const SHIFT = 9;

/** Writes the rotation vector that turns the rotation at from[i..] to that at to[j..]. */
export function turnBetween(out: Float64Array, o: number, from: Float64Array, i: number, to: Float64Array, j = 0): void {
  multiply(D, 0, to, j, [-from[i]!, -from[i + 1]!, -from[i + 2]!, from[i + 3]!], 0);
  toRotationVector(out, o, D, 0);
}

/** Turns the rotation at q[i..] by the rotation vector at shift[o..], `share` of it. */
export function turnBy(out: Float64Array, at: number, q: Float64Array, i: number, shift: Float64Array, o: number, share = 1): void {
  for (let k = 0; k < 3; k++) V[k] = shift[o + k]! * share;
  fromRotationVector(D, 0, V, 0);
  multiply(out, at, D, 0, q, i);
}

const D = new Float64Array(4);
const V = new Float64Array(3);
