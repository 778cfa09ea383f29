import { describe, expect, it } from 'vitest';
import { presetCycle, presetFor, shippedBody } from '../tests/cast';
import { meter } from '../tests/meters';
import { cycle } from '../motion/solved';
import { amountsFactor, withAmounts } from './amounts';
import { PRESETS } from './presets';
import { setTiming, structuredCloneGait } from './timing';

const body = shippedBody('marlo');

describe('amounts follow the stride', () => {
  it('every shipped gait is made for the stride it has, on every leg', () => {
    for (const { key } of PRESETS) {
      const gait = presetFor(key, body);
      expect(amountsFactor(gait), key).toBeCloseTo(1, 9);
      expect(withAmounts(gait)).toBe(gait);
    }
  });

  it('takes swings, lifts and rolls down with a shorter stride, and leaves postures, timing and the right side’s own values in proportion', () => {
    const gait = structuredCloneGait(presetFor('limp', body));
    gait.timing.strideLength *= 0.5;
    const half = withAmounts(gait);
    expect(half.arms.swing.amount).toBeCloseTo(gait.arms.swing.amount * 0.5, 12);
    expect(half.arms.swing.offset).toBe(gait.arms.swing.offset);
    expect(half.hips.crouch).toBe(gait.hips.crouch);
    expect(half.timing).toEqual(gait.timing);
    expect(half.right['feet.liftOffPitch']).toBeCloseTo((gait.right['feet.liftOffPitch'] as number) * 0.5, 12);
    gait.timing.amountsFollow = 0;
    expect(withAmounts(gait)).toBe(gait);
  });

  it('a stride of nearly nothing nearly stands: little bend of the knee, little lift of the hips', () => {
    const tiny = meter(cycle(setTiming(presetFor('walk', body), 'strideLength', 0.05), body));
    expect(tiny.knees[1]).toBeLessThan(40);
    expect(tiny.heights[1] - tiny.heights[0]).toBeLessThan(0.012);
    expect(tiny.snap).toBeLessThan(meter(presetCycle('walk')).snap / 2);
  });
});
