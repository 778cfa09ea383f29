/**
 * Second derivatives at even places of the polynomial of a degree that comes closest to the values there (least squares).
 * Source: orthogonal polynomials over even places (Chebyshev 1864, Gram 1883), by their three-term recurrence.
 * @param values at places `step` apart, more than `degree` of them
 * @param out as many second derivatives
 */
export function smoothSeconds(values: Float64Array, step: number, degree: number, out: Float64Array): void {
  const n = values.length;
  const middle = (n - 1) / 2;
  // Present and last polynomial at all places: value, first and second derivative by the place.
  let [p, d, s] = [new Float64Array(n).fill(1), new Float64Array(n), new Float64Array(n)];
  let [p0, d0, s0] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  out.fill(0, 0, n);
  let lastSquare = 0;
  for (let k = 0; k <= degree; k++) {
    let square = 0,
      product = 0;
    for (let i = 0; i < n; i++) {
      square += p[i]! * p[i]!;
      product += p[i]! * values[i]!;
    }
    const share = product / square / (step * step);
    for (let i = 0; i < n; i++) out[i] = out[i]! + share * s[i]!;
    const b = lastSquare > 0 ? square / lastSquare : 0;
    lastSquare = square;
    // x p − b p of before, in the place of the one before.
    for (let i = 0; i < n; i++) {
      const x = i - middle;
      s0[i] = x * s[i]! + 2 * d[i]! - b * s0[i]!;
      d0[i] = x * d[i]! + p[i]! - b * d0[i]!;
      p0[i] = x * p[i]! - b * p0[i]!;
    }
    [p, d, s, p0, d0, s0] = [p0, d0, s0, p, d, s];
  }
}
