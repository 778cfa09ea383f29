import { describe, expect, it } from 'vitest';
import { seeded } from './random';
import { BASIS, BASIS_SIZE, basisAt, createBasis, CUBIC, pieceAt, toCubics, unknownOf, type SplineBasis } from './spline-basis';

const rand = seeded(11);
const breaksOf = (n: number) => {
  const out = [0.3];
  for (let i = 0; i < n; i++) out.push(out[i]! + 0.05 + 0.1 * rand());
  return Float64Array.from(out);
};
const read = (basis: SplineBasis, c: Float64Array, t: number, of: number, piece = pieceAt(basis, t)) => {
  const w = new Float64Array(BASIS_SIZE);
  basisAt(basis, piece, t, w, 0);
  return [0, 1, 2, 3].reduce((s, k) => s + w[of + k]! * c[unknownOf(basis, piece, k)]!, 0);
};

describe('cubic splines over uneven breaks', () => {
  it.each([false, true])('ring %s: weights sum to one, rates are the differences of values, and pieces meet in value, rate and acceleration', (ring) => {
    for (let trial = 0; trial < 10; trial++) {
      const basis = createBasis(breaksOf(9), ring);
      const ones = new Float64Array(basis.unknowns).fill(1),
        c = Float64Array.from({ length: basis.unknowns }, () => rand());
      const d = 1e-6;
      for (let n = 0; n < 30; n++) {
        const t = basis.breaks[0]! + (basis.breaks[9]! - basis.breaks[0]!) * (0.01 + 0.98 * rand());
        const p = pieceAt(basis, t);
        expect(read(basis, ones, t, BASIS.value)).toBeCloseTo(1, 12);
        expect(read(basis, c, t, BASIS.rate)).toBeCloseTo((read(basis, c, t + d, BASIS.value, p) - read(basis, c, t - d, BASIS.value, p)) / (2 * d), 5);
        expect(read(basis, c, t, BASIS.second)).toBeCloseTo((read(basis, c, t + d, BASIS.rate, p) - read(basis, c, t - d, BASIS.rate, p)) / (2 * d), 4);
      }
      for (let p = ring ? 0 : 1; p < basis.pieces; p++)
        for (const of of [BASIS.value, BASIS.rate, BASIS.second]) {
          const before = p > 0 ? read(basis, c, basis.breaks[p]!, of, p - 1) : read(basis, c, basis.breaks[basis.pieces]!, of, basis.pieces - 1);
          expect(read(basis, c, basis.breaks[p]!, of, p)).toBeCloseTo(before, 8);
        }
      const cubics = new Float64Array(basis.pieces * CUBIC);
      toCubics(basis, c, 0, basis.pieces, cubics);
      for (let p = 0; p < basis.pieces; p++) {
        const u = 0.7 * (basis.breaks[p + 1]! - basis.breaks[p]!);
        const got = cubics[p * 4]! + u * (cubics[p * 4 + 1]! + u * (cubics[p * 4 + 2]! + u * cubics[p * 4 + 3]!));
        expect(got).toBeCloseTo(read(basis, c, basis.breaks[p]! + u, BASIS.value, p), 9);
      }
    }
  });

  it('needs four pieces', () => {
    expect(() => createBasis(Float64Array.of(0, 1, 2, 3), true)).toThrow(RangeError);
  });
});
