import { describe, expect, it } from 'vitest';
import { partOf } from '@/core/project/motion-spec';
import { defaultPlan } from '@/core/steps/plan';
import { presetFor, shippedBody } from '@/core/tests/cast';
import { Clock } from '../stage/clock';
import { stageMotion } from '../stage/motion';
import { createSession } from '../stage/session';
import { stepContact, stepFrame, togglePlay } from './playback';

const body = shippedBody('marlo');
const gait = presetFor('walk', body);
const part = partOf(body.spec, gait, { plans: { plan: { ...defaultPlan(), gait: 'gait', steps: 4, firstFoot: 'left' } } });
const cycle = stageMotion({ kind: 'cycle', gait: 'gait' }, part);
const plan = stageMotion({ kind: 'plan', plan: 'plan' }, part);

describe('playing', () => {
  it('steps whole frames from wherever it stands, and pauses', () => {
    const clock = new Clock(createSession());
    clock.set(0.11);
    stepFrame(clock, cycle, 1);
    expect(clock.time).toBeCloseTo(4 / 24, 12);
    stepFrame(clock, cycle, -1);
    expect(clock.time).toBeCloseTo(3 / 24, 12);
    expect(clock.playing).toBe(false);
    clock.set(0);
    stepFrame(clock, cycle, -1);
    expect(clock.time).toBe(0);
    clock.set(plan.duration);
    stepFrame(clock, plan, 1);
    expect(clock.time).toBe(plan.duration);
  });

  it('steps through the landings and lift-offs of a cycle in order, on past its end', () => {
    const clock = new Clock(createSession());
    const seen: number[] = [];
    for (let i = 0; i < 5; i++) {
      stepContact(clock, cycle, 1);
      seen.push(clock.time / cycle.duration);
    }
    const duty = cycle.gait.timing.dutyFactor;
    [duty - 0.5, 0.5, duty, 1, duty + 0.5].forEach((phase, i) => expect(seen[i]).toBeCloseTo(phase, 6));
    stepContact(clock, cycle, -1);
    expect(clock.time / cycle.duration).toBeCloseTo(1, 6);
  });

  it('steps through a plan and plays it again from its start when it is over', () => {
    const clock = new Clock(createSession());
    stepContact(clock, plan, 1);
    expect(clock.time).toBeCloseTo(plan.source.contacts.find((c) => c.side === 0)!.to, 9);
    clock.set(plan.duration);
    clock.playing = false;
    togglePlay(clock, plan);
    expect([clock.time, clock.playing, clock.session.getState().playing]).toEqual([0, true, true]);
  });
});
