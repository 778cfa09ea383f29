import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import { createBody } from '../body/body';
import { PROPORTIONS } from '../body/proportions';
import { SHIPPED_BODIES } from '../body/spec';
import { structuredCloneGait } from '../gait/timing';
import type { GaitSpec } from '../gait/spec';
import { cycleClip, presetFor, reportOf, shippedBody } from '../tests/cast';
import { FOOT, FOOT_SIZE } from './foot-state';
import { evaluateFoot } from '../tests/feet';
import { solePoints } from './rocker';

const body = shippedBody('marlo');
const changed = (change: (g: GaitSpec) => void): GaitSpec => {
  const gait = structuredCloneGait(presetFor('walk', body));
  change(gait);
  return gait;
};
const foot = (gait: GaitSpec) => {
  const motion = cycle(gait, body);
  const state = new Float64Array(FOOT_SIZE);
  const T = gait.timing.strideTime;
  return {
    T,
    at: (phase: number) => {
      evaluateFoot(motion, 0, phase * T, state);
      return { y: state[FOOT.y]!, pitch: state[FOOT.pitch]!, bend: state[FOOT.bend]!, roll: state[FOOT.roll]! };
    },
  };
};

describe('the foot’s channels', () => {
  it('landing speed: the foot waits above the ground and drops about as fast as asked, yet stands without a kick', () => {
    // The swing left to itself, without wait; what the channel adds is the difference.
    const soft = foot(changed((g) => (g.feet.clearance = 0)));
    for (const speed of [0.4, 0.8]) {
      const hard = foot(changed((g) => Object.assign(g.feet, { landing: speed, clearance: 0 })));
      let fastest = 0;
      const d = 1e-4;
      for (let p = 0.9; p < 1 - d; p += 0.0005) {
        const added = (phase: number) => hard.at(phase).y - soft.at(phase).y;
        fastest = Math.max(fastest, -(added(p + d) - added(p)) / (d * hard.T));
      }
      expect(fastest).toBeGreaterThan(0.9 * speed);
      expect(fastest).toBeLessThan(1.1 * speed);
      const rate = (p: number) => (hard.at(p + 1e-6).y - hard.at(p - 1e-6).y) / (2e-6 * hard.T);
      expect(Math.abs(rate(1 - 1e-5) - rate(1e-5))).toBeLessThan(0.02);
    }
  });

  it('roll: the swinging foot turns onto its outer edge, flat again at landing, and the edge still clears the ground', () => {
    const gait = changed((g) => {
      g.feet.roll = 0.4;
      g.feet.lift = 0;
    });
    const rolled = foot(gait);
    const mid = (1 + gait.timing.dutyFactor) / 2;
    expect(rolled.at(mid).roll).toBeCloseTo(0.4, 3);
    expect(rolled.at(0.2).roll).toBe(0);
    expect(Math.abs(rolled.at(0.999).roll)).toBeLessThan(1e-4);
    const points = new Float64Array(6);
    const { y, pitch, bend, roll } = rolled.at(mid);
    solePoints(body.sole, pitch, bend, points);
    const edge = Math.min(points[1]!, points[3]!, points[5]!) + y - (body.sole.breadth / 2) * Math.sin(roll);
    expect(edge).toBeGreaterThan(0.9 * gait.feet.clearance);
  });

  it('heel held up: the sole never comes level, the toes stay flat on the ground', () => {
    const tip = foot(changed((g) => (g.feet.heelUp = 0.5)));
    for (let p = 0.02; p < 0.6; p += 0.02) {
      expect(tip.at(p).pitch).toBeLessThan(-0.45);
      expect(tip.at(p).bend).toBeGreaterThan(0.3);
    }
  });

  it('landing pitch, flat, heel leaves, lift-off and toe bend come out where they are set', () => {
    const gait = changed((g) => Object.assign(g.feet, { landingPitch: 0.2, flatAt: 0.3, heelOff: 0.85, liftOffPitch: 0.9, toeBend: 0.4 }));
    gait.hips.crouch = 0.06; // room, so that no heel has to rise earlier than styled
    const set = foot(gait);
    const duty = gait.timing.dutyFactor;
    expect(set.at(0).pitch).toBeCloseTo(0.2, 6);
    expect(set.at(0.31 * duty).pitch).toBeCloseTo(0, 3);
    expect(set.at(0.5 * duty).pitch).toBeCloseTo(0, 6);
    expect(set.at(duty - 1e-9).pitch).toBeCloseTo(-0.9, 3);
    for (let p = 0; p < duty; p += 0.01) expect(set.at(p).bend).toBeLessThan(0.4 + 0.07);
  });
});

describe('the geometry of the sole', () => {
  it.each([
    ['a long heel', { heelShare: 0.34 }],
    ['small round feet', { footLength: 0.09, footBreadth: 0.09 }],
    ['long feet', { footLength: 0.22 }],
    ['high ankles', { ankleHeight: 0.07 }],
  ])('%s: the rockers follow it and the feet hold', (_, proportions) => {
    const other = createBody({ ...SHIPPED_BODIES.marlo, proportions });
    const { clip, motion } = cycleClip(presetFor('walk', other), other, 60);
    const report = reportOf(clip, other);
    expect(report.slideMm.atFrames).toBeLessThan(0.05);
    expect(report.sinkMm).toBeLessThan(0.1);
    expect(motion.survey().tooFar).toBe(0);
    expect(other.sole.heelBack + other.sole.tipAhead).toBeCloseTo({ ...PROPORTIONS, ...proportions }.footLength * 1.72, 9);
  });
});
