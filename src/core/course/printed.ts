import { clamp, lerp, wrapAngle } from '../math/scalar';
import { seekIndex } from '../math/seek';
import { splineMoments } from '../math/tridiagonal';
import { TURN_M, type Course } from './course';

/** A place with a heading: m, rad. */
export interface Heading {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
}

/** Steps shorter than this (m) that turn are turns on the spot: they bend no course. */
const SPOT_M = 0.15;
const LEAST_M = 1e-3;

/**
 * The course that prints walk of themselves: through the places of the body over them, in order, turning from one heading to
 * the next; with the place on it (m) of each. Needs two places.
 */
export function printedCourse(stations: readonly Heading[]): { readonly course: Course; readonly at: Float64Array } {
  const n = stations.length;
  if (n < 2) throw new RangeError(`printedCourse: needs two places, got ${n}`);
  const s = new Float64Array(n),
    heading = new Float64Array(n),
    curvature = new Float64Array(n);
  heading[0] = stations[0]!.heading;
  for (let i = 1; i < n; i++) {
    const [a, b] = [stations[i - 1]!, stations[i]!];
    const turn = wrapAngle(b.heading - heading[i - 1]!);
    heading[i] = heading[i - 1]! + turn;
    const way = Math.hypot(b.x - a.x, b.z - a.z);
    s[i] = s[i - 1]! + Math.max(LEAST_M, way, way < SPOT_M ? TURN_M * Math.abs(turn) : 0);
    const bend = way < SPOT_M ? 0 : turn / way;
    curvature[i - 1] = i === 1 ? bend : (curvature[i - 1]! + bend) / 2;
    curvature[i] = bend;
  }
  const x = Float64Array.from(stations, (p) => p.x),
    z = Float64Array.from(stations, (p) => p.z);
  const mx = splineMoments(s, x),
    mz = splineMoments(s, z);
  const length = s[n - 1]!;
  const read = (v: Float64Array, m: Float64Array, i: number, u: number): number => {
    const h = s[i + 1]! - s[i]!,
      w = 1 - u;
    return w * v[i]! + u * v[i + 1]! + ((w * w * w - w) * m[i]! + (u * u * u - u) * m[i + 1]!) * ((h * h) / 6);
  };
  const course: Course = {
    length,
    turns: [],
    at(place, out, o) {
      const inside = clamp(place, 0, length);
      const i = Math.min(n - 2, seekIndex(s, n, inside));
      const u = (inside - s[i]!) / (s[i + 1]! - s[i]!);
      const h = lerp(heading[i]!, heading[i + 1]!, u);
      // Straight on beyond its ends.
      out[o] = read(x, mx, i, u) + (place - inside) * Math.sin(h);
      out[o + 1] = read(z, mz, i, u) + (place - inside) * Math.cos(h);
      out[o + 2] = h;
      out[o + 3] = place === inside ? lerp(curvature[i]!, curvature[i + 1]!, u) : 0;
    },
  };
  return { course, at: s };
}
