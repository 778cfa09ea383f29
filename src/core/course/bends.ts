import { seekIndex } from '../math/seek';
import { COURSE_NUMBERS, type Course } from './course';
import { GAUSS_NODES, GAUSS_WEIGHTS } from './gauss';

/** A straight (curvature 0) or circular piece of a course: length in m, curvature in rad/m, left positive. */
export interface CoursePiece {
  readonly length: number;
  readonly curvature: number;
}

/** Most turning (rad) integrated in one go: keeps places exact to about 1e-12 m. */
const MOST_TURN_RAD = 0.2;

/** Curvature never jumps: it ramps over this (m) at least to either side. */
const LEAST_RAMP_M = 1e-6;

/** One stretch: start s, x, z, heading, curvature and its growth per metre. */
const FIELDS = 6;

/**
 * A course of straight and circular pieces from the origin towards +Z. Where the curvature changes it ramps evenly over
 * `ramp` metres, half of them on either side, so that heading and curvature are continuous (C2 in place).
 */
export function bendCourse(pieces: readonly CoursePiece[], ramp: number): Course {
  const total = pieces.reduce((sum, p) => sum + p.length, 0);
  if (pieces.length === 0 || pieces.some((p) => !(p.length > 0 && Number.isFinite(p.curvature))))
    throw new RangeError('bendCourse: every piece needs a length above 0 and a finite curvature');
  const table = Float64Array.from(stretches(curvatureKnots(pieces, ramp)));
  const count = table.length / FIELDS;
  const way = [0, 0];
  return {
    length: total,
    turns: [],
    at(s, out, o) {
      const r = (s <= 0 ? 0 : seekIndex(table, count, s, FIELDS)) * FIELDS;
      const along = s - table[r]!;
      // Before the start as behind the end the way is straight.
      const curvature = s < 0 ? 0 : table[r + 4]!,
        growth = s < 0 ? 0 : table[r + 5]!;
      integrate(table[r + 3]!, curvature, growth, along, way);
      out[o] = table[r + 1]! + way[0]!;
      out[o + 1] = table[r + 2]! + way[1]!;
      out[o + 2] = table[r + 3]! + along * (curvature + (growth * along) / 2);
      out[o + COURSE_NUMBERS - 1] = curvature + growth * along;
    },
  };
}

interface CurvatureKnot {
  readonly s: number;
  readonly curvature: number;
}

/** Curvature over s as straight lines between knots. */
function curvatureKnots(pieces: readonly CoursePiece[], ramp: number): CurvatureKnot[] {
  const knots: CurvatureKnot[] = [{ s: 0, curvature: pieces[0]!.curvature }];
  let s = 0;
  pieces.forEach((piece, i) => {
    const next = pieces[i + 1];
    s += piece.length;
    if (!next) knots.push({ s, curvature: piece.curvature });
    else if (next.curvature !== piece.curvature) {
      const half = Math.max(LEAST_RAMP_M, Math.min(ramp, piece.length, next.length) / 2);
      knots.push({ s: s - half, curvature: piece.curvature }, { s: s + half, curvature: next.curvature });
    }
  });
  return knots.filter((k, i) => i === 0 || k.s > knots[i - 1]!.s);
}

/** Rows of FIELDS numbers: each stretch short enough to be integrated in one go, and a straight one behind the last. */
function stretches(knots: readonly CurvatureKnot[]): number[] {
  const rows: number[] = [];
  const way = [0, 0];
  let [x, z, heading] = [0, 0, 0];
  for (let i = 0; i + 1 < knots.length; i++) {
    const a = knots[i]!,
      b = knots[i + 1]!;
    const growth = (b.curvature - a.curvature) / (b.s - a.s);
    const turning = Math.max(Math.abs(a.curvature), Math.abs(b.curvature)) * (b.s - a.s);
    const parts = Math.max(1, Math.ceil(turning / MOST_TURN_RAD));
    const length = (b.s - a.s) / parts;
    for (let k = 0; k < parts; k++) {
      const curvature = a.curvature + growth * length * k;
      rows.push(a.s + length * k, x, z, heading, curvature, growth);
      integrate(heading, curvature, growth, length, way);
      x += way[0]!;
      z += way[1]!;
      heading += length * (curvature + (growth * length) / 2);
    }
  }
  return [...rows, knots[knots.length - 1]!.s, x, z, heading, 0, 0];
}

/** Way (x, z) of a stretch of growing curvature: ∫ (sin, cos) of its heading. */
function integrate(heading: number, curvature: number, growth: number, length: number, out: number[]): void {
  let x = 0,
    z = 0;
  for (let i = 0; i < GAUSS_NODES.length; i++) {
    const u = (length * (GAUSS_NODES[i]! + 1)) / 2;
    const h = heading + u * (curvature + (growth * u) / 2);
    x += GAUSS_WEIGHTS[i]! * Math.sin(h);
    z += GAUSS_WEIGHTS[i]! * Math.cos(h);
  }
  out[0] = (x * length) / 2;
  out[1] = (z * length) / 2;
}
