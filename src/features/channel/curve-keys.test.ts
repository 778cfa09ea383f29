import { describe, expect, it } from 'vitest';
import { compileCurve, curveValue, type CurveKey } from '@/core/gait/curve';
import { followHalf, halvesOf, movedKeys } from './curve-keys';

const key = (at: number, value: number, more: Partial<CurveKey> = {}): CurveKey => ({ at, value, tangent: 'smooth', ...more });
const opposite = [key(0.1, 1), key(0.3, -0.5, { slope: 4 }), key(0.6, -1), key(0.8, 0.5, { slope: -4 })];

describe('the halves of a curve', () => {
  it('are seen for what they are', () => {
    expect(halvesOf(opposite)).toBe('opposite');
    expect(halvesOf([key(0.1, 1), key(0.6, 1)])).toBe('same');
    expect([halvesOf([key(0.1, 1), key(0.6, 0.9)]), halvesOf([key(0, 1)]), halvesOf([key(0.1, 1), key(0.55, -1)])]).toEqual(['apart', 'apart', 'apart']);
  });

  it('follow each other, whichever is changed', () => {
    for (const i of [1, 3]) {
      const next = followHalf(movedKeys(opposite, new Set([i]), 0.05, 0.2, 'opposite'), 'opposite', opposite[i]!.at);
      expect(halvesOf(next)).toBe('opposite');
      expect(next[i]).toMatchObject({ at: expect.closeTo(opposite[i]!.at + 0.05, 9), value: expect.closeTo(opposite[i]!.value + 0.2, 9) });
    }
    expect(followHalf(opposite, 'apart', 0)).toEqual(opposite);
  });
});

describe('keys moved together', () => {
  it('stop at their neighbours and at the ends of their half, all of them', () => {
    const both = movedKeys(opposite, new Set([0, 1]), 0.9, 0, 'opposite');
    expect(both[1]!.at).toBeCloseTo(0.495, 9);
    expect(both[1]!.at - both[0]!.at).toBeCloseTo(0.2, 9);
    expect(movedKeys(opposite, new Set([1]), 0.9, 9, 'apart')[1]).toMatchObject({ at: expect.closeTo(0.595, 9), value: 2 });
    expect(movedKeys(opposite, new Set([0]), -0.9, 0, 'apart')[0]!.at).toBe(0);
  });
});

describe('a slope of its own', () => {
  it('is what the curve has at its key, from both sides', () => {
    const pieces = compileCurve([key(0.2, 0, { slope: 6 }), key(0.7, 1, { tangent: 'flat', slope: -3 })]);
    for (const [at, slope] of [
      [0.2, 6],
      [0.7, -3],
    ] as const)
      for (const side of [-1e-6, 1e-6]) expect((curveValue(pieces, at + side) - curveValue(pieces, at)) / side).toBeCloseTo(slope, 2);
  });
});
