import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import { SIDES } from '../body/roles';
import { legAngles, type LegAngles } from '../measure/angles';
import { toDegrees } from '../math/scalar';
import { froude, structuredCloneGait } from '../gait/timing';
import { presetCycle, presetFor } from '../tests/cast';
import { rmsAgainst, WALKING_CURVES } from '../measure/published-curves';
import { FOOT, FOOT_SIZE } from './foot-state';
import { evaluateFoot } from '../tests/feet';
import { longestReach } from './leg';
import { createLegsRoom } from './legs-room';
import { createTargets, TARGET } from './targets';
import { solePoints } from './rocker';

const motion = presetCycle('walk');
const { body } = motion;
const gait = presetFor('walk', body);
const T = gait.timing.strideTime;
const pose = new Float64Array(98);
const at = (phase: number): Float64Array => {
  motion.pose(phase * T, pose, 0);
  return pose;
};
const samples = (n: number, read: (phase: number) => number) => Array.from({ length: n }, (_, i) => read(i / n));
const range = (v: number[]) => Math.max(...v) - Math.min(...v);

describe('the natural walk against published values (from memory of the sources named)', () => {
  it.each(['hip', 'knee', 'ankle'] as (keyof LegAngles)[])('%s stays within 5° RMS of Winter / Perry & Burnfield, both sides', (joint) => {
    for (const side of SIDES) {
      const angle = (percent: number) => toDegrees(legAngles(at((percent / 100 + side * 0.5) % 1), 6, side)[joint]);
      // The hip curve is against a pelvis tilted by 8–10°: a constant offset of at most 6° may be taken out.
      expect(rmsAgainst(WALKING_CURVES[joint], angle, joint === 'hip' ? 6 : 0)).toBeLessThan(5);
    }
  });

  it('moves the hips 35–55 mm up and down, twice a stride', () => {
    const heights = samples(200, (p) => at(p)[4]!);
    expect(range(heights)).toBeGreaterThan(0.035);
    expect(range(heights)).toBeLessThan(0.055);
    for (const p of [0.1, 0.27, 0.4]) expect(at(p)[4]).toBeCloseTo(at(p + 0.5)[4]!, 9);
  });

  it('keeps the animators’ frame pattern at 24 fps: hips lowest near frame 4, highest near frame 10 (common practice, no published source)', () => {
    const heights = samples(96, (p) => at(p)[4]!).slice(0, 48);
    const frameOf = (i: number) => 1 + (i / 96) * 24;
    expect(Math.abs(frameOf(heights.indexOf(Math.min(...heights))) - 4)).toBeLessThanOrEqual(2);
    expect(Math.abs(frameOf(heights.indexOf(Math.max(...heights))) - 10)).toBeLessThanOrEqual(2);
  });

  it('keeps the timing table of Perry & Burnfield: stance 60–62 %, double support 10–12 % each, cadence 108–118, step width 5–13 cm', () => {
    expect(gait.timing.dutyFactor).toBeGreaterThanOrEqual(0.6);
    expect(gait.timing.dutyFactor).toBeLessThanOrEqual(0.62);
    expect(gait.timing.dutyFactor - 0.5).toBeCloseTo(0.11, 1);
    expect(120 / T).toBeGreaterThan(108);
    expect(120 / T).toBeLessThan(118);
    expect(gait.timing.speed).toBeGreaterThanOrEqual(1.3);
    expect(gait.timing.speed).toBeLessThanOrEqual(1.4);
    expect(gait.feet.stepWidth).toBeGreaterThanOrEqual(0.05);
    expect(gait.feet.stepWidth).toBeLessThanOrEqual(0.13);
    // Walk ratio, step length / cadence: 0.0060–0.0070 m per step/min (Sekiya and others).
    expect(gait.timing.strideLength / 2 / (120 / T)).toBeGreaterThan(0.006);
    expect(gait.timing.strideLength / 2 / (120 / T)).toBeLessThan(0.007);
  });

  it('lands with the toes up 15–25°, leaves with the heel up 55–70°, turns and lists the pelvis by 3–6°', () => {
    const state = new Float64Array(FOOT_SIZE);
    evaluateFoot(motion, 0, 0, state);
    expect(toDegrees(state[FOOT.pitch]!)).toBeGreaterThan(15);
    expect(toDegrees(state[FOOT.pitch]!)).toBeLessThan(25);
    evaluateFoot(motion, 0, gait.timing.dutyFactor * T, state);
    expect(toDegrees(-state[FOOT.pitch]!)).toBeGreaterThan(55);
    expect(toDegrees(-state[FOOT.pitch]!)).toBeLessThan(70);
    for (const c of [gait.hips.turn, gait.hips.list]) {
      expect(toDegrees(c.amount)).toBeGreaterThan(3);
      expect(toDegrees(c.amount)).toBeLessThan(6);
    }
  });

  it('clears the ground with the toes by 10–25 mm at the least in mid-swing', () => {
    const state = new Float64Array(FOOT_SIZE);
    const points = new Float64Array(6);
    // The least height over the middle of the swing, where the toe passes under the body.
    const least = Math.min(
      ...samples(60, (u) => {
        evaluateFoot(motion, 0, (gait.timing.dutyFactor + (0.35 + 0.3 * u) * (1 - gait.timing.dutyFactor)) * T, state);
        solePoints(body.sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
        return state[FOOT.y]! + points[5]!;
      }),
    );
    expect(least).toBeGreaterThan(0.01);
    expect(least).toBeLessThan(0.025);
  });

  it('has the Froude number v²/(gℓ) by arithmetic: 0.5 at 2.10 m/s for ℓ = 0.9 m', () => {
    expect(froude(2.1, 0.9)).toBeCloseTo(0.4995, 4);
    expect(froude(Math.sqrt(9.81 * 0.9), 0.9)).toBeCloseTo(1, 12);
  });

  it('sways over the standing foot', () => {
    expect(at(0.3)[3]).toBeGreaterThan(0);
    expect(at(0.8)[3]).toBeLessThan(0);
    expect(range(samples(100, (p) => at(p)[3]!))).toBeGreaterThan(0.025);
    expect(range(samples(100, (p) => at(p)[3]!))).toBeLessThan(0.05);
  });
});

describe('hips over stiff legs', () => {
  it('run along the compass gait’s arc √(ℓ² − x²), and dip as it does (exact, but for the rounding of the smooth minimum)', () => {
    // Flat feet under the hip joints, nothing that moves the pelvis, every foot ahead of the hips: only reach sets the height.
    const stiff = structuredCloneGait(gait);
    Object.assign(stiff.feet, { landingPitch: 0, liftOffPitch: 0, stepWidth: 2 * body.legs[0].hip[0], toeOut: 0, landAhead: 0.7 });
    Object.assign(stiff.hips, {
      crouch: 0,
      sway: 0,
      rise: { offset: 0.1, amount: 0, delay: 0 },
      list: { offset: 0, amount: 0, delay: 0 },
      tilt: { offset: 0, amount: 0, delay: 0 },
    });
    stiff.hips.turn.amount = stiff.hips.surge.amount = 0;
    Object.assign(stiff.timing, { strideLength: 1, dutyFactor: 0.55, speed: 1 / T });
    stiff.legs.straightest = 0.02;
    const walk = cycle(stiff, body);
    const hipsAt = (phase: number) => {
      walk.pose(phase * T, pose, 0);
      return pose[4]!;
    };
    const reach = longestReach(body.legs[0], 0.02);
    const ahead = 0.7 * 0.55;
    // Our plan keeps knees a little from straight: √ and the least bend of 0.06 rad, which shorten the leg by 0.4 mm and what that takes at a slant.
    const bound = 0.005;
    for (let x = 0.1; x <= 0.34; x += 0.02) {
      // The left foot lies x ahead of the hips; the right one is behind or swinging and has slack.
      const compass = body.sole.ankleHeight + Math.sqrt(reach * reach - x * x);
      const h = hipsAt(ahead - x);
      expect(h).toBeLessThanOrEqual(compass + 1e-9);
      expect(compass - h).toBeLessThan(bound + 1e-9);
    }
    const dip = Math.sqrt(reach * reach - 0.1 ** 2) - Math.sqrt(reach * reach - 0.34 ** 2);
    expect(dip).toBeGreaterThan(0.06);
    expect(Math.abs(hipsAt(ahead - 0.1) - hipsAt(ahead - 0.34) - dip)).toBeLessThan(bound);
  });

  it('follow the compass gait’s h(x) = √(ℓ² − x²) under the reach of the standing leg (exact up to the rounding)', () => {
    // The ceiling each foot sets to the hips, from the targets: never above the leg's longest reach.
    const targets = createTargets();
    const room = createLegsRoom(body);
    for (let p = 0; p < 1; p += 0.01) {
      const y = at(p)[4]!;
      motion.targets(p * T, targets);
      room.read(targets);
      for (const side of SIDES) {
        const o = side * 3;
        const d = Math.hypot(targets[TARGET.hips]! + room.joints[o]! - room.ankles[o]!, targets[TARGET.hips + 2]! + room.joints[o + 2]! - room.ankles[o + 2]!);
        const ceiling = room.ankles[o + 1]! + Math.sqrt(body.legLength ** 2 - d ** 2) - room.joints[o + 1]!;
        expect(y).toBeLessThan(ceiling + 1e-9);
      }
    }
  });
});
