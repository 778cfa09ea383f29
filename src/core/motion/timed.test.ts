import { describe, expect, it } from 'vitest';
import { buildCourse } from '../course/build';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { measureFooting } from '../measure/footing';
import { GRAVITY } from '../math/scalar';
import { plainPrintEdit } from '../steps/print-spec';
import { defaultPlan, type PlanSpec } from '../steps/plan';
import { planMotion, shotOf } from '../steps/motion';
import { presetFor, shippedBody } from '../tests/cast';
import { lanternWay, propOf } from './props';
import { clockOf, timed } from './timed';

const body = shippedBody('marlo');
const motion = (more: Partial<PlanSpec> = {}, key = 'walk') => planMotion({ ...defaultPlan(), steps: 6, ...more }, body, { gait: () => presetFor(key, body) });
const pose = (m: ReturnType<typeof motion>, t: number) => {
  const out = new Float64Array(poseSize(body.skeleton));
  m.pose(t, out, 0);
  return out;
};

describe('a clock of its own', () => {
  it('plays at half the rate, holds a moment, and comes back; contacts lie where their feet stand', () => {
    const plain = motion();
    const key = (at: number, value: number) => ({ at, value, next: 'smooth' as const });
    const slow = motion({ clock: { over: 'time', keys: [key(0, 1), key(1.5, 1), key(2, 0), key(3, 0), key(3.5, 0.5)] } });
    expect(slow.duration).toBeGreaterThan(plain.duration + 1.5);
    pose(slow, 1.2).forEach((v, k) => expect(v).toBeCloseTo(pose(plain, 1.2)[k]!, 9));
    // Held: the figure does not stir.
    pose(slow, 2.2).forEach((v, k) => expect(v).toBeCloseTo(pose(slow, 2.9)[k]!, 9));
    expect(measureFooting(slow, 120).slideMm).toBeLessThanOrEqual(0.05);
    expect(slow.contacts).toHaveLength(plain.contacts.length);
    pose(slow, slow.duration).forEach((v, k) => expect(v).toBeCloseTo(pose(plain, plain.duration)[k]!, 6));
  });

  it('is exact for an even rate, and its two readings undo each other', () => {
    const map = clockOf(() => 0.5, 3, 100);
    expect(map.duration).toBeCloseTo(6, 6);
    for (const t of [0, 0.7, 2.3, 5.9]) {
      expect(map.source(t)).toBeCloseTo(t / 2, 9);
      expect(map.time(map.source(t))).toBeCloseTo(t, 6);
    }
  });

  it('is what knees and hips are judged by: at half the rate they are turned a quarter as hard', () => {
    const plain = motion();
    const own = plain.survey();
    const slow = timed(
      plain,
      clockOf(() => 0.5, plain.duration, 100),
    ).survey();
    expect(slow.kneeSnap / own.kneeSnap).toBeCloseTo(0.25, 1);
    expect(slow.hipsAcceleration[1] / own.hipsAcceleration[1]).toBeCloseTo(0.25, 1);
    expect(slow.worst.kneeSnap.side).toBe(own.worst.kneeSnap.side);
    expect(slow.jolts[5]!.most / own.jolts[5]!.most).toBeCloseTo(0.25, 1);
  });

  it('of a shot knows what is in the shot alone: a print out of reach before it is no fault of it, one in it is told by its own time', () => {
    const far = motion({
      steps: 10,
      edits: [
        { ...plainPrintEdit(2), along: -0.8, aside: -0.6, turnDeg: 0 },
        { ...plainPrintEdit(3), along: 1, aside: 0.6, turnDeg: 0 },
      ],
    });
    const { worst, tooFar } = far.survey();
    expect(tooFar).toBeGreaterThan(0.01);
    const at = worst.tooFar.at;
    const [without, within] = [shotOf(far, { firstFrame: 1, from: at + 1, to: null }), shotOf(far, { firstFrame: 1, from: at - 0.5, to: at + 1 })];
    expect(without.survey().tooFar).toBe(0);
    expect(within.survey().tooFar).toBe(tooFar);
    expect(within.survey().worst.tooFar.at).toBeCloseTo(0.5, 9);
    // Cut off while it goes, nothing is jerked that was not.
    const steady = shotOf(motion({ steps: 10 }), { firstFrame: 1, from: 1.7, to: 3.2 });
    expect(steady.survey().kneeSnap).toBeLessThanOrEqual(motion({ steps: 10 }).survey().kneeSnap * 1.02);
  });

  it('cuts a shot out of a walk, in mid-stride', () => {
    const plain = motion();
    const shot = shotOf(plain, { firstFrame: 1, from: 1.7, to: 3.2 });
    expect(shot.duration).toBeCloseTo(1.5, 12);
    expect(pose(shot, 0)).toEqual(pose(plain, 1.7));
    expect(pose(shot, 1.5)).toEqual(pose(plain, 3.2));
    expect(shotOf(plain, { firstFrame: 1, from: null, to: null })).toBe(plain);
    expect(timed(plain, { duration: 1, source: (t) => t, time: (s) => s }).duration).toBe(1);
  });
});

describe('on a belt', () => {
  it('feet hold on it while it carries them: seen from it the same walk, seen from the floor moved', () => {
    const speed = presetFor('walk', body).timing.speed;
    for (const v of [-0.6 * speed, 0.6 * speed]) {
      const carried = motion({ belt: { over: 'time', keys: [{ at: 0, value: v, next: 'held' }] } });
      const plain = motion();
      expect(measureFooting(carried.onGround!, 120).slideMm).toBeLessThanOrEqual(0.05);
      const t = 2.5;
      expect(pose(carried, t)[2]! - pose(plain, t)[2]!).toBeCloseTo(v * t, 6);
      const by = new Float64Array(2);
      carried.deck!(t, by);
      expect([...by]).toEqual([expect.closeTo(0, 9), expect.closeTo(v * t, 6)]);
    }
  });
});

it('tells the way along a bend, not across it', () => {
  const course = {
    knots: [
      { x: 0, z: 0, by: 'smooth' as const },
      { x: 0, z: 2, by: 'straight' as const },
      { x: 3, z: 2, by: 'circle' as const },
      { x: 3, z: 0, by: 'straight' as const },
    ],
  };
  const round = motion({ steps: null, course });
  // The body goes a little inside its course.
  const length = buildCourse(course, 0.7).length;
  expect(round.travelled(round.duration)).toBeGreaterThan(0.92 * length);
  expect(round.travelled(round.duration)).toBeLessThan(length + 0.01);
});

describe('a lantern through a walk', () => {
  const gait = { ...presetFor('stroll', body), carry: 'lanternRight' as const };
  const walk = planMotion({ ...defaultPlan(), steps: 6 }, body, { gait: () => gait });
  it('hangs still at first, swings as a pendulum of its cord does, and comes to rest', () => {
    const angle = lanternWay(walk, gait.props, 1);
    expect(Math.abs(angle(0.2, 0))).toBeLessThan(0.02);
    // Against its equation, from the hand's own way: θ″ + 2ζωθ′ + ω²θ = −a / cord.
    const world = createWorldPose(body.skeleton);
    const hand = (t: number) => {
      forwardKinematics(body.skeleton, pose(walk, t), 0, world);
      return world.positions[body.skeleton.names.indexOf('rightHand') * 3 + 2]!;
    };
    const { cord, cordDamping } = gait.props;
    const omega = Math.sqrt(GRAVITY / cord);
    const h = 1 / 120;
    const linear = (t: number) => Math.atanh(angle(t, 0));
    for (const k of [240, 300, 390]) {
      const t = k * h;
      const second = (linear(t + h) - 2 * linear(t) + linear(t - h)) / (h * h),
        rate = (linear(t + h) - linear(t - h)) / (2 * h);
      const push = (hand(t + h) - 2 * hand(t) + hand(t - h)) / (h * h);
      expect(Math.abs(second + 2 * cordDamping * omega * rate + omega * omega * linear(t) + push / cord)).toBeLessThan(0.08 * omega * omega);
    }
  });
  it('is the same asked in any order', () => {
    const [a, b] = [lanternWay(walk, gait.props, 1), lanternWay(walk, gait.props, 1)];
    const late = a(4, 0);
    expect([b(1, 0), b(4, 0)]).toEqual([a(1, 0), late]);
    expect(propOf(walk, gait)?.kind).toBe('lantern');
  });
});
