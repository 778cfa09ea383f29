import { beforeEach, describe, expect, it } from 'vitest';
import { straightSchedule } from '@/core/steps/straight';
import { createSolver } from '@/core/solve/solver';
import { presetFor, presetSolver, shippedBody } from '@/core/tests/cast';
import { Clock } from '../stage/clock';
import type { StageMotion } from '../stage/motion';
import { useSession } from '../stage/session';
import { stepContact, stepFrame, togglePlay } from './playback';

const body = shippedBody('marlo');
const gait = presetFor('walk', body);
const cycle: StageMotion = { body, gait, solver: presetSolver('walk'), endless: true, duration: gait.timing.strideTime, request: { kind: 'cycle' } };
const schedule = straightSchedule(gait, body, 4, 0);
const plan: StageMotion = {
  body,
  gait,
  solver: createSolver(body, gait, schedule),
  endless: false,
  duration: schedule.duration,
  request: { kind: 'plan', steps: 4, firstFoot: 'left' },
};

describe('playing', () => {
  beforeEach(() => useSession.getState().set({ fps: 24, playing: true }));

  it('steps whole frames from wherever it stands, and pauses', () => {
    const clock = new Clock();
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
    const clock = new Clock();
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
    const clock = new Clock();
    stepContact(clock, plan, 1);
    expect(clock.time).toBeCloseTo(schedule.footholds[0][0]!.leaving, 9);
    clock.set(plan.duration);
    clock.playing = false;
    togglePlay(clock, plan);
    expect([clock.time, clock.playing, useSession.getState().playing]).toEqual([0, true, true]);
  });
});
