import { describe, expect, it } from 'vitest';
import { seeded } from '../math/random';
import { shippedBody } from '../tests/cast';
import { longestReach } from './leg';
import { spanAt, toLegAngles, toLegLine } from './leg-angles';

const leg = shippedBody('marlo').legs[0];

describe('a leg in its own terms', () => {
  it('goes to angles and back; seeded', () => {
    const rand = seeded(21);
    for (let n = 0; n < 500; n++) {
      const heading = 7 * rand() - 3;
      const [sin, cos] = [Math.sin(heading), Math.cos(heading)];
      const q = Float64Array.of(2.6 * rand() - 1.3, 1.6 * rand() - 0.8, 0.02 + 2.4 * rand());
      const r = new Float64Array(3),
        back = new Float64Array(3);
      toLegLine(leg, q, 0, sin, cos, r, 0);
      toLegAngles(leg, r, 0, sin, cos, back, 0);
      back.forEach((v, k) => expect(v).toBeCloseTo(q[k]!, 6));
      expect(Math.hypot(...r)).toBeCloseTo(spanAt(leg, q[2]!), 12);
    }
  });

  it('is as long as the solver’s leg at the same bend, forward along its heading, left to its left', () => {
    for (const bend of [0.05, 0.8, 2.4]) expect(spanAt(leg, bend)).toBeCloseTo(longestReach(leg, bend), 12);
    const r = new Float64Array(3);
    toLegLine(leg, Float64Array.of(0.5, 0, 0.3), 0, 0, 1, r, 0);
    expect(r[2]).toBeGreaterThan(0.3);
    expect(r[0]).toBeCloseTo(0, 12);
    toLegLine(leg, Float64Array.of(0, 0.5, 0.3), 0, 0, 1, r, 0);
    expect(r[0]).toBeGreaterThan(0.3);
  });

  it('stays finite where a leg has no length', () => {
    const out = new Float64Array(3);
    toLegAngles(leg, new Float64Array(3), 0, 0, 1, out, 0);
    expect(out.every(Number.isFinite)).toBe(true);
  });
});
