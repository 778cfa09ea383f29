import { describe, expect, it } from 'vitest';
import { shippedBody } from '../tests/cast';
import { rollFoot, rollOnGround, solePoints, toeTipPitch } from './rocker';

const { sole } = shippedBody('marlo');
const BEND = 0.6;
const rolled = (pitch: number) => {
  const out = new Float64Array(3);
  rollOnGround(sole, pitch, BEND, out, 0);
  return { forward: out[0]!, height: out[1]!, bend: out[2]! };
};
/** Heel, ball and tip in the foothold's plane for a pitch: forward and up, metres. */
const points = (pitch: number): Float64Array => {
  const foot = rolled(pitch);
  const p = new Float64Array(6);
  solePoints(sole, pitch, foot.bend, p);
  return p.map((v, i) => v + (i % 2 === 0 ? foot.forward : foot.height));
};

describe('rockers of the foot', () => {
  it('hold the heel, the flat sole, the ball and the toe tip, each while it is the pivot', () => {
    for (const pitch of [0.4, 0.2, 0.01]) {
      const p = points(pitch);
      expect(p[0]).toBeCloseTo(-sole.heelBack, 12);
      expect(p[1]).toBeCloseTo(0, 12);
    }
    for (const v of [1, 3, 5]) expect(points(0)[v]).toBeCloseTo(0, 12);
    for (const pitch of [-0.1, -0.4]) {
      const p = points(pitch);
      expect(p[2]).toBeCloseTo(sole.ballAhead, 12);
      expect(p[3]).toBeCloseTo(0, 12);
      expect(p[5]).toBeCloseTo(0, 12);
    }
    for (const pitch of [-0.7, -0.9, -1.3]) {
      const p = points(pitch);
      expect(p[4]).toBeCloseTo(sole.tipAhead, 12);
      expect(p[5]).toBeCloseTo(0, 12);
      expect(p[3]).toBeGreaterThan(0);
    }
  });

  it('never push a sole point under the ground', () => {
    for (let pitch = -1.4; pitch <= 0.7; pitch += 0.01) expect(Math.min(points(pitch)[1]!, points(pitch)[3]!, points(pitch)[5]!)).toBeGreaterThan(-1e-12);
  });

  it('move the ankle with continuous velocity from the ball to the toe tip', () => {
    const at = rolled;
    const d = 1e-5;
    for (let pitch = -1.2; pitch < -0.05; pitch += 0.01) {
      const [a, b, c] = [at(pitch - d), at(pitch), at(pitch + d)];
      expect(Math.abs(a.height - 2 * b.height + c.height) / d).toBeLessThan(2e-4);
      expect(Math.abs(a.forward - 2 * b.forward + c.forward) / d).toBeLessThan(2e-4);
    }
    expect(at(-1.2).bend).toBeCloseTo(BEND, 12);
    expect(toeTipPitch(0.3, BEND)).toBe(0);
  });

  it('are found again from pitch and bend alone, as targets tell them', () => {
    const out = new Float64Array(4);
    for (let pitch = -1.4; pitch <= 0.7; pitch += 0.05) {
      const foot = rolled(pitch);
      out[0] = pitch;
      out[1] = foot.bend;
      rollFoot(sole, out, 0, out, 2);
      expect(out[2]).toBeCloseTo(foot.forward, 14);
      expect(out[3]).toBeCloseTo(foot.height, 14);
    }
  });
});
