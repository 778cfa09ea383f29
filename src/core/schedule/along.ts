import { cubicHermite } from '../math/hermite';
import { seekIndex } from '../math/seek';
import { splineMoments } from '../math/tridiagonal';

/** A number over time between knots: values, and either slopes (C1) or second derivatives (C2). Constant beyond its ends. */
export interface TimeTrack {
  readonly times: Float64Array;
  readonly values: Float64Array;
  /** Slopes at the knots (per second) for a track that never overshoots, or moments for one that is C2. */
  readonly shape: Float64Array;
  readonly kind: 'monotone' | 'spline' | 'line';
}

export const constantTrack = (value: number): TimeTrack => ({
  times: Float64Array.of(0),
  values: Float64Array.of(value),
  shape: Float64Array.of(0),
  kind: 'spline',
});

/** A straight line that gains 1 every `period` s, also beyond its ends. */
export const lineTrack = (start: number, period: number): TimeTrack => ({
  times: Float64Array.of(0),
  values: Float64Array.of(start),
  shape: Float64Array.of(period),
  kind: 'line',
});

/**
 * C1 and never past its knots, for headings. Slopes: weighted harmonic mean of the neighbouring chords; at the ends those
 * given, or level. Source: Fritsch & Butland 1984.
 */
export function monotoneTrack(times: Float64Array, values: Float64Array, ends: readonly [number, number] = [0, 0]): TimeTrack {
  const n = times.length;
  const shape = new Float64Array(n);
  shape[0] = ends[0];
  shape[n - 1] = ends[1];
  for (let i = 1; i < n - 1; i++) {
    const h0 = times[i]! - times[i - 1]!,
      h1 = times[i + 1]! - times[i]!;
    const d0 = (values[i]! - values[i - 1]!) / h0,
      d1 = (values[i + 1]! - values[i]!) / h1;
    if (d0 * d1 > 0) shape[i] = (3 * (h0 + h1)) / ((2 * h1 + h0) / d0 + (h1 + 2 * h0) / d1);
  }
  return { times, values, shape, kind: 'monotone' };
}

/** C2 through its knots, for the height under a body. */
export const splineTrack = (times: Float64Array, values: Float64Array): TimeTrack => ({ times, values, shape: splineMoments(times, values), kind: 'spline' });

/** Value at time clock[c] (s) into out[o]. Allocates nothing. */
export function readTrack({ times, values, shape, kind }: TimeTrack, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  const n = times.length;
  const t = clock[c]!;
  if (kind === 'line') {
    out[o] = values[0]! + t / shape[0]!;
    return;
  }
  if (n === 1 || t <= times[0]!) {
    out[o] = values[0]!;
    return;
  }
  if (t >= times[n - 1]!) {
    out[o] = values[n - 1]!;
    return;
  }
  const i = seekIndex(times, n, t);
  const h = times[i + 1]! - times[i]!;
  const u = (t - times[i]!) / h;
  if (kind === 'monotone') {
    out[o] = cubicHermite(values[i]!, shape[i]! * h, values[i + 1]!, shape[i + 1]! * h, u);
    return;
  }
  const v = 1 - u;
  out[o] = v * values[i]! + u * values[i + 1]! + ((v * v * v - v) * shape[i]! + (u * u * u - u) * shape[i + 1]!) * ((h * h) / 6);
}
