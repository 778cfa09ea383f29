import { describe, expect, it } from 'vitest';
import { shippedBody } from '../tests/cast';
import { assign } from './assign';
import { fitGait } from './fit';
import { PARAMETER_LIST } from './parameters';
import { PRESETS } from './presets';
import { gaitSpecSchema } from './schema';
import { defaultGait } from './spec';
import { fitToFrames, froude, setTiming, wholeFrames } from './timing';

describe('the parameter table', () => {
  it('gives every parameter a label, a tooltip and a default inside its range', () => {
    for (const { path, parameter: p } of PARAMETER_LIST) {
      expect(p.label.length, path).toBeGreaterThan(2);
      expect(p.tooltip.length, path).toBeGreaterThan(15);
      const inside = (v: number, [min, max]: readonly [number, number]) => v >= min && v <= max;
      if (p.kind === 'scalar') expect(inside(p.default, p.range), path).toBe(true);
      else expect(inside(p.default.offset, p.offset) && inside(p.default.amount, p.amount), path).toBe(true);
    }
  });

  it('makes a schema that takes every preset through JSON and refuses what is off', () => {
    for (const preset of PRESETS) expect(gaitSpecSchema.parse(JSON.parse(JSON.stringify(preset.make())))).toEqual(preset.make());
    const gait = defaultGait();
    const bad = [
      { ...gait, extra: 1 },
      { ...gait, feet: { ...gait.feet, lift: NaN } },
      { ...gait, feet: { ...gait.feet, lift: 9 } },
      { ...gait, hips: { ...gait.hips, rise: { offset: 0, amount: 0.01 } } },
      { ...gait, timing: { ...gait.timing, speed: 2 } },
      { ...gait, version: 4 },
      null,
    ];
    for (const b of bad) expect(gaitSpecSchema.safeParse(b).success).toBe(false);
  });
});

describe('timing', () => {
  it('holds one of stride length, speed and stride time while another moves the third', () => {
    const gait = defaultGait();
    const faster = setTiming(gait, 'speed', 1.6);
    expect(faster.timing.strideTime).toBe(1.05);
    expect(faster.timing.strideLength).toBeCloseTo(1.68, 12);
    const held = setTiming({ ...gait, held: 'speed' }, 'strideLength', 1.5);
    expect(held.timing.speed).toBe(gait.timing.speed);
    expect(held.timing.strideTime).toBeCloseTo(1.5 / gait.timing.speed, 12);
    for (const which of ['strideLength', 'speed', 'strideTime'] as const)
      for (const keep of ['strideLength', 'speed', 'strideTime'] as const) {
        const { timing } = setTiming({ ...gait, held: keep }, which, gait.timing[which] * 1.1);
        expect(timing.speed * timing.strideTime).toBeCloseTo(timing.strideLength, 12);
        expect(timing[which]).toBeCloseTo(gait.timing[which] * 1.1, 12);
      }
  });

  it('takes the nearest whole number of frames and says what speed that makes', () => {
    expect(wholeFrames({ strideTime: 1.05, strideLength: 1.42 }, 24)).toEqual({ frames: 25, strideTime: 25 / 24, speed: 1.42 / (25 / 24) });
    const gait = defaultGait();
    expect(fitToFrames(gait, 60)).toBe(gait);
    expect(gaitSpecSchema.safeParse(fitToFrames(gait, 24)).success).toBe(true);
  });
});

describe('fitting to a body', () => {
  it('keeps the Froude number and the stride in leg lengths (dynamic similarity)', () => {
    for (const key of ['pip', 'bosun'] as const) {
      const { legLength } = shippedBody(key);
      for (const preset of PRESETS) {
        const gait = preset.make();
        const fitted = fitGait(gait, legLength);
        expect(gaitSpecSchema.safeParse(fitted).success).toBe(true);
        expect(froude(fitted.timing.speed, legLength)).toBeCloseTo(froude(gait.timing.speed, gait.legLength), 9);
        expect(fitted.timing.strideLength / legLength).toBeCloseTo(gait.timing.strideLength / gait.legLength, 9);
        expect(fitted.timing.dutyFactor).toBe(gait.timing.dutyFactor);
      }
    }
  });

  it('comes back from there and back', () => {
    const gait = PRESETS[1]!.make();
    const back = fitGait(fitGait(gait, 0.6), gait.legLength);
    expect(back.feet.lift).toBeCloseTo(gait.feet.lift, 12);
    expect(back.timing.strideTime).toBeCloseTo(gait.timing.strideTime, 12);
  });
});

describe('assigning KEY=VALUE', () => {
  const set = (...pairs: [string, string][]) => assign(defaultGait(), pairs);
  it('sets scalars and parts of channels, with units', () => {
    const result = set(['feet.landingPitch', '20deg'], ['hips.rise.amount', '2cm'], ['timing.dutyFactor', '58%'], ['arms.swing.delay', '-0.1']);
    if (!('gait' in result)) throw new Error('refused');
    expect(result.gait.feet.landingPitch).toBeCloseTo(Math.PI / 9, 12);
    expect(result.gait.hips.rise.amount).toBeCloseTo(0.02, 12);
    expect(result.gait.timing.dutyFactor).toBeCloseTo(0.58, 12);
    expect(result.gait.arms.swing.delay).toBe(-0.1);
  });

  it('lets the third of the timing values follow one or two that are set', () => {
    const both = set(['timing.speed', '1.4'], ['timing.strideLength', '1.5']);
    if (!('gait' in both)) throw new Error('refused');
    expect(both.gait.timing.strideTime).toBeCloseTo(1.5 / 1.4, 12);
    const one = set(['timing.speed', '1.4']);
    if (!('gait' in one)) throw new Error('refused');
    expect(one.gait.timing.strideTime).toBe(1.05);
  });

  it('refuses as a whole, naming every fault', () => {
    const result = set(
      ['feet.lift', '900'],
      ['feet.wings', '1'],
      ['trunk.lean', '0.1'],
      ['hips.crouch', 'low'],
      ['hips.crouch', '3deg'],
      ['feet.lift', '0x10'],
    );
    expect('faults' in result && result.faults.map((f) => f.key)).toEqual(['feet.lift', 'feet.wings', 'trunk.lean', 'hips.crouch', 'hips.crouch', 'feet.lift']);
    const three = set(['timing.speed', '1'], ['timing.strideLength', '3'], ['timing.strideTime', '1']);
    expect('faults' in three && three.faults[0]!.key).toBe('timing');
  });
});
