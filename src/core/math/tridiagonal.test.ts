import { describe, expect, it } from 'vitest';
import { seeded } from './random';
import { solveCyclicTridiagonal, solveTridiagonal, splineMoments } from './tridiagonal';

const rand = seeded(12);

/** A dominant system of n rows and what its rows make of an answer. */
function system(n: number, ring: boolean) {
  const lower = Float64Array.from({ length: n }, () => rand() - 0.5),
    upper = Float64Array.from({ length: n }, () => rand() - 0.5),
    diagonal = Float64Array.from({ length: n }, (_, i) => Math.abs(lower[i]!) + Math.abs(upper[i]!) + 0.1 + rand());
  const times = (x: Float64Array) =>
    x.map((v, i) => diagonal[i]! * v + (ring || i > 0 ? lower[i]! * x[(i + n - 1) % n]! : 0) + (ring || i < n - 1 ? upper[i]! * x[(i + 1) % n]! : 0));
  return { lower, upper, diagonal, times };
}

describe('tridiagonal systems', () => {
  it.each([false, true])('answer what was asked, several right-hand sides at once (ring: %s); seeded', (ring) => {
    for (const n of [3, 4, 17, 400]) {
      const { lower, upper, diagonal, times } = system(n, ring);
      const answers = [0, 1, 2].map(() => Float64Array.from({ length: n }, () => 2 * rand() - 1));
      const rights = answers.map(times);
      (ring ? solveCyclicTridiagonal : solveTridiagonal)(lower, diagonal.slice(), upper, rights);
      rights.forEach((x, k) => x.forEach((v, i) => expect(v).toBeCloseTo(answers[k]![i]!, 10)));
    }
  });

  it('say that a ring of two is none', () => {
    const two = () => new Float64Array(2).fill(1);
    expect(() => solveCyclicTridiagonal(two(), two(), two(), [two()])).toThrow(RangeError);
  });

  it('give the natural spline through a straight line no bend, and none at its ends', () => {
    const times = Float64Array.of(0, 0.3, 1, 1.1, 2);
    expect(
      [
        ...splineMoments(
          times,
          times.map((t) => 3 * t - 1),
        ),
      ].every((m) => Math.abs(m) < 1e-12),
    ).toBe(true);
    const bent = splineMoments(
      times,
      times.map((t) => t * t),
    );
    expect([bent[0], bent[4]]).toEqual([0, 0]);
  });
});
