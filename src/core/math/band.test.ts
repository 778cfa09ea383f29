import { describe, expect, it } from 'vitest';
import { seeded } from './random';
import { addProduct, addRow, createBand, solveBand } from './band';

/** Dense solve by Gauss with pivoting, to compare with. */
function dense(matrix: number[][], right: number[]): number[] {
  const a = matrix.map((row, i) => [...row, right[i]!]);
  const n = a.length;
  for (let i = 0; i < n; i++) {
    const p = a.findIndex((_, k) => k >= i && Math.abs(a[k]![i]!) === Math.max(...a.slice(i).map((r) => Math.abs(r[i]!))));
    [a[i], a[p]] = [a[p]!, a[i]!];
    for (let k = i + 1; k < n; k++) {
      const f = a[k]![i]! / a[i]![i]!;
      for (let j = i; j <= n; j++) a[k]![j]! -= f * a[i]![j]!;
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) x[i] = (a[i]![n]! - a[i]!.slice(i + 1, n).reduce((s, v, j) => s + v * x[i + 1 + j]!, 0)) / a[i]![i]!;
  return x;
}

describe('normal equations on a band', () => {
  it.each([false, true])('ring %s: rows of neighbouring unknowns are solved as the dense system is; seeded', (ring) => {
    const rand = seeded(ring ? 5 : 6);
    for (let trial = 0; trial < 20; trial++) {
      const n = 12 + Math.floor(20 * rand()),
        width = 5;
      const band = createBand(n, width, ring);
      const matrix = Array.from({ length: n }, () => new Array<number>(n).fill(0)),
        right = new Array<number>(n).fill(0);
      for (let r = 0; r < 5 * n; r++) {
        // Every unknown is in a row of its own, so that there is an answer.
        const count = r < n ? 1 : 1 + Math.floor(width * rand());
        const first = r < n ? r : Math.floor((ring ? n : n - count + 1) * rand());
        const row = Float64Array.from({ length: 8 }, (_, k) => (k < count ? rand() - 0.5 : 0));
        const kept = [...row];
        const residual = rand() - 0.5;
        addRow(band, first, count, row, residual);
        expect(row.every((v) => v === 0)).toBe(true);
        for (let i = 0; i < count; i++) {
          right[(first + i) % n]! -= kept[i]! * residual;
          for (let j = 0; j < count; j++) matrix[(first + i) % n]![(first + j) % n]! += kept[i]! * kept[j]!;
        }
      }
      const x = dense(matrix, right);
      const got = Float64Array.from(band.right);
      solveBand(band, got);
      got.forEach((v, i) => expect(v).toBeCloseTo(x[i]!, 8));
      // And back: matrix · x is the right-hand side.
      const product = new Float64Array(n);
      addProduct(band, got, 1, product);
      product.forEach((v, i) => expect(v).toBeCloseTo(right[i]!, 9));
    }
  });
});
