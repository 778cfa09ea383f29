import { describe, expect, it } from 'vitest';
import { solveLinear } from './linear';
import { seeded } from './random';

describe('a few linear equations', () => {
  it('are solved: what is found makes the right-hand side, also where the first pivot is 0', () => {
    const rand = seeded(5);
    for (let n = 1; n <= 8; n++) {
      const factors = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_, j) => (i === 0 && j === 0 && n > 1 ? 0 : rand() * 2 - 1)));
      const right = factors.map(() => rand() * 10);
      const found = solveLinear(factors.map((row, i) => Float64Array.from([...row, right[i]!])));
      factors.forEach((row, i) => expect(row.reduce((sum, a, j) => sum + a * found[j]!, 0)).toBeCloseTo(right[i]!, 8));
    }
  });

  it('leave at 0 what they do not tell', () => {
    expect([...solveLinear([Float64Array.of(2, 0, 4), Float64Array.of(0, 0, 0)])]).toEqual([2, 0]);
  });
});
