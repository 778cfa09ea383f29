import type { LegMeasures } from '../body/legs';
import { addRow, type Band } from '../math/band';
import { BASIS, BASIS_SIZE, basisAt, pieceAt, type SplineBasis } from '../math/spline-basis';
import { EDGE_STEP_S, type HipsSamples } from './hips-samples';

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
  /** Of the rate with which a knee lands, and of one that leaves too fast, rad/s. */
  landing: 0.8,
  leaving: 2.2,
  /** Of a bend straighter than allowed, rad: next to hard. */
  straight: 0.005,
  /** Of a bend nearer to straight than NEAR_RAD, rad: leads away from a leg that stays locked. */
  near: 0.06,
  /** Of acceleration past what gravity or the legs give, m/s². */
  limit: 0.4,
  /** Of the floor, m. */
  floor: 0.004,
  /** Of the rate (m/s) at an end that stands still. */
  still: 0.002,
  /** Of the way (m) a thrown body's acceleration makes in the square of a piece's length: an equality, as even for short pieces as for long ones. */
  thrown: 5e-7,
} as const;
/** A knee that lands gives way at about this rate, rad/s. */
const LANDING_RATE = 1;
/** A knee that leaves hardly straightens faster than this, rad/s. */
const LEAVING_RATE = -4;
/** Bend (rad) at landing over the straightest one. */
const LANDING_ROOM_RAD = 0.05;
/** Bend (rad) over the straightest one at which the barrier begins. */
const SOFT_RAD = 0.02;
/** Bend (rad) over the straightest one below which a knee is led away from straight. */
const NEAR_RAD = 0.1;
/** A leg closer to straight than this part of the straightest bend is taken on by its tangent. */
const TANGENT_SHARE = 0.6;
/** Acceleration (parts of g) below which nothing but a flight goes, and above which no wish goes (m/s², or that factor of its own). */
const LEAST_G = -0.85;
const MOST_UP = 13;
const MOST_UP_SHARE = 1.2;
/** Unknowns that meet in one row reach at most so far apart; rows that would reach further are left out. */
export const BAND = 9;

/** Bend (rad) of a leg and its derivative by the hips' height, to out[0], out[1]. Past `tangentAt` (rad) the bend goes on along its tangent. */
function bendAt({ thigh, shank }: LegMeasures, geometry: Float64Array, out: Float64Array): void {
  const square = geometry[0]!,
    rise = geometry[1]!,
    tangentAt = geometry[2]!;
  const up = rise > LEAST_RISE_M ? rise : LEAST_RISE_M;
  const span = Math.sqrt(square + up * up);
  const product = thigh * shank,
    sum = thigh * thigh + shank * shank;
  const limit = Math.sqrt(sum + 2 * product * Math.cos(tangentAt));
  const s = span < limit ? span : limit;
  const cos = Math.max(-1, (s * s - sum) / (2 * product));
  const sin = Math.max(1e-3, Math.sqrt(Math.max(0, 1 - cos * cos)));
  const bySpan = -s / (product * sin);
  out[0] = Math.acos(cos) + bySpan * (span - s);
  out[1] = rise > LEAST_RISE_M ? (bySpan * up) / span : 0;
}
/** A hip this close (m) over its ankle lies on the ground: lower it makes no difference. */
const LEAST_RISE_M = 0.02;

/** A search under way; doubles live in arrays. */
export interface Fit {
  readonly basis: SplineBasis;
  readonly samples: HipsSamples;
  readonly legs: readonly [LegMeasures, LegMeasures];
  /** Piece and weights of every sample, then of every edge. */
  readonly pieces: Int32Array;
  readonly weights: Float64Array;
  readonly flying: Uint8Array;
  /** Accelerations of the wish, m/s². */
  readonly wished: Float64Array;
  /** Least and largest acceleration that is not held back, m/s². */
  readonly limits: Float64Array;
  /** Last looked at: heights and accelerations of samples, heights and rates of edges. */
  readonly heights: Float64Array;
  readonly pushes: Float64Array;
  /** Per side: bends and their derivatives; then two bends and derivatives an edge. */
  readonly bends: readonly [Float64Array, Float64Array];
  readonly slopes: readonly [Float64Array, Float64Array];
  readonly edges: Float64Array;
  readonly row: Float64Array;
}

/** Sum of the four weights at w times the coefficients of a piece. */
function read(basis: SplineBasis, c: Float64Array, piece: number, weights: Float64Array, w: number): number {
  const n = basis.unknowns;
  let k = piece,
    sum = 0;
  for (let i = 0; i < 4; i++, k++) {
    if (k >= n) k -= n;
    sum += weights[w + i]! * c[k]!;
  }
  return sum;
}

export function prepare(basis: SplineBasis, samples: HipsSamples, legs: readonly [LegMeasures, LegMeasures]): Fit {
  const { count, step, start, wish, edges, gravity } = samples;
  const all = count + edges.length;
  const pieces = new Int32Array(all);
  const weights = new Float64Array(all * BASIS_SIZE);
  const flying = new Uint8Array(count);
  for (let i = 0; i < all; i++) {
    const t = i < count ? start + i * step : edges[i - count]!.time;
    pieces[i] = pieceAt(basis, t);
    basisAt(basis, pieces[i]!, t, weights, i * BASIS_SIZE);
    if (i < count && samples.flights.some((f) => t > f.from && t < f.to)) flying[i] = 1;
  }
  const wished = new Float64Array(count);
  let most = 0;
  for (let i = 0; i < count; i++) {
    const [a, b] = [before(basis, i, count), after(basis, i, count)];
    if (a < 0 || b < 0) continue;
    wished[i] = (wish[b]! - 2 * wish[i]! + wish[a]!) / (step * step);
    if (flying[i] === 0 && wished[i]! > most) most = wished[i]!;
  }
  return {
    basis,
    samples,
    legs,
    pieces,
    weights,
    flying,
    wished,
    limits: Float64Array.of(LEAST_G * gravity, Math.max(MOST_UP, most * MOST_UP_SHARE)),
    heights: new Float64Array(count),
    pushes: new Float64Array(count),
    bends: [new Float64Array(count), new Float64Array(count)],
    slopes: [new Float64Array(count), new Float64Array(count)],
    edges: new Float64Array(edges.length * 4),
    row: new Float64Array(24),
  };
}

/** Neighbours of a sample; −1 where there is none. */
const before = ({ ring }: SplineBasis, i: number, count: number): number => (i > 0 ? i - 1 : ring ? count - 1 : -1);
const after = ({ ring }: SplineBasis, i: number, count: number): number => (i + 1 < count ? i + 1 : ring ? 0 : -1);

/** The leg that goes on as `side` does where a ring closes between the two samples. */
const beside = ({ swaps }: HipsSamples, side: number, closes: boolean): number => (swaps && closes ? 1 - side : side);

/** Writes scale × four weights of a sample into the row, `shift` unknowns on. */
function put(fit: Fit, w: number, scale: number, shift = 0): void {
  for (let k = 0; k < 4; k++) fit.row[shift + k] = fit.row[shift + k]! + scale * fit.weights[w + k]!;
}

/** Rows that do not change: the wish, its acceleration, flights, ends that stand. */
export function steadyRows(fit: Fit, band: Band): void {
  const { basis, samples, pieces, flying, wished, row } = fit;
  for (let i = 0; i < samples.count; i++) {
    const w = i * BASIS_SIZE;
    put(fit, w + BASIS.value, 1 / SIGMA.wish);
    addRow(band, pieces[i]!, 4, row, -samples.wish[i]! / SIGMA.wish);
    if (flying[i] === 1) continue;
    put(fit, w + BASIS.second, 1 / SIGMA.acceleration);
    addRow(band, pieces[i]!, 4, row, -wished[i]! / SIGMA.acceleration);
  }
  const at = new Float64Array(BASIS_SIZE);
  const single = (piece: number, t: number, of: number, sigma: number, residual: number) => {
    basisAt(basis, piece, t, at, 0);
    for (let k = 0; k < 4; k++) row[k] = at[of + k]! / sigma;
    addRow(band, piece, 4, row, residual / sigma);
  };
  for (const { from, to, pushes } of samples.flights) {
    const last = pushes.length - 1,
      long = (to - from) / last;
    const first = pieceAt(basis, from + long / 2);
    for (let j = 0; j <= last; j++) {
      const piece = (first + Math.min(j, last - 1)) % basis.pieces;
      single(piece, from + j * long, BASIS.second, SIGMA.thrown / (long * long), -pushes[j]!);
    }
  }
  for (const end of [0, 1] as const) if (samples.still[end]) single(end * (basis.pieces - 1), basis.breaks[end * basis.pieces]!, BASIS.rate, SIGMA.still, 0);
  // Outermost pieces in which no sample lies go on as their neighbours do.
  if (basis.ring) return;
  const n = basis.unknowns;
  const bare = (i: number) => band.data[i * band.width] === 0;
  const smooth = (first: number) => {
    row.set([1, -3, 3, -1]);
    addRow(band, first, 4, row, 0);
  };
  let [left, right] = [0, n - 1];
  while (left < n - 4 && bare(left)) left++;
  while (right > 3 && bare(right)) right--;
  for (let i = 0; i < left; i++) smooth(i);
  for (let i = n - 1; i > right; i--) smooth(i - 3);
}

/** Looks at what coefficients make: heights, accelerations, bends; returns the cost. */
export const look = (fit: Fit, c: Float64Array): number => sampleCosts(fit, c) + kneeCosts(fit) + edgeCosts(fit, c);

/** What samples cost: wish, floor, acceleration, straight knees. */
function sampleCosts(fit: Fit, c: Float64Array): number {
  const { basis, samples, legs, pieces, weights, flying, wished, limits, heights, pushes, bends, slopes } = fit;
  const geometry = new Float64Array(3),
    out = new Float64Array(2);
  let cost = 0;
  for (let i = 0; i < samples.count; i++) {
    const w = i * BASIS_SIZE;
    const y = read(basis, c, pieces[i]!, weights, w);
    heights[i] = y;
    const off = (y - samples.wish[i]!) / SIGMA.wish;
    cost += off * off;
    const low = (y - samples.floor) / SIGMA.floor;
    if (low < 0) cost += low * low;
    if (flying[i] === 0) {
      const a = read(basis, c, pieces[i]!, weights, w + BASIS.second);
      pushes[i] = a;
      const push = (a - wished[i]!) / SIGMA.acceleration;
      const past = (a < limits[0]! ? a - limits[0]! : a > limits[1]! ? a - limits[1]! : 0) / SIGMA.limit;
      cost += push * push + past * past;
    }
    geometry[2] = samples.straightest[i]! * TANGENT_SHARE;
    for (let side = 0; side < 2; side++) {
      const counts = samples.weight[side]![i]!;
      if (counts === 0) continue;
      geometry[0] = samples.square[side]![i]!;
      geometry[1] = y - samples.base[side]![i]!;
      bendAt(legs[side]!, geometry, out);
      bends[side]![i] = out[0]!;
      slopes[side]![i] = out[1]!;
      const short = out[0]! - samples.straightest[i]!;
      const hard = (counts * Math.min(0, short - SOFT_RAD)) / SIGMA.straight,
        near = (counts * Math.min(0, short - NEAR_RAD)) / SIGMA.near;
      cost += hard * hard + near * near;
    }
  }
  return cost;
}

/** What standing knees cost that are turned hard. */
function kneeCosts({ basis, samples, bends }: Fit): number {
  const { count, step } = samples;
  let cost = 0;
  const k = 1 / (step * step * SIGMA.knee);
  for (let i = 0; i < count; i++) {
    const a = before(basis, i, count),
      b = after(basis, i, count);
    if (a < 0 || b < 0) continue;
    for (let side = 0; side < 2; side++) {
      const [early, late] = [beside(samples, side, a > i), beside(samples, side, b < i)];
      const counts = Math.min(samples.weight[early]![a]!, samples.weight[late]![b]!);
      if (counts === 0 || samples.weight[side]![i] === 0) continue;
      const turn = counts * k * (bends[early]![a]! - 2 * bends[side]![i]! + bends[late]![b]!);
      cost += turn * turn;
    }
  }
  return cost;
}

/** What edges cost: a knee too straight there, or with another rate than it should have. */
function edgeCosts(fit: Fit, c: Float64Array): number {
  const { basis, samples, legs, pieces, weights } = fit;
  const geometry = new Float64Array(3),
    out = new Float64Array(2);
  let cost = 0;
  for (let e = 0; e < samples.edges.length; e++) {
    const { side, landing, square, base, straightest } = samples.edges[e]!;
    const i = samples.count + e;
    const y = read(basis, c, pieces[i]!, weights, i * BASIS_SIZE);
    const rate = read(basis, c, pieces[i]!, weights, i * BASIS_SIZE + BASIS.rate);
    geometry[0] = square[0];
    geometry[1] = y - base[0];
    geometry[2] = straightest * TANGENT_SHARE;
    bendAt(legs[side]!, geometry, out);
    fit.edges[4 * e] = out[0]!;
    fit.edges[4 * e + 1] = out[1]!;
    const short = Math.min(0, out[0]! - straightest - (landing ? LANDING_ROOM_RAD : SOFT_RAD)) / SIGMA.straight;
    cost += short * short;
    geometry[0] = square[1];
    geometry[1] = y + rate * (landing ? EDGE_STEP_S : -EDGE_STEP_S) - base[1];
    bendAt(legs[side]!, geometry, out);
    fit.edges[4 * e + 2] = out[0]!;
    fit.edges[4 * e + 3] = out[1]!;
    const off = edgeRate(fit, e, landing);
    cost += off * off;
  }
  return cost;
}

/** How far the rate of a knee at an edge is from what it should be there: it lands giving way, and leaves at least not straightening. */
function edgeRate({ edges }: Fit, e: number, landing: boolean): number {
  const turned = (edges[4 * e + 2]! - edges[4 * e]!) / EDGE_STEP_S;
  return landing ? (turned - LANDING_RATE) / SIGMA.landing : Math.min(0, -turned - LEAVING_RATE) / SIGMA.leaving;
}

/** Adds the rows that depend on where the legs are, as last looked at. */
export function movingRows(fit: Fit, band: Band): void {
  sampleRows(fit, band);
  edgeRows(fit, band);
}

/** Rows of floor, limits, and standing knees. */
function sampleRows(fit: Fit, band: Band): void {
  const { basis, samples, pieces, flying, limits, heights, pushes, bends, slopes, row } = fit;
  const { count, step } = samples;
  const k = 1 / (step * step * SIGMA.knee);
  for (let i = 0; i < count; i++) {
    const w = i * BASIS_SIZE,
      piece = pieces[i]!;
    if (heights[i]! < samples.floor) {
      put(fit, w, 1 / SIGMA.floor);
      addRow(band, piece, 4, row, (heights[i]! - samples.floor) / SIGMA.floor);
    }
    if (flying[i] === 0 && (pushes[i]! < limits[0]! || pushes[i]! > limits[1]!)) {
      put(fit, w + BASIS.second, 1 / SIGMA.limit);
      addRow(band, piece, 4, row, (pushes[i]! - (pushes[i]! < limits[0]! ? limits[0]! : limits[1]!)) / SIGMA.limit);
    }
    const a = before(basis, i, count),
      b = after(basis, i, count);
    for (let side = 0; side < 2; side++) {
      const counts = samples.weight[side]![i]!;
      if (counts === 0) continue;
      const slope = slopes[side]!,
        bend = bends[side]!;
      const short = bend[i]! - samples.straightest[i]!;
      if (short < SOFT_RAD) {
        put(fit, w, (counts * slope[i]!) / SIGMA.straight);
        addRow(band, piece, 4, row, (counts * (short - SOFT_RAD)) / SIGMA.straight);
      }
      if (short < NEAR_RAD) {
        put(fit, w, (counts * slope[i]!) / SIGMA.near);
        addRow(band, piece, 4, row, (counts * (short - NEAR_RAD)) / SIGMA.near);
      }
      if (a < 0 || b < 0) continue;
      const [early, late] = [beside(samples, side, a > i), beside(samples, side, b < i)];
      const weight = k * Math.min(samples.weight[early]![a]!, samples.weight[late]![b]!);
      if (weight === 0) continue;
      const from = pieces[a]!;
      let middle = piece - from,
        last = pieces[b]! - from;
      if (middle < 0) middle += basis.pieces;
      if (last < 0) last += basis.pieces;
      if (last + 4 > BAND) continue;
      put(fit, a * BASIS_SIZE, weight * slopes[early]![a]!);
      put(fit, w, -2 * weight * slope[i]!, middle);
      put(fit, b * BASIS_SIZE, weight * slopes[late]![b]!, last);
      addRow(band, from, last + 4, row, weight * (bends[early]![a]! - 2 * bend[i]! + bends[late]![b]!));
    }
  }
}

/** Rows of the stances' ends. */
function edgeRows(fit: Fit, band: Band): void {
  const { samples, pieces, row } = fit;
  for (let e = 0; e < samples.edges.length; e++) {
    const { landing, straightest } = samples.edges[e]!;
    const i = samples.count + e,
      w = i * BASIS_SIZE;
    const found = fit.edges;
    const short = found[4 * e]! - straightest - (landing ? LANDING_ROOM_RAD : SOFT_RAD);
    if (short < 0) {
      put(fit, w, found[4 * e + 1]! / SIGMA.straight);
      addRow(band, pieces[i]!, 4, row, short / SIGMA.straight);
    }
    const off = edgeRate(fit, e, landing);
    if (off === 0) continue;
    const step = landing ? EDGE_STEP_S : -EDGE_STEP_S;
    const by = 1 / (step * (landing ? SIGMA.landing : SIGMA.leaving));
    put(fit, w, by * (found[4 * e + 3]! - found[4 * e + 1]!));
    put(fit, w + BASIS.rate, by * found[4 * e + 3]! * step);
    addRow(band, pieces[i]!, 4, row, off);
  }
}
