import { describe, expect, it } from 'vitest';
import { rotate } from '../math/quaternion';
import { seeded } from '../math/random';
import { shippedBody } from '../tests/cast';
import { LEG_BUFFER, LEG_OUTPUT, longestReach, shortestReach, solveLeg } from './leg';

const body = shippedBody('marlo');
const leg = body.legs[0];
const reach = { longest: longestReach(leg, 0.03), shortest: shortestReach(leg) };
const solve = (hip: number[], ankle: number[], pole = 0) => {
  const out = new Float64Array(LEG_BUFFER);
  solveLeg(leg, Float64Array.of(...hip, ...ankle, pole, reach.longest, reach.shortest), out);
  const result = { missed: out[LEG_OUTPUT.missed]!, knee: 2 * Math.atan2(out[LEG_OUTPUT.knee]!, out[LEG_OUTPUT.knee + 3]!) };
  const thigh = [0, 0, 0];
  const shank = [0, 0, 0];
  rotate(thigh, 0, out, LEG_OUTPUT.thigh, 0, -leg.thigh, 0);
  rotate(shank, 0, out, LEG_OUTPUT.shank, 0, -leg.shank, 0);
  const knee = thigh.map((v, k) => v + hip[k]!);
  return { knee, ankle: shank.map((v, k) => v + knee[k]!), result, out };
};

describe('two-bone leg', () => {
  it('puts the ankle on every reachable target to 1e-9 m, knee towards its heading', () => {
    const rand = seeded(728);
    for (let n = 0; n < 2000; n++) {
      const hip = [rand() - 0.5, 0.9, rand() - 0.5];
      const direction = [rand() - 0.5, -0.2 - rand(), rand() - 0.5];
      const length = Math.hypot(...direction);
      const span = reach.shortest + (reach.longest - reach.shortest) * rand();
      const target = hip.map((h, k) => h + (direction[k]! / length) * span);
      const pole = (rand() - 0.5) * 2;
      const { ankle, knee, result } = solve(hip, target, pole);
      for (let k = 0; k < 3; k++) expect(Math.abs(ankle[k]! - target[k]!)).toBeLessThan(1e-9);
      expect(result.missed).toBe(0);
      // The knee bends forward: along leg × left, left being the hinge made perpendicular to the leg.
      const u = direction.map((v) => v / length);
      const left = [Math.cos(pole), 0, -Math.sin(pole)];
      const along = left[0]! * u[0]! + left[2]! * u[2]!;
      const hinge = left.map((v, k) => v - along * u[k]!);
      const forward = [u[1]! * hinge[2]! - u[2]! * hinge[1]!, u[2]! * hinge[0]! - u[0]! * hinge[2]!, u[0]! * hinge[1]! - u[1]! * hinge[0]!];
      const dot = (v: number[]) => knee.reduce((sum, at, k) => sum + (at - hip[k]!) * v[k]!, 0);
      expect(dot(forward)).toBeGreaterThan(0);
      expect(Math.abs(dot(hinge))).toBeLessThan(1e-9);
    }
  });

  it('reports what lies out of reach and stays finite in the degenerate cases', () => {
    const far = solve([0, 2, 0], [0, 0, 0]);
    expect(far.result.missed).toBeCloseTo(2 - reach.longest, 12);
    expect(far.result.knee).toBeCloseTo(0.03, 9);
    const near = solve([0, 0.2, 0], [0, 0.1, 0]);
    expect(near.result.missed).toBeCloseTo(0.1 - reach.shortest, 12);
    for (const { out } of [solve([0, 1, 0], [0, 1, 0]), solve([0, 1, 0], [0.8, 1, 0]), solve([0, 1, 0], [0, 1.8, 0])])
      for (const v of out) expect(Number.isFinite(v)).toBe(true);
  });
});
