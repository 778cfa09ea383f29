import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import { SHOULDER, SIDES } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { createArmRoom } from '../body/trunk';
import { structuredCloneGait } from '../gait/timing';
import { notesOf } from '../handover/notes';
import { rotate } from '../math/quaternion';
import { GRAVITY } from '../math/scalar';
import { BODY_KEYS, presetFor, shippedBody } from '../tests/cast';
import type { Carry } from '../gait/spec';
import { palmLength } from '../body/arms';
import { lanternAngle, lanternSwing, linearLanternAngle, propOf, wheelAngle } from './props';

const carrying = (carry: Carry, key: (typeof BODY_KEYS)[number] = 'marlo') => {
  const body = shippedBody(key);
  const gait = structuredCloneGait(presetFor('walk', body));
  gait.carry = carry;
  return { body, gait, motion: cycle(gait, body) };
};

describe('both hands on the mail cart', () => {
  it.each(BODY_KEYS)('%s keeps both palms on the handle, exactly, at every moment of the stride', (key) => {
    const { body, gait, motion } = carrying('cart', key);
    const pose = new Float64Array(poseSize(body.skeleton));
    const world = createWorldPose(body.skeleton);
    const out = [0, 0, 0];
    for (let i = 0; i < 40; i++) {
      motion.pose((i / 40) * gait.timing.strideTime, pose, 0);
      forwardKinematics(body.skeleton, pose, 0, world);
      for (const side of SIDES) {
        const wrist = SHOULDER[side] + 3;
        const sign = side === 0 ? 1 : -1;
        const handle = [pose[0]! + (sign * gait.props.gripWidth) / 2, gait.props.handleHeight, pose[2]! + gait.props.handleAhead];
        const d = Math.hypot(...[0, 1, 2].map((k) => world.positions[wrist * 3 + k]! - handle[k]!));
        // The palm reaches from the wrist to the handle.
        expect(d).toBeCloseTo(palmLength(body), 9);
        // The elbow hangs below the line from shoulder to hand.
        const elbow = world.positions[(wrist - 1) * 3 + 1]!;
        expect(elbow).toBeLessThan((world.positions[(wrist - 2) * 3 + 1]! + world.positions[wrist * 3 + 1]!) / 2);
        rotate(out, 0, world.rotations, wrist * 4, sign, 0, 0);
        expect(Math.hypot(...out)).toBeCloseTo(1, 9);
      }
    }
    expect(motion.survey().handMissed).toBeLessThan(1e-9);
  });

  it('says so where the handle is out of reach', () => {
    const { body, gait } = carrying('cart');
    gait.props.handleAhead = 0.9;
    const far = cycle(gait, body);
    expect(far.survey().handMissed).toBeGreaterThan(0.05);
    expect(
      notesOf(gait, far, 60)
        .map((n) => n.words)
        .join(),
    ).toContain('short of the handle');
  });

  it('rolls its wheels without slipping: the rim goes as far as the road', () => {
    const { gait, motion } = carrying('cart');
    const { wheelRadius } = gait.props;
    const pose = new Float64Array(98);
    motion.pose(0.4, pose, 0);
    expect(wheelAngle(pose[2]!, wheelRadius) * wheelRadius).toBeCloseTo(pose[2]!, 12);
    expect(wheelAngle(2 * Math.PI * wheelRadius, wheelRadius)).toBeCloseTo(2 * Math.PI, 12);
  });
});

describe('the lantern', () => {
  it('swings as a long simulation of the damped pendulum settles to (linear, driven by the hand), in both directions', () => {
    const { body, gait, motion } = carrying('lanternRight');
    const swing = lanternSwing(motion, gait.props, 1);
    const T = gait.timing.strideTime;
    const STEPS = 512;
    const pose = new Float64Array(poseSize(body.skeleton));
    const world = createWorldPose(body.skeleton);
    const { cord, cordDamping } = gait.props;
    const omega = Math.sqrt(GRAVITY / cord);
    for (const axis of [0, 1] as const) {
      const hand = Array.from({ length: STEPS }, (_, i) => {
        motion.pose((T * i) / STEPS, pose, 0);
        forwardKinematics(body.skeleton, pose, 0, world);
        const j = (SHOULDER[1] + 3) * 3;
        return axis === 0 ? world.positions[j + 2]! - pose[2]! : world.positions[j]! - pose[0]!;
      });
      const at = (i: number) => hand[((i % STEPS) + STEPS) % STEPS]!;
      const dt = T / STEPS;
      const acceleration = (i: number) => (at(i + 1) - 2 * at(i) + at(i - 1)) / dt ** 2;
      let y = 0,
        v = 0;
      let worst = 0,
        largest = 0;
      // Semi-implicit steps, small against the period; forty strides let the start die away.
      for (let i = 0; i < 60 * STEPS; i++) {
        v += dt * (-acceleration(i) / cord - 2 * cordDamping * omega * v - omega * omega * y);
        y += dt * v;
        if (i < 59 * STEPS) continue;
        const exact = linearLanternAngle(swing, axis, ((i + 1) % STEPS) / STEPS);
        worst = Math.max(worst, Math.abs(exact - y));
        largest = Math.max(largest, Math.abs(exact));
      }
      expect(largest).toBeGreaterThan(0.02);
      expect(worst).toBeLessThan(0.06 * largest);
    }
  });

  it('never swings over the top, also where the arm drives the cord near its own rhythm; small swings stay the linear ones', () => {
    const { motion, gait } = carrying('lanternLeft');
    const swing = lanternSwing(motion, gait.props, 0);
    let largest = 0;
    for (let p = 0; p < 1; p += 0.01)
      for (const axis of [0, 1] as const) {
        const [shown, linear] = [lanternAngle(swing, axis, p), linearLanternAngle(swing, axis, p)];
        largest = Math.max(largest, Math.abs(linear));
        expect(Math.abs(shown)).toBeLessThan(1);
        if (Math.abs(linear) < 0.1) expect(Math.abs(shown - linear)).toBeLessThan(4e-4);
      }
    expect(largest).toBeGreaterThan(1.5);
  });

  it('closes with the stride and hangs still when nothing moves it', () => {
    const { motion, gait } = carrying('lanternLeft');
    const swing = lanternSwing(motion, gait.props, 0);
    for (const axis of [0, 1] as const) expect(lanternAngle(swing, axis, 1)).toBeCloseTo(lanternAngle(swing, axis, 0), 12);
    const free = carrying('nothing');
    expect(propOf(free.motion, free.gait)).toBeNull();
  });
});

describe('arms', () => {
  it.each(BODY_KEYS.flatMap((key) => ['walk', 'run', 'brisk', 'plod', 'jog', 'bounce'].map((gait) => ({ key, gait }))))(
    'keep their clearance from trunk and thighs: $gait, $key',
    ({ key, gait: name }) => {
      const body = shippedBody(key);
      const gait = structuredCloneGait(presetFor(name, body));
      // Arms pressed to the body: the clearance must take them out.
      gait.arms.out.offset = 0;
      gait.arms.clearance = 0.02;
      const motion = cycle(gait, body);
      const pose = new Float64Array(poseSize(body.skeleton));
      const world = createWorldPose(body.skeleton);
      const room = createArmRoom(body);
      let least = Infinity;
      for (let i = 0; i < 48; i++) {
        motion.pose((i / 48) * gait.timing.strideTime, pose, 0);
        forwardKinematics(body.skeleton, pose, 0, world);
        for (const side of SIDES) least = Math.min(least, room(world, side));
      }
      // Looked at more finely than the solver does; what is missing is said.
      expect(least).toBeGreaterThan(0.02 - motion.survey().armsClose - 0.004);
      if (motion.survey().armsClose > 1e-3)
        expect(
          notesOf(gait, motion, 60)
            .map((n) => n.words)
            .join(),
        ).toContain('closer to the body');
    },
  );

  it('stay where the channels put them when there is room', () => {
    const { motion } = carrying('nothing');
    expect(motion.survey().armsOut).toEqual([0, 0]);
  });
});
