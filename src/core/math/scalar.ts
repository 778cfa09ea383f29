/** One full turn in radians. */
export const TAU = Math.PI * 2;
/** Standard gravity used throughout, m/s² (rounded as biomechanics usually does). */
export const GRAVITY = 9.81;

export const clamp = (x: number, lo: number, hi: number): number => (x < lo ? lo : x > hi ? hi : x);
export const lerp = (a: number, b: number, u: number): number => a + (b - a) * u;
export const toRadians = (deg: number): number => (deg * Math.PI) / 180;
export const toDegrees = (rad: number): number => (rad * 180) / Math.PI;

/** Arc cosine that tolerates rounding just outside [-1, 1]. */
export const acosClamped = (c: number): number => Math.acos(clamp(c, -1, 1));

/** Phase wrapped to [0, 1). */
export function wrapPhase(p: number): number {
  const w = p - Math.floor(p);
  return w === 1 ? 0 : w; // -1e-17 would round up to exactly 1
}

/** Angle wrapped to (-π, π]. */
export function wrapAngle(a: number): number {
  const w = a - TAU * Math.round(a / TAU);
  return w <= -Math.PI ? w + TAU : w;
}

/** 0 below lo, 1 above hi, between them with two continuous derivatives. */
export function smootherstep(lo: number, hi: number, x: number): number {
  const u = clamp((x - lo) / (hi - lo), 0, 1);
  return u * u * u * (u * (6 * u - 15) + 10);
}

/** C1 step from 0 at `lo` to 1 at `hi`. */
export function smoothstep(lo: number, hi: number, x: number): number {
  const u = clamp((x - lo) / (hi - lo), 0, 1);
  return u * u * (3 - 2 * u);
}

/**
 * Smooth minimum of three values: never above the smallest, short of it by at most ln 3 / k.
 * `k` in 1/unit. Infinite values drop out.
 */
export function smoothMin3(a: number, b: number, c: number, k: number): number {
  const m = Math.min(a, b, c);
  return m - Math.log(Math.exp(-k * (a - m)) + Math.exp(-k * (b - m)) + Math.exp(-k * (c - m))) / k;
}

/** Smooth maximum of two values, C∞; never below the larger. `k` in 1/unit. */
export function smoothMax(a: number, b: number, k: number): number {
  const m = Math.max(a, b);
  return m + Math.log(Math.exp(k * (a - m)) + Math.exp(k * (b - m))) / k;
}

/** Ramp that leaves 0 and joins slope 1 with continuous velocity, rounded over ±width around `x = 0`. */
export function softRamp(x: number, width: number): number {
  if (x <= -width) return 0;
  if (x >= width) return x;
  return ((x + width) * (x + width)) / (4 * width);
}

/** Least and greatest of any number of values; [∞, −∞] of none. Math.min(...values) overflows the stack from some 100,000 on. */
export function extent(values: Iterable<number>): [least: number, greatest: number] {
  let least = Infinity,
    greatest = -Infinity;
  for (const v of values) {
    if (v < least) least = v;
    if (v > greatest) greatest = v;
  }
  return [least, greatest];
}
