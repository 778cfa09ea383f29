import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/spec';
import { defaultSet } from '../directions/spec';
import { findPreset } from '../gait/presets';
import { defaultPlan } from '../steps/plan';
import { build, motionKey, partOf, type MotionSpec } from './motion-spec';

const walk = findPreset('walk')!.make();
const part = partOf(SHIPPED_BODIES.marlo, walk, { plans: { p: { ...defaultPlan(), gait: 'gait' } }, sets: { s: { ...defaultSet(), gait: 'gait' } } });
const CYCLE: MotionSpec = { kind: 'cycle', gait: 'gait' };
const PLAN: MotionSpec = { kind: 'plan', plan: 'p' };
const member = (directionDeg: number): MotionSpec => ({ kind: 'member', set: 's', directionDeg, twin: false });

describe('a spec of a motion', () => {
  it('builds a cycle, a plan and a member of a set from one part of a project', () => {
    expect(build(CYCLE, part).motion.repeat).not.toBeNull();
    expect(build(PLAN, part).motion.repeat).toBeNull();
    expect(build(member(90), part).motion.pace.direction).toBeCloseTo(Math.PI / 2, 9);
    expect(build(CYCLE, part, { rate: 30 }).motion.duration * 30).toBeCloseTo(Math.round(build(CYCLE, part).motion.duration * 30), 9);
  });

  it('keeps the body of a spec through every edit of the gait, so that a figure is not made anew', () => {
    const edited = { ...part, gaits: { gait: findPreset('run')!.make() } };
    expect(build(CYCLE, edited).body).toBe(build(PLAN, part).body);
    expect(build(CYCLE, { ...part, body: SHIPPED_BODIES.pip }).body).not.toBe(build(CYCLE, part).body);
  });

  it('has the same key for the same content however it came, another for whatever changes the motion', () => {
    const again = JSON.parse(JSON.stringify(part)) as typeof part;
    const specs = [CYCLE, PLAN, member(0), member(90), { ...member(90), twin: true } as MotionSpec];
    for (const spec of specs) expect(motionKey(spec, again)).toBe(motionKey(spec, part));
    const keys = [
      ...specs.map((spec) => motionKey(spec, part)),
      motionKey(CYCLE, part, { rate: 30 }),
      motionKey(CYCLE, { ...part, body: SHIPPED_BODIES.pip }),
      motionKey(CYCLE, { ...part, gaits: { gait: findPreset('run')!.make() } }),
      motionKey(PLAN, { ...part, plans: { p: { ...part.plans.p!, steps: 7 } } }),
    ];
    expect(new Set(keys).size).toBe(keys.length);
    // What a spec does not use is not in its key.
    expect(motionKey(CYCLE, { ...part, plans: {} })).toBe(motionKey(CYCLE, part));
  });

  it('says which item is missing', () => {
    expect(() => build({ kind: 'cycle', gait: 'none' }, part)).toThrow('no gait none');
    expect(() => build(member(13), part)).toThrow('no member at 13°');
  });
});
