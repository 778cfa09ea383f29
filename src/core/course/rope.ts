import { cubicHermite } from '../math/hermite';
import { wrapAngle } from '../math/scalar';
import { seekIndex } from '../math/seek';
import { splineMomentsClamped } from '../math/tridiagonal';
import { GAUSS_NODES, GAUSS_WEIGHTS } from './gauss';
import { COURSE_NUMBERS, type Course } from './course';

/** A place on the ground, m. */
export interface CoursePoint {
  readonly x: number;
  readonly z: number;
}

/** Parts of a piece between two points in which its length is told exactly enough (about 1e-9 m). */
const PARTS = 16;
/** Newton's rounds from arc length to the curve's own parameter. */
const ROUNDS = 1;

/**
 * A smooth way through points: the cubic spline over the length of its chords, C2 in place, told by arc length. `leaves` and
 * `arrives` (rad about Y) are its headings at the ends; null leaves an end straight. Needs two points apart from each other.
 */
export function ropeCourse(points: readonly CoursePoint[], leaves: number | null = null, arrives: number | null = null): Course {
  const n = points.length;
  if (n < 2) throw new RangeError(`ropeCourse: needs two points, got ${n}`);
  const u = new Float64Array(n);
  for (let i = 1; i < n; i++) {
    const chord = Math.hypot(points[i]!.x - points[i - 1]!.x, points[i]!.z - points[i - 1]!.z);
    if (!(chord > 1e-6)) throw new RangeError(`ropeCourse: points ${i} and ${i + 1} lie on each other`);
    u[i] = u[i - 1]! + chord;
  }
  const x = Float64Array.from(points, (p) => p.x),
    z = Float64Array.from(points, (p) => p.z);
  const mx = splineMomentsClamped(u, x, leaves === null ? null : Math.sin(leaves), arrives === null ? null : Math.sin(arrives));
  const mz = splineMomentsClamped(u, z, leaves === null ? null : Math.cos(leaves), arrives === null ? null : Math.cos(arrives));
  const d = new Float64Array(6);
  /** Place, rate and second rate at parameter w of piece i, to d. */
  function read(i: number, w: number): void {
    const h = u[i + 1]! - u[i]!;
    const b = (w - u[i]!) / h,
      a = 1 - b;
    for (let axis = 0; axis < 2; axis++) {
      const v = axis === 0 ? x : z,
        m = axis === 0 ? mx : mz;
      d[axis] = a * v[i]! + b * v[i + 1]! + ((a * a * a - a) * m[i]! + (b * b * b - b) * m[i + 1]!) * ((h * h) / 6);
      d[2 + axis] = (v[i + 1]! - v[i]!) / h + ((1 - 3 * a * a) * m[i]! + (3 * b * b - 1) * m[i + 1]!) * (h / 6);
      d[4 + axis] = a * m[i]! + b * m[i + 1]!;
    }
  }
  function lengthOf(i: number, from: number, to: number): number {
    let sum = 0;
    for (let k = 0; k < GAUSS_NODES.length; k++) {
      read(i, from + ((to - from) * (GAUSS_NODES[k]! + 1)) / 2);
      sum += GAUSS_WEIGHTS[k]! * Math.sqrt(d[2]! * d[2]! + d[3]! * d[3]!);
    }
    return (sum * (to - from)) / 2;
  }
  // Arc length and unwrapped heading where each part begins.
  const count = (n - 1) * PARTS;
  const lengths = new Float64Array(count + 1),
    headings = new Float64Array(count + 1),
    rates = new Float64Array(count + 1);
  for (let k = 0; k <= count; k++) {
    const i = Math.min(n - 2, Math.floor(k / PARTS));
    const w = u[i]! + ((u[i + 1]! - u[i]!) * (k - i * PARTS)) / PARTS;
    read(i, w);
    const heading = Math.atan2(d[2]!, d[3]!);
    rates[k] = Math.sqrt(d[2]! * d[2]! + d[3]! * d[3]!);
    headings[k] = k === 0 ? heading : headings[k - 1]! + wrapAngle(heading - headings[k - 1]!);
    if (k > 0) {
      const j = Math.floor((k - 1) / PARTS);
      const h = (u[j + 1]! - u[j]!) / PARTS;
      const from = u[j]! + h * (k - 1 - j * PARTS);
      lengths[k] = lengths[k - 1]! + lengthOf(j, from, from + h);
    }
  }
  const total = lengths[count]!;
  return {
    length: total,
    turns: [],
    at(s, out, o) {
      const inside = Math.min(Math.max(s, 0), total);
      const k = Math.min(count - 1, seekIndex(lengths, count + 1, inside));
      const i = Math.floor(k / PARTS);
      const h = (u[i + 1]! - u[i]!) / PARTS;
      const from = u[i]! + h * (k - i * PARTS);
      // The parameter over the length, as a cubic through both ends of the part: Newton has next to nothing left to do.
      const long = lengths[k + 1]! - lengths[k]!;
      let w = cubicHermite(from, long / rates[k]!, from + h, long / rates[k + 1]!, (inside - lengths[k]!) / long);
      for (let r = 0; r < ROUNDS; r++) {
        const off = lengthOf(i, from, w) - (inside - lengths[k]!);
        read(i, w);
        w -= off / Math.sqrt(d[2]! * d[2]! + d[3]! * d[3]!);
      }
      read(i, w);
      const rate = Math.sqrt(d[2]! * d[2]! + d[3]! * d[3]!);
      const heading = Math.atan2(d[2]!, d[3]!);
      const over = s - inside;
      out[o] = d[0]! + (over * d[2]!) / rate;
      out[o + 1] = d[1]! + (over * d[3]!) / rate;
      out[o + 2] = headings[k]! + wrapAngle(heading - headings[k]!);
      out[o + COURSE_NUMBERS - 1] = over === 0 ? (d[4]! * d[3]! - d[5]! * d[2]!) / (rate * rate * rate) : 0;
    },
  };
}
