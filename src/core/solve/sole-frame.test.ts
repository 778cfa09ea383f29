import { describe, expect, it } from 'vitest';
import { rotate } from '../math/quaternion';
import { wrapAngle } from '../math/scalar';
import { seeded } from '../math/random';
import { shippedBody } from '../tests/cast';
import type { Foothold } from '../schedule/foothold';
import { levelGround } from '../ground/ground';
import { slopeGround } from '../ground/slope';
import { FOOT, FOOT_SIZE } from './foot-state';
import { solePoints } from './rocker';
import { SOLE_FRAME, SOLE_FRAME_SIZE, soleAxes, soleFrame } from './sole-frame';
import { createStance, evaluateStance } from './stance';
import { legThickness } from '../body/limbs';
import { ankleOf, createAnkleScratch } from './ankle';
import { createFootTrack } from './foot-track';
import { FOOT_TARGET, TARGETS_SIZE } from './targets';

const rand = seeded(3);
const body = shippedBody('marlo');
const { sole } = body.legs[1];
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
    rests: false,
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
      const stance = createStance(sole, hold, slack);
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
      const ground = Math.abs(angle) < 1e-3 ? levelGround : slopeGround(angle, towards);
      // The hip passes from over the first foothold to over the second one, bobbing.
      const planned = (clock: Float64Array, out: Float64Array) => {
        const u = (clock[0]! - a.leaving) / (b.landing - a.leaving);
        out.set([a.x + (b.x - a.x) * u, a.y + (b.y - a.y) * u + 0.72 + 0.02 * Math.sin(9 * clock[0]!), a.z + (b.z - a.z) * u, a.heading, 0]);
      };
      const more = { ground, duration: 2, repeat: null, straightest: 0.06, thickness: legThickness(body), flies: false };
      const track = createFootTrack(1, body.legs[1], [a, b], more, { wished: slack, planned, other: () => false });
      const targets = new Float64Array(TARGETS_SIZE);
      const at = (t: number) => {
        const joint = new Float64Array(5);
        planned(Float64Array.of(t), joint);
        track.aim(Float64Array.of(t), 0, joint, targets, 0);
        const state = new Float64Array(FOOT_SIZE);
        ankleOf(sole, targets, 0, state, 0, createAnkleScratch());
        for (const key of ['pitch', 'bend', 'heading', 'slopeX', 'slopeZ', 'roll'] as const) state[FOOT[key]] = targets[FOOT_TARGET[key]]!;
        return state;
      };
      for (let i = 1; i < 200; i++)
        expect(Math.min(...pointsOver(at(a.leaving + ((b.landing - a.leaving) * i) / 200), angle, towards).map((q) => q.height))).toBeGreaterThan(-1e-4);
      const d = 1e-6;
      for (const t of [a.leaving, b.landing]) {
        const [far, before, after, further] = [at(t - 2 * d), at(t - d), at(t + d), at(t + 2 * d)];
        for (let k = 0; k < FOOT_SIZE; k++) {
          expect(Math.abs(wrapAngle(after[k]! - before[k]!))).toBeLessThan(1e-4);
          expect(Math.abs((further[k]! - after[k]!) / d - (before[k]! - far[k]!) / d)).toBeLessThan(0.02);
        }
      }
    }
  });
});
