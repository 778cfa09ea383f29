import { describe, expect, it } from 'vitest';
import { leastSquares } from './least-squares';

describe('least squares of few parameters', () => {
  it('is exact where the misses are linear', () => {
    // y = 2 − 3x + 0.5x², through seven points.
    const fit = leastSquares(3, 7, (c, out) => out.forEach((_, i) => (out[i] = c[0]! + c[1]! * i + c[2]! * i * i - (2 - 3 * i + 0.5 * i * i))), 6);
    [2, -3, 0.5].forEach((v, k) => expect(fit[k]!).toBeCloseTo(v, 7));
  });
  it('finds the turn of a circle’s points', () => {
    const turn = 0.8;
    const fit = leastSquares(
      1,
      6,
      (c, out) => [0, 1, 2].forEach((a) => out.set([Math.cos(a + c[0]!) - Math.cos(a + turn), Math.sin(a + c[0]!) - Math.sin(a + turn)], a * 2)),
      12,
    );
    expect(fit[0]!).toBeCloseTo(turn, 7);
  });
  it('leaves alone what nothing depends on', () => {
    const fit = leastSquares(2, 1, (c, out) => void (out[0] = c[0]! - 1), 5);
    expect(fit[0]!).toBeCloseTo(1, 9);
    expect(fit[1]).toBe(0);
  });
});
