import { createProfile, solveProfile, type ProfileMatrix } from './profile';

/**
 * Normal equations of rows that each meet a few neighbouring unknowns, in line or in a ring: the upper half of a symmetric
 * matrix as bands, and its right-hand side.
 */
export interface Band {
  readonly size: number;
  /** Diagonals kept: the main one and those above it. */
  readonly width: number;
  /** `width` numbers a row: (i, i), (i, i + 1) …, round the ring if it is one. */
  readonly data: Float64Array;
  readonly right: Float64Array;
  readonly profile: ProfileMatrix;
}

export function createBand(size: number, width: number, ring: boolean): Band {
  return { size, width, data: new Float64Array(size * width), right: new Float64Array(size), profile: createProfile(size, width - 1, ring) };
}

/** Adds one squared row: `count` ≤ width weights of unknowns from `first` on, and its residual. Leaves `row` at zero. */
export function addRow({ size, width, data, right }: Band, first: number, count: number, row: Float64Array, residual: number): void {
  let i = first;
  for (let a = 0; a < count; a++, i++) {
    if (i >= size) i -= size;
    const w = row[a]!;
    right[i] = right[i]! - w * residual;
    const o = i * width - a;
    for (let b = a; b < count; b++) data[o + b] = data[o + b]! + w * row[b]!;
  }
  for (let a = 0; a < count; a++) row[a] = 0;
}

/** out += scale × matrix · x. */
export function addProduct({ size, width, data }: Band, x: Float64Array, scale: number, out: Float64Array): void {
  for (let i = 0; i < size; i++) {
    const o = i * width;
    out[i] = out[i]! + scale * data[o]! * x[i]!;
    let j = i;
    for (let d = 1; d < width; d++) {
      if (++j >= size) j -= size;
      const v = scale * data[o + d]!;
      if (v === 0) continue;
      out[i] = out[i]! + v * x[j]!;
      out[j] = out[j]! + v * x[i]!;
    }
  }
}

/** Solves in place: `right` becomes the answer. The band stays. */
export function solveBand({ size, width, data, profile }: Band, right: Float64Array): void {
  profile.data.fill(0);
  for (let i = 0; i < size; i++) {
    let j = i;
    for (let d = 0; d < width; d++, j++) {
      if (j >= size) j -= size;
      const v = data[i * width + d]!;
      if (v === 0) continue;
      const low = i < j ? i : j,
        high = i < j ? j : i;
      profile.data[profile.diagonal[high]! - high + low] = profile.data[profile.diagonal[high]! - high + low]! + v;
    }
  }
  solveProfile(profile, right);
}
