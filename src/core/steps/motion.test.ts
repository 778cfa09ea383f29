import { describe, expect, it } from 'vitest';
import { poseSize } from '../body/skeleton';
import { createPlacement } from '../math/placement';
import { makeClip } from '../handover/make-clip';
import { sampleClip } from '../motion/sample';
import { walk } from '../motion/solved';
import { setMembers } from '../directions/set';
import { defaultSet } from '../directions/spec';
import { readPendulum, readSupport, type PendulumTrack } from '../schedule/pendulum';
import { plan } from '../schedule/plan';
import { walkProgram } from '../schedule/program';
import { BODY_KEYS, GAIT_KEYS, planOrder, presetFor, reportOf, shippedBody } from '../tests/cast';
import { planMotion } from './motion';
import { planSpecSchema, defaultPlan } from './plan';

const read = (track: PendulumTrack, t: number) => {
  const out = Float64Array.of(0, 0, 0, 0, t);
  readPendulum(track, out, 4, out, 0);
  return { x: out[0]!, z: out[1]!, vx: out[2]!, vz: out[3]! };
};

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
        const motion = walk(name, gait, body, steps, first);
        const clip = sampleClip(motion, 60);
        const report = reportOf(clip, body);
        // So many footprints besides the two stood on at first.
        expect(clip.contacts!.length).toBe(steps + 2);
        expect(report.slideMm.atFrames).toBeLessThanOrEqual(0.05);
        expect(report.sinkMm).toBeLessThanOrEqual(0.1);
        expect(report.stretch).toBeLessThanOrEqual(1);
        expect(motion.survey().tooFar).toBe(0);
        expect(clip.poses.every(Number.isFinite)).toBe(true);
      }
    },
  );

  it('starts and ends at rest, with both feet side by side, standing straight', () => {
    const body = shippedBody('marlo');
    for (const name of GAIT_KEYS) {
      const gait = presetFor(name, body);
      const schedule = plan(walkProgram(gait, body, 8, 1));
      const end = schedule.duration;
      for (const t of [0, end]) {
        expect(Math.abs(read(schedule.travel, t).vz)).toBeLessThan(1e-6);
        expect(Math.abs(read(schedule.sway, t).vx)).toBeLessThan(1e-6);
      }
      const last = schedule.footholds.map((holds) => holds[holds.length - 1]!);
      expect(last[0]!.z).toBeCloseTo(last[1]!.z, 12);
      expect(read(schedule.travel, end).z).toBeCloseTo(last[0]!.z, 6);
      const pose = new Float64Array(poseSize(body.skeleton));
      const motion = walk(name, gait, body, 8, 1);
      for (const t of [0, end]) {
        motion.pose(t, pose, 0);
        // A sneak keeps some of its crouch.
        expect(pose[4]! / body.hipHeight).toBeGreaterThan(0.96);
      }
    }
  });

  it('walks its middle at the gait’s own speed and shifts the weight away from the first foot before it leaves', () => {
    const body = shippedBody('marlo');
    const gait = presetFor('walk', body);
    const schedule = plan(walkProgram(gait, body, 20, 0));
    expect(read(schedule.travel, schedule.duration / 2).vz).toBeCloseTo(gait.timing.speed, 3);
    const leaves = schedule.footholds[0][0]!.leaving;
    // The left foot leaves first, so the body is over the right one (negative x) by then, pushed from the left.
    expect(read(schedule.sway, leaves).x).toBeLessThan(-0.01);
    const at = new Float64Array(2);
    const pushes = Array.from({ length: 20 }, (_, i) => {
      readSupport(schedule.sway, (leaves * i) / 20, at, 0);
      return at[0]!;
    });
    expect(Math.max(...pushes)).toBeGreaterThan(0.005);
  });

  it('stands before its first step as long as after its last: 3.2 time constants of the pendulum', () => {
    const body = shippedBody('marlo');
    const { footholds, duration } = plan(walkProgram(presetFor('walk', body), body, 6, 0));
    const standing = 3.2 * Math.sqrt(body.hipHeight / 9.81);
    expect(footholds[0][0]!.leaving).toBeCloseTo(standing, 9);
    const passes = Math.max(...footholds.flat().map((h) => h.landing));
    expect(duration - passes).toBeGreaterThan(standing);
    expect(duration - passes).toBeLessThan(standing + 0.4);
  });

  it('begins with the foot that was asked for', () => {
    const body = shippedBody('pip');
    const gait = presetFor('walk', body);
    for (const first of [0, 1] as const) {
      const landed = plan(walkProgram(gait, body, 4, first))
        .footholds.flat()
        .filter((h) => h.landing > 0);
      expect(landed.sort((a, b) => a.landing - b.landing)[0]!.side).toBe(first);
    }
  });

  it('goes ahead also with a gait that was made for another direction', () => {
    const body = shippedBody('marlo');
    const side = setMembers(defaultSet(), presetFor('walk', body))[2]!.gait;
    const order = planOrder(defaultPlan(), side, body, 30);
    const made = makeClip(order, 30, { inPlace: false });
    expect(order.motion.pace.direction).toBe(0);
    expect(made.document.info.travel[0]).toBeCloseTo(0, 9);
    expect(made.document.info.travel[1]).toBeGreaterThan(3);
    const place = createPlacement();
    order.motion.place(order.motion.duration, place);
    expect(place[3]).toBe(0);
  });

  it('refuses fewer than two steps, part steps and nonsense', () => {
    const body = shippedBody('marlo');
    for (const steps of [1, 0, 2.5, NaN, -3])
      expect(() => planMotion({ ...defaultPlan(), steps }, body, { gait: () => presetFor('walk', body) })).toThrow(RangeError);
    for (const bad of [{ steps: 1 }, { steps: 1e6 }, { firstFoot: 'middle' }, { gait: '' }])
      expect(planSpecSchema.safeParse({ ...defaultPlan(), ...bad }).success).toBe(false);
  });
});
