import type { LegMeasures } from '../body/legs';
import { acosClamped } from '../math/scalar';
import { createProfile, solveProfile } from '../math/profile';
import { BASIS, BASIS_SIZE, basisAt, pieceAt, unknownOf, type SplineBasis } from '../math/spline-basis';

/**
 * What the height of the hips is found from: even samples over a span of time. Heights in m against one level.
 */
export interface HipsSamples {
  /** Time of the first sample and step between samples, s; in a ring the samples close after `count` steps. */
  readonly start: number;
  readonly step: number;
  readonly count: number;
  /** Styled wish, m. */
  readonly wish: Float64Array;
  /** Least bend (rad) the style allows. */
  readonly straightest: Float64Array;
  /** Per side: squared horizontal distance (m²) from ankle to hip joint, and height of the hips at which the two are level; NaN while the foot does not stand. */
  readonly square: readonly [Float64Array, Float64Array];
  readonly base: readonly [Float64Array, Float64Array];
  /** Moments right at landings, in threes `EDGE_STEP_S` apart: piece of time, and the same geometry. */
  readonly landings: readonly Landing[];
  /** Flights, s; their ends are breaks of the basis. */
  readonly flights: readonly { readonly from: number; readonly to: number }[];
  readonly gravity: number;
  /** Whether the figure stands still at the first and at the last break. */
  readonly still: readonly [boolean, boolean];
  /** Lowest height worth going down to, m. */
  readonly floor: number;
}

/** A foot's landing: the first moments of its stance. */
export interface Landing {
  readonly side: 0 | 1;
  readonly time: number;
  readonly square: readonly [number, number];
  readonly base: readonly [number, number];
  readonly straightest: number;
}

/** Time (s) between the two moments of a landing. */
export const EDGE_STEP_S = 2e-3;

/**
 * What each wish weighs, as the deviation that counts 1; each with its reason. Samples are weighted as if there were
 * NOMINAL of them in a stride.
 */
const SIGMA = {
  /** Of the styled height, m. */
  wish: 0.02,
  /** Of acceleration against the wish's own, m/s²: what an eye takes for a jolt. */
  acceleration: 6,
  /** Of a standing knee's angular acceleration, rad/s². */
  knee: 60,
  /** Of the rate with which a knee lands, rad/s. */
  landingRate: 0.8,
  /** Of a bend straighter than allowed, rad: next to hard. */
  straight: 0.004,
  /** Of acceleration past what gravity or the legs give, m/s². */
  limit: 0.4,
  /** Of the floor, m. */
  floor: 0.004,
  /** Of the rate (m/s) at an end that stands still. */
  still: 0.002,
  /** Of a thrown body's acceleration: an equality. */
  thrown: 1e-4,
} as const;
/** A knee that lands gives way at about this rate, rad/s. */
const LANDING_RATE = 1;
/** Bend (rad) at landing over the straightest one. */
const LANDING_ROOM_RAD = 0.05;
/** Bend (rad) over the straightest one at which the barrier begins. */
const SOFT_RAD = 0.02;
/** A leg closer to straight than this part of the straightest bend is taken on by its tangent. */
const TANGENT_SHARE = 0.6;
/** Acceleration (parts of g) below which nothing but a flight goes, and above which no wish goes (m/s², or that factor of its own). */
const LEAST_G = -0.85;
const MOST_UP = 13;
const MOST_UP_SHARE = 1.2;
const ROUNDS = 14;
/** The search ends where no coefficient moves further than this, m. */
const SETTLED_M = 2e-6;
/** Unknowns that meet in one row reach at most so far apart. */
const BAND = 9;

/** Bend (rad) and its first derivative by height of a leg: two numbers to out. Past straight the bend goes on along its tangent. */
function bendAt({ thigh, shank }: LegMeasures, square: number, rise: number, tangentAt: number, out: Float64Array): void {
  const least = 0.02;
  const up = Math.max(least, rise);
  const span = Math.sqrt(square + up * up);
  const product = thigh * shank;
  const limit = Math.sqrt(thigh * thigh + shank * shank + 2 * product * Math.cos(tangentAt));
  const s = Math.min(span, limit);
  const bend = Math.PI - acosClamped((thigh * thigh + shank * shank - s * s) / (2 * product));
  const bySpan = -s / (product * Math.max(1e-3, Math.sin(bend)));
  out[0] = bend + bySpan * (span - s);
  out[1] = rise > least ? (bySpan * up) / span : 0;
}

/** Fits the height: coefficients of the basis. */
export function fitHips(basis: SplineBasis, samples: HipsSamples, legs: readonly [LegMeasures, LegMeasures]): Float64Array {
  const { count, step, start, wish } = samples;
  const { ring, unknowns } = basis;

  const weights = new Float64Array(count * BASIS_SIZE);
  const pieces = new Int32Array(count);
  const flying = new Uint8Array(count);
  for (let i = 0; i < count; i++) {
    const t = start + i * step;
    pieces[i] = pieceAt(basis, t);
    basisAt(basis, pieces[i]!, t, weights, i * BASIS_SIZE);
    for (const f of samples.flights) if (t > f.from && t < f.to) flying[i] = 1;
  }
  const next = (i: number, by: number) => (ring ? (i + by + count) % count : i + by);
  const inside = (i: number) => ring || (i > 0 && i < count - 1);
  const fixed = createProfile(unknowns, BAND, ring);
  const fixedRight = new Float64Array(unknowns);
  const matrix = { ...fixed, data: new Float64Array(fixed.data.length) };
  const right = new Float64Array(unknowns);
  // A row under way: unknowns and their weights.
  const columns = new Int32Array(16);
  const values = new Float64Array(16);
  let filled = 0;
  const put = (piece: number, w: Float64Array, at: number, scale: number) => {
    for (let k = 0; k < 4; k++) {
      const c = unknownOf(basis, piece, k);
      let slot = 0;
      while (slot < filled && columns[slot] !== c) slot++;
      if (slot === filled) {
        columns[filled] = c;
        values[filled++] = 0;
      }
      values[slot] = values[slot]! + scale * w[at + k]!;
    }
  };
  const close = (m: typeof fixed, r: Float64Array, residual: number) => {
    for (let a = 0; a < filled; a++) {
      const i = columns[a]!;
      r[i] = r[i]! - values[a]! * residual;
      for (let b = 0; b < filled; b++) {
        const j = columns[b]!;
        if (j > i) continue;
        if (j < m.first[i]!) continue;
        m.data[m.diagonal[i]! - i + j] = m.data[m.diagonal[i]! - i + j]! + values[a]! * values[b]!;
      }
    }
    filled = 0;
  };
  const edge = new Float64Array(BASIS_SIZE);
  const coefficients = new Float64Array(unknowns);
  const valueOf = (c: Float64Array, piece: number, w: Float64Array, at: number) => {
    let s = 0;
    for (let k = 0; k < 4; k++) s += w[at + k]! * c[unknownOf(basis, piece, k)]!;
    return s;
  };

  // Linear rows: the wish, its acceleration, flights. Their matrix stays.
  const accelerations = new Float64Array(count);
  for (let i = 0; i < count; i++)
    if (inside(i)) accelerations[i] = (wish[next(i, 1)]! - 2 * wish[i]! + wish[next(i, -1)]!) / (step * step);
  let mostUp = 0;
  for (let i = 0; i < count; i++) if (!flying[i]) mostUp = Math.max(mostUp, accelerations[i]!);
  const ceiling = Math.max(MOST_UP, mostUp * MOST_UP_SHARE),
    least = LEAST_G * samples.gravity;
  for (let i = 0; i < count; i++) {
    const o = i * BASIS_SIZE;
    put(pieces[i]!, weights, o + BASIS.value, 1 / SIGMA.wish);
    close(fixed, fixedRight, -wish[i]! / SIGMA.wish);
    if (flying[i]) continue;
    put(pieces[i]!, weights, o + BASIS.second, 1 / SIGMA.acceleration);
    close(fixed, fixedRight, -accelerations[i]! / SIGMA.acceleration);
  }
  for (const { from, to } of samples.flights)
    for (const t of [from, to]) {
      const piece = pieceAt(basis, (from + to) / 2);
      if (piece < 0) continue;
      basisAt(basis, piece, t, edge, 0);
      put(piece, edge, BASIS.second, 1 / SIGMA.thrown);
      close(fixed, fixedRight, samples.gravity / SIGMA.thrown);
    }
  for (const end of [0, 1] as const) {
    if (!samples.still[end]) continue;
    basisAt(basis, end * (basis.pieces - 1), basis.breaks[end * basis.pieces]!, edge, 0);
    put(end * (basis.pieces - 1), edge, BASIS.rate, 1 / SIGMA.still);
    close(fixed, fixedRight, 0);
  }

  const bends = [new Float64Array(count), new Float64Array(count)] as const,
    slopes = [new Float64Array(count), new Float64Array(count)] as const;
  const two = new Float64Array(2),
    twoMore = new Float64Array(2);
  const tangents = Float64Array.from(samples.straightest, (s) => s * TANGENT_SHARE);

  /** Rows that depend on where the legs are; returns the cost of all rows, and fills the system if asked. */
  const look = (c: Float64Array, fill: boolean): number => {
    let cost = 0;
    const row = (residual: number) => {
      cost += residual * residual;
      if (fill) close(matrix, right, residual);
      else filled = 0;
    };
    for (let side = 0; side < 2; side++)
      for (let i = 0; i < count; i++) {
        const square = samples.square[side]![i]!;
        if (!(square >= 0)) {
          bends[side]![i] = NaN;
          continue;
        }
        bendAt(legs[side]!, square, valueOf(c, pieces[i]!, weights, i * BASIS_SIZE) - samples.base[side]![i]!, tangents[i]!, two);
        bends[side]![i] = two[0]!;
        slopes[side]![i] = two[1]!;
      }
    for (let i = 0; i < count; i++) {
      const o = i * BASIS_SIZE,
        piece = pieces[i]!;
      const y = valueOf(c, piece, weights, o);
      const wished = (y - wish[i]!) / SIGMA.wish;
      cost += wished * wished;
      if (!flying[i]) {
        const a = valueOf(c, piece, weights, o + BASIS.second);
        const off = (a - accelerations[i]!) / SIGMA.acceleration;
        cost += off * off;
        const past = a < least ? a - least : a > ceiling ? a - ceiling : 0;
        if (past !== 0) {
          put(piece, weights, o + BASIS.second, 1 / SIGMA.limit);
          row(past / SIGMA.limit);
        }
      }
      if (y < samples.floor) {
        put(piece, weights, o, 1 / SIGMA.floor);
        row((y - samples.floor) / SIGMA.floor);
      }
      for (let side = 0; side < 2; side++) {
        const bend = bends[side]![i]!;
        if (!(bend === bend)) continue;
        const short = bend - samples.straightest[i]! - SOFT_RAD;
        if (short < 0) {
          put(piece, weights, o, slopes[side]![i]! / SIGMA.straight);
          row(short / SIGMA.straight);
        }
        const before = bends[side]![next(i, -1)],
          after = bends[side]![next(i, 1)];
        if (!inside(i) || !(before! + after! === before! + after!)) continue;
        const k = 1 / (step * step * SIGMA.knee);
        for (const [j, by] of [
          [next(i, -1), k],
          [i, -2 * k],
          [next(i, 1), k],
        ] as const)
          put(pieces[j]!, weights, j * BASIS_SIZE, by * slopes[side]![j]!);
        row((before! - 2 * bend + after!) * k);
      }
    }
    for (const { side, time, square, base, straightest } of samples.landings) {
      const leg = legs[side]!;
      const piece = pieceAt(basis, time);
      basisAt(basis, piece, time, edge, 0);
      const tangent = straightest * TANGENT_SHARE;
      const y = valueOf(c, piece, edge, 0);
      bendAt(leg, square[0], y - base[0], tangent, two);
      const short = two[0]! - straightest - LANDING_ROOM_RAD;
      if (short < 0) {
        put(piece, edge, 0, two[1]! / SIGMA.straight);
        row(short / SIGMA.straight);
      }
      const rate = valueOf(c, piece, edge, BASIS.rate);
      bendAt(leg, square[1], y + rate * EDGE_STEP_S - base[1], tangent, twoMore);
      const k = 1 / (EDGE_STEP_S * SIGMA.landingRate);
      put(piece, edge, 0, k * (twoMore[1]! - two[1]!));
      put(piece, edge, BASIS.rate, k * twoMore[1]! * EDGE_STEP_S);
      row((twoMore[0]! - two[0]!) * k - LANDING_RATE / SIGMA.landingRate);
    }
    return cost;
  };

  // The wish alone to begin with.
  const system = { ...fixed, data: Float64Array.from(fixed.data) };
  coefficients.set(fixedRight);
  solveProfile(system, coefficients);
  let cost = look(coefficients, false);
  const tried = new Float64Array(unknowns);
  for (let round = 0; round < ROUNDS; round++) {
    matrix.data.set(fixed.data);
    right.fill(0);
    look(coefficients, true);
    // Fixed rows hold for coefficients from zero: their right-hand side less what the present ones make.
    addProduct(fixed, coefficients, right, fixedRight);
    solveProfile(matrix, right);
    let share = 1,
      moved = 0;
    for (;;) {
      moved = 0;
      for (let k = 0; k < unknowns; k++) {
        tried[k] = coefficients[k]! + share * right[k]!;
        moved = Math.max(moved, Math.abs(share * right[k]!));
      }
      const now = look(tried, false);
      if (now <= cost || share < 0.01) {
        cost = now;
        break;
      }
      share /= 2.5;
    }
    coefficients.set(tried);
    if (moved < SETTLED_M) break;
  }
  return coefficients;
}

/** right += given − matrix · x. */
function addProduct({ first, diagonal, data }: ReturnType<typeof createProfile>, x: Float64Array, right: Float64Array, given: Float64Array): void {
  for (let i = 0; i < x.length; i++) {
    const row = diagonal[i]! - i;
    right[i] = right[i]! + given[i]! - data[row + i]! * x[i]!;
    for (let j = first[i]!; j < i; j++) {
      right[i] = right[i]! - data[row + j]! * x[j]!;
      right[j] = right[j]! - data[row + j]! * x[i]!;
    }
  }
}
