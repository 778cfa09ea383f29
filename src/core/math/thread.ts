/**
 * Weights of four even looks at u (0 … 1) between the second and the third, on a curve through them whose rate is continuous.
 * Source: Catmull and Rom 1974.
 */
export function threadWeights(u: number): readonly [number, number, number, number] {
  const u2 = u * u,
    u3 = u2 * u;
  return [(2 * u2 - u3 - u) / 2, (3 * u3 - 5 * u2 + 2) / 2, (u + 4 * u2 - 3 * u3) / 2, (u3 - u2) / 2];
}

/** Writes what lies so between rows i and i + 1 of `size` numbers each; before row 0 and past row `last` it goes on as those are. */
export function threadRow(rows: Float64Array, size: number, i: number, last: number, u: number, out: Float64Array): void {
  const at = (k: number) => Math.min(last, Math.max(0, k)) * size;
  const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
  const [wa, wb, wc, wd] = threadWeights(u);
  for (let k = 0; k < size; k++) out[k] = wa * rows[a + k]! + wb * rows[b + k]! + wc * rows[c + k]! + wd * rows[d + k]!;
}
