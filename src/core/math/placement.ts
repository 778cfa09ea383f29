import { multiply, setAxisFrom, type Numbers } from './quaternion';

/**
 * A place and a heading on the ground: x, y, z (m) and yaw (rad about Y), four numbers in a buffer the caller owns. What a
 * motion adds when it repeats, where a motion is put, where a root stands: all are placements.
 */
export type Placement = Float64Array;

export const createPlacement = (x = 0, y = 0, z = 0, yaw = 0): Placement => Float64Array.of(x, y, z, yaw);

/** out = a ∘ b: b seen in the frame of a. `out` may be either. Allocates nothing. */
export function composePlacement(out: Numbers, o: number, a: Numbers, i: number, b: Numbers, j: number): void {
  composePoint(out, o, a, i, b, j);
  out[o + 3] = a[i + 3]! + b[j + 3]!;
}

/** out = a⁻¹, so that a ∘ a⁻¹ is no change. */
export function inversePlacement(out: Numbers, o: number, a: Numbers, i: number): void {
  const s = Math.sin(a[i + 3]!),
    c = Math.cos(a[i + 3]!);
  const x = a[i]!,
    z = a[i + 2]!;
  out[o] = -(c * x - s * z);
  out[o + 1] = -a[i + 1]!;
  out[o + 2] = -(s * x + c * z);
  out[o + 3] = -a[i + 3]!;
}

/** Below this half angle (rad) a turn's chord is as long as its arc. */
const SMALL_TURN_RAD = 1e-9;

/** out = a ∘ a ∘ … `times` times; a whole number, also negative. Closed form: the places lie on a circle. */
export function repeatPlacement(out: Numbers, o: number, a: Numbers, i: number, times: number): void {
  const half = a[i + 3]! / 2;
  // Σ R^k over k < n = (sin nθ/2 / sin θ/2) turned by (n − 1) θ/2.
  const chord = Math.abs(half) < SMALL_TURN_RAD ? times : Math.sin(times * half) / Math.sin(half);
  const turn = (times - 1) * half;
  const s = Math.sin(turn) * chord,
    c = Math.cos(turn) * chord;
  const x = a[i]!,
    z = a[i + 2]!;
  out[o] = c * x + s * z;
  out[o + 1] = times * a[i + 1]!;
  out[o + 2] = -s * x + c * z;
  out[o + 3] = times * a[i + 3]!;
}

/** Moves a root by a placement: translation at out[t..t+2], orientation quaternion at out[q..q+3]. */
export function placeRoot(out: Numbers, t: number, q: number, by: Placement, i: number): void {
  composePoint(out, t, by, i, out, t);
  composeTurn(out, q, by, i);
}

/** Turns the orientation at out[q..q+3] by a placement's yaw. */
export function composeTurn(out: Numbers, q: number, by: Placement, i: number): void {
  setAxisFrom(TURN, 0, 1, by, i + 3);
  multiply(out, q, TURN, 0, out, q);
}
const TURN = new Float64Array(4);

/** out[o..o+2] = the point p seen in the frame of a. */
export function composePoint(out: Numbers, o: number, a: Numbers, i: number, p: Numbers, j: number): void {
  const s = Math.sin(a[i + 3]!),
    c = Math.cos(a[i + 3]!);
  const x = p[j]!,
    z = p[j + 2]!;
  out[o] = a[i]! + c * x + s * z;
  out[o + 1] = a[i + 1]! + p[j + 1]!;
  out[o + 2] = a[i + 2]! - s * x + c * z;
}
