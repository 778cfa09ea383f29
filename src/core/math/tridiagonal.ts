/**
 * Solves a diagonally dominant tridiagonal system for several right-hand sides at once, in place and in O(n).
 * Row i: lower[i] x[i−1] + diagonal[i] x[i] + upper[i] x[i+1] = right[i]. `diagonal` and every `right` are overwritten; the
 * answers stand in `right`. Source: Thomas's elimination; stable without pivoting for dominant rows.
 */
export function solveTridiagonal(lower: Float64Array, diagonal: Float64Array, upper: Float64Array, rights: readonly Float64Array[]): void {
  const n = diagonal.length;
  for (let i = 1; i < n; i++) {
    const w = lower[i]! / diagonal[i - 1]!;
    diagonal[i] = diagonal[i]! - w * upper[i - 1]!;
    for (let k = 0; k < rights.length; k++) rights[k]![i] = rights[k]![i]! - w * rights[k]![i - 1]!;
  }
  for (const right of rights) {
    right[n - 1] = right[n - 1]! / diagonal[n - 1]!;
    for (let i = n - 2; i >= 0; i--) right[i] = (right[i]! - upper[i]! * right[i + 1]!) / diagonal[i]!;
  }
}

/**
 * The same for a ring: row 0 also meets x[n−1] by lower[0], row n−1 also x[0] by upper[n−1]. Needs n ≥ 3.
 * Source: Sherman & Morrison 1950, one more right-hand side.
 */
export function solveCyclicTridiagonal(lower: Float64Array, diagonal: Float64Array, upper: Float64Array, rights: readonly Float64Array[]): void {
  const n = diagonal.length;
  if (n < 3) throw new RangeError(`solveCyclicTridiagonal: a ring needs at least 3 rows, got ${n}`);
  const corner = lower[0]!,
    other = upper[n - 1]!;
  const gamma = -diagonal[0]!;
  const extra = new Float64Array(n);
  extra[0] = gamma;
  extra[n - 1] = other;
  diagonal[0] = diagonal[0]! - gamma;
  diagonal[n - 1] = diagonal[n - 1]! - (other * corner) / gamma;
  solveTridiagonal(lower, diagonal, upper, [...rights, extra]);
  const share = corner / gamma;
  const below = 1 + extra[0]! + share * extra[n - 1]!;
  for (const right of rights) {
    const k = (right[0]! + share * right[n - 1]!) / below;
    for (let i = 0; i < n; i++) right[i] = right[i]! - k * extra[i]!;
  }
}

/**
 * Second derivatives at the knots of the natural cubic spline through (times, values): C2, straight beyond its ends.
 * Source: the standard three-moment equations.
 */
export function splineMoments(times: Float64Array, values: Float64Array): Float64Array {
  const n = times.length;
  const moments = new Float64Array(n);
  if (n < 3) return moments;
  const lower = new Float64Array(n),
    diagonal = new Float64Array(n).fill(1),
    upper = new Float64Array(n);
  for (let i = 1; i < n - 1; i++) {
    const a = times[i]! - times[i - 1]!,
      b = times[i + 1]! - times[i]!;
    lower[i] = a / 6;
    diagonal[i] = (a + b) / 3;
    upper[i] = b / 6;
    moments[i] = (values[i + 1]! - values[i]!) / b - (values[i]! - values[i - 1]!) / a;
  }
  solveTridiagonal(lower, diagonal, upper, [moments]);
  return moments;
}

/** The same with the rate given at either end (null: straight there). */
export function splineMomentsClamped(u: Float64Array, v: Float64Array, first: number | null, last: number | null): Float64Array {
  const n = u.length;
  const lower = new Float64Array(n),
    diagonal = new Float64Array(n).fill(1),
    upper = new Float64Array(n),
    m = new Float64Array(n);
  const chord = (i: number) => (v[i + 1]! - v[i]!) / (u[i + 1]! - u[i]!);
  for (let i = 1; i < n - 1; i++) {
    lower[i] = (u[i]! - u[i - 1]!) / 6;
    diagonal[i] = (u[i + 1]! - u[i - 1]!) / 3;
    upper[i] = (u[i + 1]! - u[i]!) / 6;
    m[i] = chord(i) - chord(i - 1);
  }
  if (first !== null) {
    const h = u[1]! - u[0]!;
    diagonal[0] = h / 3;
    upper[0] = h / 6;
    m[0] = chord(0) - first;
  }
  if (last !== null) {
    const h = u[n - 1]! - u[n - 2]!;
    diagonal[n - 1] = h / 3;
    lower[n - 1] = h / 6;
    m[n - 1] = last - chord(n - 2);
  }
  solveTridiagonal(lower, diagonal, upper, [m]);
  return m;
}
