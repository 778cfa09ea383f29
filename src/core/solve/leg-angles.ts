import type { LegMeasures } from '../body/legs';
import { clamp } from '../math/scalar';

/**
 * A leg in its own terms: how far (rad) the line from hip to ankle swings forward and to the left of straight down, and the
 * bend of the knee (0 straight).
 */
export const LEG_ANGLE = { forward: 0, left: 1, bend: 2 } as const;

/** Hip-ankle distance (m) at a bend of the knee. */
export const spanAt = ({ thigh, shank }: LegMeasures, bend: number): number => Math.sqrt(thigh * thigh + shank * shank + 2 * thigh * shank * Math.cos(bend));

/** Angles of the line from hip to ankle (m, world) at r[i..i+2], seen along `heading` (its sine and cosine), to out[o..o+2]. */
export function toLegAngles(leg: LegMeasures, r: Float64Array, i: number, sin: number, cos: number, out: Float64Array, o: number): void {
  const x = r[i]!,
    y = r[i + 1]!,
    z = r[i + 2]!;
  const forward = x * sin + z * cos,
    left = x * cos - z * sin;
  const span = Math.max(1e-9, Math.sqrt(x * x + y * y + z * z));
  const { thigh: a, shank: b } = leg;
  out[o] = Math.atan2(forward, -y);
  out[o + 1] = Math.asin(clamp(left / span, -1, 1));
  out[o + 2] = Math.acos(clamp((span * span - a * a - b * b) / (2 * a * b), -1, 1));
}

/** The line from hip to ankle (m, world) of the angles at q[i..i+2], to out[o..o+2]. Allocates nothing. */
export function toLegLine(leg: LegMeasures, q: Float64Array, i: number, sin: number, cos: number, out: Float64Array, o: number): void {
  const span = spanAt(leg, q[i + 2]!);
  const level = Math.cos(q[i + 1]!) * span;
  const forward = Math.sin(q[i]!) * level,
    left = Math.sin(q[i + 1]!) * span;
  out[o] = forward * sin + left * cos;
  out[o + 1] = -Math.cos(q[i]!) * level;
  out[o + 2] = forward * cos - left * sin;
}
