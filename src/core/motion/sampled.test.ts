import { describe, expect, it } from 'vitest';
import { UPPER_LEG } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { build } from '../project/motion-spec';
import { plannedWalk, walkMotion } from '../project/planned-walk';
import { presetFor, shippedBody } from '../tests/cast';
import { richGaits, richWalk } from '../tests/rich-walk';
import { stretchOf } from './sampled';

const body = shippedBody('marlo');
const part = {
  body: body.spec,
  bodies: {},
  gaits: richGaits((key) => presetFor(key, body)),
  plans: {
    plan: {
      ...richWalk({ walk: 'walk', run: 'run', sneak: 'sneak', bystander: 'pip' }),
      belt: { over: 'time' as const, keys: [{ at: 0, value: 0.2, next: 'held' as const }] },
    },
  },
  sets: {},
};
const spec = { kind: 'plan', plan: 'plan' } as const;
const { motion } = build(spec, part);

describe('a walk planned elsewhere', () => {
  const planned = structuredClone(plannedWalk(spec, part, 6, () => build(spec, part)));
  const shown = walkMotion(spec, part, planned).motion;

  it('is the walk itself at looks, and between them as near as nobody sees', () => {
    const size = poseSize(body.skeleton);
    const [a, b] = [new Float64Array(size), new Float64Array(size)];
    const [wa, wb] = [createWorldPose(body.skeleton), createWorldPose(body.skeleton)];
    for (let i = 0; i < 360; i++) {
      const t = (660 + i) / 120;
      motion.pose(t, a, 0);
      shown.pose(t, b, 0);
      // The belt moves the one's targets, the other's pose.
      a.forEach((v, k) => expect(Math.abs(b[k]! - v)).toBeLessThan(1e-12));
    }
    let worst = 0;
    for (let i = 0; i < 2000; i++) {
      const t = 5.5 + 2.8 * ((i * 0.618) % 1);
      motion.pose(t, a, 0);
      shown.pose(t, b, 0);
      forwardKinematics(body.skeleton, a, 0, wa);
      forwardKinematics(body.skeleton, b, 0, wb);
      wa.positions.forEach((v, k) => (worst = Math.max(worst, Math.abs(v - wb.positions[k]!))));
    }
    // It runs here: a landing takes less than a look.
    expect(worst).toBeLessThan(0.003);
  });

  it('stands where it stands: between looks the ball of a planted foot goes with its belt to a fifth of a millimetre', () => {
    const pose = new Float64Array(poseSize(body.skeleton));
    const world = createWorldPose(body.skeleton);
    const [here, there] = [new Float64Array(2), new Float64Array(2)];
    const ballAt = (t: number, side: 0 | 1) => {
      shown.pose(t, pose, 0);
      forwardKinematics(body.skeleton, pose, 0, world);
      const k = (UPPER_LEG[side] + 3) * 3;
      return [...world.positions.slice(k, k + 3)];
    };
    let seen = 0;
    for (const hold of motion.footholds(5.5, 8.2)) {
      // Flat on the ground: the ball turns about nothing.
      const [from, to] = [Math.max(5.5, hold.landing + hold.flatAfter), Math.min(8.2, hold.leaving - hold.riseFor)];
      for (let k = Math.ceil(from * 240); k + 1 < to * 240; k++)
        for (const u of [0.2, 0.5, 0.9]) {
          const [a, b] = [ballAt(k / 240, hold.side), ballAt((k + u) / 240, hold.side)];
          shown.deck!(k / 240, here);
          shown.deck!((k + u) / 240, there);
          const by = [there[0]! - here[0]!, 0, there[1]! - here[1]!];
          for (const axis of [0, 1, 2]) expect(Math.abs(b[axis]! - a[axis]! - by[axis]!)).toBeLessThan(2e-4);
          seen++;
        }
    }
    expect(seen).toBeGreaterThan(100);
  });

  it('tells where it is, its prints, strides and way, at any time', () => {
    const [a, b] = [new Float64Array(4), new Float64Array(4)];
    for (let i = 0; i < 500; i++) {
      const t = motion.duration * ((i * 0.618) % 1);
      motion.place(t, a);
      shown.place(t, b);
      a.forEach((v, k) => expect(b[k]).toBeCloseTo(v, 4));
      expect(shown.travelled(t)).toBeCloseTo(motion.travelled(t), 3);
      expect(shown.phaseAt(t)).toBeCloseTo(motion.phaseAt(t), 2);
    }
    expect(shown.footholds(0, motion.duration)).toEqual(motion.footholds(0, motion.duration));
    expect([shown.duration, shown.contacts, shown.strideTime]).toEqual([motion.duration, motion.contacts, motion.strideTime]);
    expect(() => shown.survey()).toThrow(/measured where it was planned/);
  });

  it('learns more of its poses while it is shown; what is not known yet is the nearest that is', () => {
    const size = poseSize(body.skeleton);
    const [a, b] = [new Float64Array(size), new Float64Array(size)];
    expect([shown.knows(6), shown.knows(20)]).toEqual([true, false]);
    shown.pose(20, a, 0);
    shown.pose(60, b, 0);
    // But for the belt, which goes on.
    expect(b.slice(6)).toEqual(a.slice(6));
    shown.take(structuredClone(stretchOf(motion, 19, 21)));
    expect(shown.knows(20)).toBe(true);
    motion.pose(20, b, 0);
    shown.pose(20, a, 0);
    expect(a).toEqual(b);
    // Past its end it stands as the walk does.
    shown.take(structuredClone(stretchOf(motion, motion.duration - 1, motion.duration + 5)));
    motion.pose(motion.duration, a, 0);
    shown.pose(motion.duration + 3, b, 0);
    const ankle = (UPPER_LEG[0] + 2) * 4 + 3;
    expect(b[ankle]).toBeCloseTo(a[ankle]!, 3);
  });

  it('that cannot be walked is something plain, with the reason in words; a quick look at it has the same prints', () => {
    const bad = {
      ...part,
      plans: {
        plan: {
          ...part.plans.plan,
          gait: 'run',
          free: null,
          steps: 3,
          course: { knots: [part.plans.plan.course.knots[0]!, { ...part.plans.plan.course.knots[0]! }] },
        },
      },
    };
    const trouble = plannedWalk(spec, bad, 0, (p) => build(spec, p));
    expect(trouble.trouble).toMatch(/\w/);
    expect(trouble.facts.holds.length).toBeGreaterThan(2);
    const quick = build(spec, part, undefined, true).motion;
    expect(quick.footholds(0, quick.duration)).toEqual(motion.footholds(0, motion.duration));
  });
});
