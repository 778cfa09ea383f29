import { describe, expect, it } from 'vitest';
import { unrolled } from '../clip/unroll';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure, shaken } from '../tests/clips';
import { exactPivots } from './exact-pivots';

const body = shippedBody('marlo');
const clip = unrolled(cycleClip(presetFor('walk', body), body, 120).clip, 8);
const { feet } = ownFigure(clip, body);

describe('the points a foot turns about', () => {
  it('are found from its motion, where the sole is told a little wrong', () => {
    for (const foot of feet) {
      const wrong = {
        ...foot,
        heel: [foot.heel[0], foot.heel[1] + 0.004, foot.heel[2] - 0.006] as const,
        tip: [foot.tip[0], foot.tip[1], foot.tip[2] + 0.005] as const,
      };
      const found = exactPivots(clip, wrong);
      for (const k of [1, 2]) {
        expect(Math.abs(found.heel[k]! - foot.heel[k]!)).toBeLessThan(5e-5);
        expect(Math.abs(found.tip[k]! - foot.tip[k]!)).toBeLessThan(5e-5);
      }
    }
  });

  it('are left as they are told where it turns about none exactly', () => {
    const figure = shaken(ownFigure(clip, body), 0.002, 5);
    for (const foot of figure.feet) {
      const found = exactPivots(figure.clip, foot);
      expect(found.heel).toEqual(foot.heel);
      expect(found.tip).toEqual(foot.tip);
    }
  });
});
