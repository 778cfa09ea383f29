import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import { legAngles } from '../measure/angles';
import { contactPhases, supportShare } from './contact-phases';
import { FOOT, FOOT_SIZE } from '../solve/foot-state';
import { evaluateFoot } from '../tests/feet';
import { cycleClip, presetFor, reportOf, shippedBody } from '../tests/cast';
import { PHASE_PATTERNS, patternOf, withPattern } from './patterns';
import { gaitSpecSchema } from './schema';
import { sidedGait } from './sides';
import { follow, nearbyFrames, structuredCloneGait } from './timing';

const body = shippedBody('marlo');
const walk = presetFor('walk', body);
const solve = (gait: typeof walk) => cycle(gait, body);

describe('left and right', () => {
  it('are the same half a stride apart until a value is split, and then differ by that value alone', () => {
    const gait = structuredCloneGait(walk);
    gait.right['feet.lift'] = 0.2;
    expect(gaitSpecSchema.safeParse(gait).success).toBe(true);
    const { sides } = sidedGait(gait);
    expect([sides[0].feet.lift, sides[1].feet.lift]).toEqual([walk.feet.lift, 0.2]);
    expect(sides[1].feet.toeOut).toBe(sides[0].feet.toeOut);
    const pose = new Float64Array(98);
    const height = (motion: ReturnType<typeof solve>, side: 0 | 1) => {
      const state = new Float64Array(FOOT_SIZE);
      evaluateFoot(motion, side, (((side === 0 ? 0 : 0.5) + 0.78) % 1) * gait.timing.strideTime, state);
      return state[FOOT.y]!;
    };
    const limp = solve(gait);
    expect(height(limp, 1) - height(limp, 0)).toBeGreaterThan(0.05);
    const even = solve(walk);
    for (const p of [0.1, 0.4, 0.8]) {
      even.pose(p * walk.timing.strideTime, pose, 0);
      const left = legAngles(pose, 6, 0);
      even.pose(((p + 0.5) % 1) * walk.timing.strideTime, pose, 0);
      const right = legAngles(pose, 6, 1);
      for (const joint of ['hip', 'knee', 'ankle'] as const) expect(right[joint]).toBeCloseTo(left[joint], 9);
    }
  });

  it('may stand for different times: a limp measured from its own feet', () => {
    const limp = presetFor('limp', body);
    const { clip } = cycleClip(limp, body, 60);
    const { dutyFactor } = reportOf({ ...clip, contacts: null }, body).timing;
    expect(dutyFactor.left).toBeCloseTo(0.7, 1);
    expect(dutyFactor.right).toBeCloseTo(0.5, 1);
  });

  it('refuses a split of what has no sides', () => {
    const gait = structuredCloneGait(walk);
    gait.right['hips.crouch'] = 0.1;
    expect(gaitSpecSchema.safeParse(gait).success).toBe(false);
  });
});

describe('walking backward', () => {
  it('goes the other way with toes landing first and feet still', () => {
    const gait = structuredCloneGait(walk);
    gait.timing.strideLength = -0.9;
    follow(gait.timing, 'speed');
    expect(gaitSpecSchema.safeParse(gait).success).toBe(true);
    const { clip, motion } = cycleClip(gait, body, 60);
    expect(clip.loopTravel[2]).toBeCloseTo(-0.9, 9);
    const report = reportOf(clip, body);
    expect(report.slideMm.atFrames).toBeLessThan(0.05);
    expect(report.sinkMm).toBeLessThan(0.1);
    const state = new Float64Array(FOOT_SIZE);
    evaluateFoot(motion, 0, 1e-4, state);
    expect(state[FOOT.pitch]).toBeLessThan(-0.2);
    evaluateFoot(motion, 0, gait.timing.dutyFactor * motion.duration - 1e-4, state);
    expect(state[FOOT.pitch]).toBeGreaterThan(0);
  });

  it('stands on the spot at speed 0', () => {
    const gait = structuredCloneGait(walk);
    gait.timing.strideLength = 0;
    follow(gait.timing, 'speed');
    const { clip, motion } = cycleClip(gait, body, 30);
    expect(clip.poses.every(Number.isFinite)).toBe(true);
    expect(motion.survey().tooFar).toBe(0);
    expect(Math.hypot(...clip.loopTravel)).toBe(0);
  });
});

describe('phase patterns', () => {
  it.each(PHASE_PATTERNS)('$label holds its feet and is known again', (pattern) => {
    const gait = withPattern(walk, pattern);
    expect(patternOf(gait)?.key).toBe(pattern.key);
    expect(gaitSpecSchema.safeParse(gait).success).toBe(true);
    const { clip, motion } = cycleClip(gait, body, 60);
    const report = reportOf(clip, body);
    expect(report.slideMm.atFrames).toBeLessThan(0.05);
    expect(motion.survey().tooFar).toBe(0);
  });

  it('a skip puts every foot down twice a stride, a hop both feet at once', () => {
    const { sides } = sidedGait(presetFor('skip', body));
    expect(contactPhases(sides[0], 0)).toHaveLength(2);
    expect(presetFor('skip', body).timing.skip).toBeGreaterThan(0);
    const hop = cycle(presetFor('hop', body), body).contacts;
    expect(hop.filter((c) => c.side === 0).map((c) => c.from)).toEqual(hop.filter((c) => c.side === 1).map((c) => c.from));
  });

  it('share the stride into double support, single support and flight by arithmetic', () => {
    const contacts = (duty: number) => [[{ start: 0, duration: duty }], [{ start: 0.5, duration: duty }]];
    expect(supportShare(contacts(0.62), 2)).toBeCloseTo(0.24, 2);
    expect(supportShare(contacts(0.62), 0)).toBe(0);
    expect(supportShare(contacts(0.35), 0)).toBeCloseTo(0.3, 2);
  });
});

describe('whole frames', () => {
  it('offers the counts on both sides with the change of speed they mean', () => {
    const offers = nearbyFrames({ strideTime: 1.05 }, 24);
    expect(offers.map((o) => o.frames)).toEqual([25, 26]);
    expect(offers[0]!.change).toBeCloseTo(25.2 / 25 - 1, 12);
    expect(offers[1]!.change).toBeCloseTo(25.2 / 26 - 1, 12);
    expect(nearbyFrames({ strideTime: 1 }, 24).map((o) => o.frames)).toEqual([24]);
  });
});
