/**
 * A symmetric positive definite matrix whose row i holds columns first[i] … i: banded, with as many full last rows as a
 * ring needs. Filled with `add`, solved once.
 */
export interface ProfileMatrix {
  readonly first: Int32Array;
  /** Where the row's diagonal stands in `data`. */
  readonly diagonal: Int32Array;
  readonly data: Float64Array;
}

/** A matrix of `n` rows whose unknowns meet those at most `band` away, and round the ring if it is one. */
export function createProfile(n: number, band: number, ring: boolean): ProfileMatrix {
  const first = new Int32Array(n),
    diagonal = new Int32Array(n);
  let length = 0;
  for (let i = 0; i < n; i++) {
    first[i] = ring && i >= n - band ? 0 : Math.max(0, i - band);
    length += i - first[i]! + 1;
    diagonal[i] = length - 1;
  }
  return { first, diagonal, data: new Float64Array(length) };
}

/**
 * Solves in place for one right-hand side, which becomes the answer; the matrix becomes its factors. Source: Cholesky's
 * factorisation LDLᵀ by rows, within the profile (Jennings 1966). O(n band²).
 */
export function solveProfile({ first, diagonal, data }: ProfileMatrix, right: Float64Array): void {
  const n = right.length;
  for (let i = 0; i < n; i++) {
    const row = diagonal[i]! - i,
      from = first[i]!;
    for (let j = from; j < i; j++) {
      const other = diagonal[j]! - j;
      let sum = data[row + j]!;
      for (let k = Math.max(from, first[j]!); k < j; k++) sum -= data[row + k]! * data[other + k]!;
      data[row + j] = sum;
    }
    // Until here the row holds L D; now L, and the pivot.
    let pivot = data[row + i]!;
    for (let j = from; j < i; j++) {
      const scaled = data[row + j]! / data[diagonal[j]!]!;
      pivot -= scaled * data[row + j]!;
      data[row + j] = scaled;
      right[i] = right[i]! - scaled * right[j]!;
    }
    data[row + i] = pivot;
  }
  for (let i = 0; i < n; i++) right[i] = right[i]! / data[diagonal[i]!]!;
  for (let i = n - 1; i >= 0; i--) {
    const row = diagonal[i]! - i;
    for (let j = first[i]!; j < i; j++) right[j] = right[j]! - data[row + j]! * right[i]!;
  }
}
