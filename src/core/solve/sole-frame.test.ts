import { describe, expect, it } from 'vitest';
import { rotate } from '../math/quaternion';
import { seeded } from '../tests/random';
import { shippedBody } from '../tests/cast';
import type { Foothold } from '../schedule/foothold';
import { levelGround } from '../ground/ground';
import { slopeGround } from '../ground/slope';
import { FOOT, FOOT_SIZE } from './foot-state';
import { solePoints } from './rocker';
import { SOLE_FRAME, SOLE_FRAME_SIZE, soleAxes, soleFrame } from './sole-frame';
import { createStance, evaluateStance } from './stance';
import { createSwing, evaluateSwing } from './swing';

const rand = seeded(3);
const { sole } = shippedBody('marlo').legs[0];
const frameOf = (heading: number, gx: number, gz: number) => {
  const out = new Float64Array(SOLE_FRAME_SIZE);
  soleFrame(Float64Array.of(heading, gx, gz), 0, out, 0);
  return out;
};

describe('the frame of a sole', () => {
  it('has up the normal, forward its heading laid into the plane, and is the rotation of both; seeded', () => {
    for (let n = 0; n < 500; n++) {
      const [heading, gx, gz] = [20 * rand() - 10, rand() - 0.5, rand() - 0.5];
      const f = frameOf(heading, gx, gz);
      const axes = new Float64Array(6);
      soleAxes(Float64Array.of(heading, gx, gz), 0, axes, 0);
      for (let k = 0; k < 6; k++) expect(f[k]).toBeCloseTo(axes[k]!, 13);
      // In the plane, and over its heading as seen from above.
      expect(f[1]).toBeCloseTo(gx * f[0]! + gz * f[2]!, 12);
      expect(Math.sin(heading) * f[2]! - Math.cos(heading) * f[0]!).toBeCloseTo(0, 12);
      const v = [0, 0, 0];
      rotate(v, 0, f, SOLE_FRAME.turn, 0, 0, 1);
      v.forEach((c, k) => expect(c).toBeCloseTo(f[k]!, 12));
      rotate(v, 0, f, SOLE_FRAME.turn, 0, 1, 0);
      v.forEach((c, k) => expect(c).toBeCloseTo(f[3 + k]!, 12));
    }
  });

  it('on the level is the turn about Y by the heading, to the last bit of its sign however far it has wound', () => {
    for (const heading of [0, 0.3, -2, 3.5, 7, -11]) {
      const f = frameOf(heading, 0, 0);
      expect(f[7]).toBeCloseTo(Math.sin(heading / 2), 14);
      expect(f[9]).toBeCloseTo(Math.cos(heading / 2), 14);
      expect([f[6], f[8]].every((v) => Math.abs(v!) < 1e-15)).toBe(true);
    }
  });
});

/** A foothold at random on a plane through the origin. */
function foothold(side: 0 | 1, landing: number, angle: number, towards: number): Foothold {
  const ground = slopeGround(angle, towards);
  const [x, z] = [2 * rand(), 2 * rand()];
  return {
    side,
    step: 0,
    x,
    y: ground.height(x, z),
    z,
    heading: 6 * rand(),
    slopeX: Math.tan(angle) * Math.sin(towards),
    slopeZ: Math.tan(angle) * Math.cos(towards),
    landing,
    leaving: landing + 0.6,
    landingPitch: 0.5 * rand() - 0.2,
    leavingPitch: -1.2 * rand(),
    standingPitch: 0,
    flatAfter: 0.15,
    riseFor: 0.25,
    toeBend: 0.5,
    swing: { stride: 1.4, lift: 0.03, liftPeak: 0.6, clearance: 0.01, landing: 0, swingBias: 0.2, pitchBias: 0, swingOut: 0.03, roll: 0.1 },
  };
}
/** Nothing pulls: hips right over the foot, legs long. */
const slack = (_clock: Float64Array, out: Float64Array) => out.set([0, 0.5, 0, 5]);

/** Heel, ball and tip of a foot state over a plane through the origin, along its normal, and in the world. */
function pointsOver(state: Float64Array, angle: number, towards: number) {
  const points = new Float64Array(6);
  const axes = new Float64Array(6);
  solePoints(sole, state[FOOT.pitch]!, state[FOOT.bend]!, points);
  soleAxes(state, FOOT.heading, axes, 0);
  const up = [-Math.sin(angle) * Math.sin(towards), Math.cos(angle), -Math.sin(angle) * Math.cos(towards)];
  return [0, 2, 4].map((k) => {
    const p = [0, 1, 2].map((c) => state[c]! + axes[c]! * points[k]! + axes[3 + c]! * points[k + 1]!);
    return { p, height: p[0]! * up[0]! + p[1]! * up[1]! + p[2]! * up[2]! };
  });
}

describe('a foot on any plane', () => {
  it('rolls about pivots that lie still in the plane, none of it under the ground; random footholds', () => {
    for (let n = 0; n < 60; n++) {
      const [angle, towards] = [0.7 * rand() - 0.35, 6 * rand()];
      const hold = foothold(0, 0, angle, towards);
      const stance = createStance(sole, hold, slack, 41);
      const state = new Float64Array(FOOT_SIZE);
      let before: ReturnType<typeof pointsOver> | null = null;
      for (let i = 0; i <= 120; i++) {
        evaluateStance(sole, stance, Float64Array.of((0.6 * i) / 120), 0, state, 0, new Float64Array(4));
        const now = pointsOver(state, angle, towards);
        expect(Math.min(...now.map((q) => q.height))).toBeGreaterThan(-1e-9);
        expect(Math.min(...now.map((q) => Math.abs(q.height)))).toBeLessThan(1e-9);
        // What lies on the ground now as before has not moved.
        now.forEach((q, k) => {
          const was = before?.[k];
          if (was && Math.abs(q.height) < 1e-12 && Math.abs(was.height) < 1e-12) expect(Math.hypot(...q.p.map((v, c) => v - was.p[c]!))).toBeLessThan(1e-9);
        });
        before = now;
      }
    }
  });

  it('swings from one plane to another, joining both in place and rate, and stays above a plane it goes over; random footholds', () => {
    for (let n = 0; n < 40; n++) {
      const [angle, towards] = [0.5 * rand() - 0.25, 6 * rand()];
      const [a, b] = [foothold(1, 0, angle, towards), foothold(1, 1, angle, towards)];
      const ends = [a, b].map((hold, i) => {
        const stance = createStance(sole, hold, slack, 41);
        const t = i === 0 ? hold.leaving : hold.landing;
        const at = (dt: number) => {
          const s = new Float64Array(FOOT_SIZE);
          evaluateStance(sole, stance, Float64Array.of(t + dt), 0, s, 0, new Float64Array(4));
          return s;
        };
        const d = i === 0 ? -1e-6 : 1e-6;
        return { state: at(0), rate: at(d).map((v, k) => (v - at(0)[k]!) / d) };
      });
      const ground = Math.abs(angle) < 1e-3 ? levelGround : slopeGround(angle, towards);
      const swing = createSwing(
        sole,
        1,
        b.swing,
        ground,
        { from: 0.6, to: 1, start: ends[0]!.state, startRate: ends[0]!.rate, end: ends[1]!.state, endRate: ends[1]!.rate },
        1,
      );
      const state = new Float64Array(FOOT_SIZE);
      for (let i = 0; i <= 200; i++) {
        evaluateSwing(swing, Float64Array.of(0.6 + (0.4 * i) / 200), 0, state, 0);
        expect(Math.min(...pointsOver(state, angle, towards).map((q) => q.height))).toBeGreaterThan(-1e-4);
        if (i === 0) for (let k = 0; k < FOOT_SIZE; k++) expect(state[k]).toBeCloseTo(ends[0]!.state[k]!, 12);
      }
      for (const k of [FOOT.x, FOOT.y, FOOT.z]) expect(state[k]).toBeCloseTo(ends[1]!.state[k]!, 12);
    }
  });
});
