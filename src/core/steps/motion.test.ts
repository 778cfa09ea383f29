import { describe, expect, it } from 'vitest';
import { poseSize } from '../body/skeleton';
import { sampleClip } from '../clip/sample';
import { ownFeet } from '../measure/foot-model';
import { reportClip } from '../measure/report';
import { pendulumPosition, pendulumSupport, pendulumVelocity } from '../schedule/pendulum';
import { BODY_KEYS, GAIT_KEYS, presetFor, shippedBody } from '../tests/cast';
import { createSolver } from '../solve/solver';
import { setMembers } from '../directions/set';
import { defaultSet } from '../directions/spec';
import { makeClip, planMotion } from '../handover/motions';
import { planSpecSchema, defaultPlan } from './plan';
import { straightSchedule } from './straight';

describe('a straight plan', () => {
  it.each(BODY_KEYS.flatMap((body) => GAIT_KEYS.map((gait) => ({ body, gait }))))(
    '$gait, $body: feet hold from standing to standing',
    ({ body: key, gait: name }) => {
      const body = shippedBody(key);
      const gait = presetFor(name, body);
      for (const [steps, first] of [
        [2, 0],
        [5, 1],
        [10, 0],
      ] as const) {
        const schedule = straightSchedule(gait, body, steps, first);
        const solver = createSolver(body, gait, schedule);
        const clip = sampleClip(solver, 60, name);
        const report = reportClip(clip, ownFeet(body.sole), body.legLength);
        // So many footprints besides the two stood on at first.
        expect(clip.contacts!.length).toBe(steps + 2);
        expect(report.slideMm.atFrames).toBeLessThanOrEqual(0.05);
        expect(report.sinkMm).toBeLessThanOrEqual(0.1);
        expect(report.stretch).toBeLessThanOrEqual(1);
        expect(solver.report.tooFar).toBe(0);
        expect(clip.poses.every(Number.isFinite)).toBe(true);
      }
    },
  );

  it('starts and ends at rest, with both feet side by side, standing straight', () => {
    const body = shippedBody('marlo');
    for (const name of GAIT_KEYS) {
      const gait = presetFor(name, body);
      const schedule = straightSchedule(gait, body, 8, 1);
      const solver = createSolver(body, gait, schedule);
      const end = schedule.duration;
      for (const t of [0, end]) {
        expect(Math.abs(pendulumVelocity(schedule.travelZ, t))).toBeLessThan(1e-6);
        expect(Math.abs(pendulumVelocity(schedule.sway, t))).toBeLessThan(1e-6);
      }
      const last = schedule.footholds.map((holds) => holds[holds.length - 1]!);
      expect(last[0]!.z).toBeCloseTo(last[1]!.z, 12);
      expect(pendulumPosition(schedule.travelZ, end)).toBeCloseTo(last[0]!.z, 6);
      const pose = new Float64Array(poseSize(body.skeleton));
      for (const t of [0, end]) {
        solver.solve(t, pose, 0);
        expect(pose[4]! / body.hipHeight).toBeGreaterThan(0.97);
      }
    }
  });

  it('walks its middle at the gait’s own speed and shifts the weight away from the first foot before it leaves', () => {
    const body = shippedBody('marlo');
    const gait = presetFor('walk', body);
    const schedule = straightSchedule(gait, body, 20, 0);
    expect(pendulumVelocity(schedule.travelZ, schedule.duration / 2)).toBeCloseTo(gait.timing.speed, 3);
    const leaves = schedule.footholds[0][0]!.leaving;
    // The left foot leaves first, so the body is over the right one (negative x) by then, pushed from the left.
    expect(pendulumPosition(schedule.sway, leaves)).toBeLessThan(-0.01);
    const pushes = Array.from({ length: 20 }, (_, i) => pendulumSupport(schedule.sway, (leaves * i) / 20));
    expect(Math.max(...pushes)).toBeGreaterThan(0.005);
  });

  it('begins with the foot that was asked for', () => {
    const body = shippedBody('pip');
    const gait = presetFor('walk', body);
    for (const first of [0, 1] as const) {
      const { footholds } = straightSchedule(gait, body, 4, first);
      const landed = footholds.flat().filter((h) => h.landing > 0);
      expect(landed.sort((a, b) => a.landing - b.landing)[0]!.side).toBe(first);
    }
  });

  it('goes ahead also with a gait that was made for another direction', () => {
    const body = shippedBody('marlo');
    const side = setMembers(defaultSet(), presetFor('walk', body))[2]!.gait;
    const made = makeClip(planMotion(defaultPlan(), side), body, 30, { inPlace: false });
    expect(made.solver.gait.direction).toEqual({ travel: 0, hips: 0, feet: 0, chest: 0 });
    expect(made.document.info.travel[0]).toBeCloseTo(0, 9);
    expect(made.document.info.travel[1]).toBeGreaterThan(3);
  });

  it('refuses fewer than two steps, part steps and nonsense', () => {
    const body = shippedBody('marlo');
    for (const steps of [1, 0, 2.5, NaN, -3]) expect(() => straightSchedule(presetFor('walk', body), body, steps, 0)).toThrow(RangeError);
    for (const bad of [{ steps: 1 }, { steps: 1e6 }, { firstFoot: 'middle' }, { gait: '' }])
      expect(planSpecSchema.safeParse({ ...defaultPlan(), ...bad }).success).toBe(false);
  });
});
