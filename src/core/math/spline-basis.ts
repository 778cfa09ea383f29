import { seekIndex } from './seek';

/**
 * Cubic splines with continuous second derivative over given breaks, as weights of coefficients. A ring closes after
 * `period`; an open one goes on beyond its ends as evenly as it ends.
 */
export interface SplineBasis {
  /** Ascending; a ring's last one is its first one, a period on. */
  readonly breaks: Float64Array;
  readonly pieces: number;
  readonly ring: boolean;
  readonly unknowns: number;
}

/** Numbers `basisAt` writes: four weights of value, rate and acceleration each. */
export const BASIS = { value: 0, rate: 4, second: 8 } as const;
export const BASIS_SIZE = 12;

export function createBasis(breaks: Float64Array, ring: boolean): SplineBasis {
  const pieces = breaks.length - 1;
  if (pieces < 4) throw new RangeError(`createBasis: needs at least four pieces, got ${pieces}`);
  return { breaks, pieces, ring, unknowns: ring ? pieces : pieces + 3 };
}

/** The coefficient that weight k of a piece belongs to. */
export const unknownOf = ({ ring, pieces }: SplineBasis, piece: number, k: number): number => (ring ? (piece + k) % pieces : piece + k);

export const pieceAt = ({ breaks, pieces }: SplineBasis, t: number): number => seekIndex(breaks, pieces, t);

function knot({ breaks, pieces, ring }: SplineBasis, i: number): number {
  if (i >= 0 && i <= pieces) return breaks[i]!;
  if (ring) {
    const round = Math.floor(i / pieces);
    return breaks[i - round * pieces]! + round * (breaks[pieces]! - breaks[0]!);
  }
  return i < 0 ? breaks[0]! + i * (breaks[1]! - breaks[0]!) : breaks[pieces]! + (i - pieces) * (breaks[pieces]! - breaks[pieces - 1]!);
}

/** Weights at time t of a piece (at its ends, too) to out[o .. o + BASIS_SIZE). Source: Cox and de Boor 1972. */
export function basisAt(basis: SplineBasis, piece: number, t: number, out: Float64Array, o: number): void {
  const k0 = knot(basis, piece - 2),
    k1 = knot(basis, piece - 1),
    k2 = knot(basis, piece),
    k3 = knot(basis, piece + 1),
    k4 = knot(basis, piece + 2),
    k5 = knot(basis, piece + 3);
  // Degree 1, 2, 3 in turn.
  const b0 = (k3 - t) / (k3 - k2),
    b1 = (t - k2) / (k3 - k2);
  const c0 = ((k3 - t) / (k3 - k1)) * b0,
    c2 = ((t - k2) / (k4 - k2)) * b1,
    c1 = 1 - c0 - c2;
  const d0 = ((k3 - t) / (k3 - k0)) * c0,
    d3 = ((t - k2) / (k5 - k2)) * c2;
  const d1 = ((t - k0) / (k3 - k0)) * c0 + ((k4 - t) / (k4 - k1)) * c1;
  out[o] = d0;
  out[o + 1] = d1;
  out[o + 2] = 1 - d0 - d1 - d3;
  out[o + 3] = d3;
  // Rates from degree 2, accelerations from degree 1.
  const r0 = 3 / (k3 - k0),
    r1 = 3 / (k4 - k1),
    r2 = 3 / (k5 - k2);
  out[o + 4] = -r0 * c0;
  out[o + 5] = r0 * c0 - r1 * c1;
  out[o + 6] = r1 * c1 - r2 * c2;
  out[o + 7] = r2 * c2;
  const s0 = 2 / (k3 - k1),
    s1 = 2 / (k4 - k2);
  const e0 = -s0 * b0,
    e1 = s0 * b0 - s1 * b1,
    e2 = s1 * b1;
  out[o + 8] = -r0 * e0;
  out[o + 9] = r0 * e0 - r1 * e1;
  out[o + 10] = r1 * e1 - r2 * e2;
  out[o + 11] = r2 * e2;
}

/** Numbers of a piece as a polynomial: value, rate, half acceleration, sixth of the third derivative at its start. */
export const CUBIC = 4;

/** Writes pieces from … to (excluded) of the spline with these coefficients as polynomials to out[0..]. */
export function toCubics(basis: SplineBasis, coefficients: Float64Array, from: number, to: number, out: Float64Array): void {
  const w = new Float64Array(BASIS_SIZE);
  for (let p = from; p < to; p++) {
    const [a, b] = [basis.breaks[p]!, basis.breaks[p + 1]!];
    const o = (p - from) * CUBIC;
    const sum = (at: number) => {
      let s = 0;
      for (let k = 0; k < 4; k++) s += w[at + k]! * coefficients[unknownOf(basis, p, k)]!;
      return s;
    };
    basisAt(basis, p, a, w, 0);
    out[o] = sum(BASIS.value);
    out[o + 1] = sum(BASIS.rate);
    const start = sum(BASIS.second);
    out[o + 2] = start / 2;
    basisAt(basis, p, b, w, 0);
    out[o + 3] = (sum(BASIS.second) - start) / (6 * (b - a));
  }
}
