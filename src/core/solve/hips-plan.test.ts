import { describe, expect, it } from 'vitest';
import { centreOfMass } from '../body/centre-of-mass';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { setTiming, structuredCloneGait } from '../gait/timing';
import type { GaitSpec } from '../gait/spec';
import { GRAVITY } from '../math/scalar';
import type { Motion } from '../motion/motion';
import { cycle, walk } from '../motion/solved';
import { legAngles } from '../measure/angles';
import { BODY_KEYS, presetCycle, presetFor, shippedBody } from '../tests/cast';
import { meter } from '../tests/meters';

const body = shippedBody('marlo');
const pose = new Float64Array(poseSize(body.skeleton));
const hipsOf = (motion: Motion, t: number) => {
  motion.pose(t, pose, 0);
  return pose[4]!;
};
/** Height of the centre of mass, m. */
const world = createWorldPose(body.skeleton);
const centre = new Float64Array(3);
const centreOf = (motion: Motion, t: number) => {
  motion.pose(t, pose, 0);
  forwardKinematics(body.skeleton, pose, 0, world);
  centreOfMass(world, centre, 0);
  return centre[1]!;
};
/** Largest difference (m) of the hips' height between two gaits at the same phase. */
const apart = (a: GaitSpec, b: GaitSpec) => {
  const [x, y] = [cycle(a, body), cycle(b, body)];
  return Math.max(...Array.from({ length: 100 }, (_, i) => Math.abs(hipsOf(x, (i / 100) * x.strideTime) - hipsOf(y, (i / 100) * y.strideTime))));
};

describe('the hips’ plan', () => {
  it.each([
    ...['run', 'jog', 'sprint', 'hop'].map((key) => ({ key, thrown: 'hips', whole: 0, read: hipsOf })),
    ...['run', 'jog', 'sprint', 'skip', 'gallop'].map((key) => ({ key, thrown: 'centre of mass', whole: 1, read: centreOf })),
  ])('$key: in flight the $thrown falls with g times the gait’s gravity, within 0.05 m/s², as a cycle and in a plan', ({ key, whole, read }) => {
    for (const gravity of [1, 0.6]) {
      const gait = structuredCloneGait(presetFor(key, body));
      gait.timing.gravity = gravity;
      gait.timing.wholeBody = whole;
      for (const motion of [cycle(gait, body), walk('w', gait, body, 8, 0)]) {
        const contacts = motion.contacts;
        const d = 1 / 240;
        let looked = 0;
        for (let t = d; t < Math.min(motion.duration, 8) - d; t += 0.004) {
          const near = [t - d, t, t + d];
          const round = motion.repeat ? motion.duration : Infinity;
          const stands = near.some((x) => contacts.some((c) => (x >= c.from && x <= c.to) || (x + round >= c.from && x + round <= c.to)));
          if (stands) continue;
          looked++;
          expect((read(motion, t + d) - 2 * read(motion, t) + read(motion, t - d)) / (d * d)).toBeCloseTo(-GRAVITY * gravity, 1);
        }
        expect(looked).toBeGreaterThan(10);
      }
    }
  });

  it('has no cliff where there was one: stride 2.30 → 2.35 m moves a run’s hips by 20 mm at most, duty 0.345 → 0.40 by 40 mm', () => {
    const run = presetFor('run', body);
    expect(apart(setTiming(run, 'strideLength', 2.3), setTiming(run, 'strideLength', 2.35))).toBeLessThanOrEqual(0.02);
    const duty = (d: number) => ({ ...run, timing: { ...run.timing, dutyFactor: d } });
    expect(apart(duty(0.345), duty(0.4))).toBeLessThanOrEqual(0.04);
  });

  it('carries the natural walk gently: load 0.6–1.35 of the weight, hips 35–46 mm, the standing knee never straightens faster than 120 °/s', () => {
    const motion = presetCycle('walk');
    const got = meter(motion);
    expect(got.load[0]).toBeGreaterThanOrEqual(0.6);
    expect(got.load[1]).toBeLessThanOrEqual(1.35);
    expect(got.heights[1] - got.heights[0]).toBeGreaterThanOrEqual(0.035);
    expect(got.heights[1] - got.heights[0]).toBeLessThanOrEqual(0.046);
    const T = motion.strideTime;
    const knee = (u: number) => {
      motion.pose(u * T, pose, 0);
      return (legAngles(pose, 6, 0).knee * 180) / Math.PI;
    };
    for (let u = 0.15; u <= 0.45; u += 0.005) expect((knee(u - 0.002) - knee(u + 0.002)) / (0.004 * T)).toBeLessThanOrEqual(120);
  });

  it.each(['run', 'jog'])('%s: a plan is the cycle, in place and at the same phase, within 5 mm and 2°', (key) => {
    const gait = presetFor(key, body);
    const round = cycle(gait, body);
    const [a, b] = [pose, new Float64Array(pose.length)];
    const [wa, wb] = [createWorldPose(body.skeleton), createWorldPose(body.skeleton)];
    const different = (plan: Motion, from: number, to: number) => {
      let [far, turned] = [0, 0];
      for (let i = 0; i <= 120; i++) {
        const t = from + ((to - from) * i) / 120;
        const phase = plan.phaseAt(t);
        plan.pose(t, a, 0);
        round.pose((phase - Math.floor(phase)) * round.strideTime, b, 0);
        forwardKinematics(body.skeleton, a, 0, wa);
        forwardKinematics(body.skeleton, b, 0, wb);
        for (let j = 1; j < body.skeleton.names.length; j++) {
          const d = [0, 1, 2].map((k) => wa.positions[j * 3 + k]! - wb.positions[j * 3 + k]! - (k === 1 ? 0 : a[k]! - b[k]!));
          far = Math.max(far, Math.hypot(...d));
          const dot = Math.abs([0, 1, 2, 3].reduce((s, k) => s + a[6 + j * 4 + k]! * b[6 + j * 4 + k]!, 0));
          turned = Math.max(turned, (2 * Math.acos(Math.min(1, dot)) * 180) / Math.PI);
        }
      }
      return { far, turned };
    };
    const landings = (plan: Motion) => plan.contacts.filter((c) => c.from > 0).map((c) => c.from);
    const long = walk('w', gait, body, 25, 0);
    const at = landings(long);
    // Step k goes from landing k − 1 to landing k; from the fifth to the fifth from the end.
    for (let k = 5; k <= 21; k++) {
      const { far, turned } = different(long, at[k - 2]!, at[k - 1]!);
      expect(far, `step ${k}`).toBeLessThanOrEqual(0.005);
      expect(turned, `step ${k}`).toBeLessThanOrEqual(2);
    }
    const short = walk('w', gait, body, 10, 0);
    const middle = different(short, landings(short)[4]!, landings(short)[5]!);
    expect(middle.far).toBeLessThanOrEqual(0.005);
    expect(middle.turned).toBeLessThanOrEqual(2);
  });

  it.each(BODY_KEYS)('%s: a plan stands at its ends, breathes meanwhile and settles after its stop', (key) => {
    const own = shippedBody(key);
    for (const name of ['walk', 'run', 'sneak', 'old']) {
      const motion = walk('w', presetFor(name, own), own, 6, 0);
      const chest = (t: number) => {
        motion.pose(t, pose, 0);
        return pose.slice(6);
      };
      const speed = (t: number) => Math.max(...chest(t + 1e-3).map((v, i) => Math.abs(v - chest(t)[i]!))) / 1e-3;
      expect(speed(0)).toBeLessThan(0.02);
      expect(speed(motion.duration - 1e-3)).toBeLessThan(0.02);
      // Never quite still before the first foot leaves nor after the last one lands.
      const last = Math.max(...motion.contacts.map((c) => c.from));
      for (const [from, to] of [
        [0.25, 0.6],
        [last + 0.1, motion.duration - 0.4],
      ] as const)
        for (let t = from; t < to; t += 0.1) expect(speed(t), `${name} ${t}`).toBeGreaterThan(0.002);
    }
  });
});
