import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { poseSize } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import { SWINGING } from '../gait/without-channel';
import type { Motion } from '../motion/motion';
import { presetFor, shippedBody } from '../tests/cast';
import { planMotion } from './motion';
import { defaultPlan, planSpecSchema, type PlanSpec } from './plan';

const body = shippedBody('marlo');
/** A walk that looks from side to side and nods. */
const gait: GaitSpec = (() => {
  const own = structuredClone(presetFor('walk', body));
  own.head.turn = { ...own.head.turn, amount: 0.4 };
  own.head.nod = { ...own.head.nod, amount: 0.15 };
  return own;
})();
const walked = (channels: PlanSpec['channels']): Motion => planMotion(planSpecSchema.parse({ ...defaultPlan(), channels }), body, { gait: () => gait });
const keys = (...values: readonly (readonly [at: number, value: number])[]): PlanSpec['channels'][number]['amount'] => ({
  over: 'time',
  keys: values.map(([at, value]) => ({ at, value, next: 'smooth' })),
});
const poseAt = (m: Motion, t: number) => {
  const pose = new Float64Array(poseSize(body.skeleton));
  m.pose(t, pose, 0);
  return pose;
};
const HEAD = new Set([JOINT.neck, JOINT.head].flatMap((j) => [0, 1, 2, 3].map((k) => 6 + 4 * j + k)));
const apart = (a: Float64Array, b: Float64Array, where: (k: number) => boolean) =>
  a.reduce((most, v, k) => (where(k) ? Math.max(most, Math.abs(v - b[k]!)) : most), 0);

describe('the amount of one channel over time', () => {
  const plain = walked([]);
  const still = walked([
    { channel: 'head.turn', amount: keys([0, 0]) },
    { channel: 'head.nod', amount: keys([0, 0]) },
  ]);

  it('at 1 is the gait as it is, at 0 without that swing; nothing else of the figure changes', () => {
    const full = walked([{ channel: 'head.turn', amount: keys([0, 1]) }]);
    for (let t = 0; t < plain.duration; t += 0.3) {
      expect(apart(poseAt(full, t), poseAt(plain, t), () => true)).toBeLessThan(1e-9);
      expect(apart(poseAt(still, t), poseAt(plain, t), (k) => !HEAD.has(k))).toBeLessThan(1e-9);
    }
    expect(apart(poseAt(still, 3), poseAt(plain, 3), (k) => HEAD.has(k))).toBeGreaterThan(0.02);
  });

  it('comes and goes where its keys say, smoothly', () => {
    const looks = walked([{ channel: 'head.turn', amount: keys([1, 0], [2.5, 1], [4, 1], [5, 0]) }]);
    const nodding = walked([{ channel: 'head.turn', amount: keys([0, 0]) }]);
    expect(apart(poseAt(looks, 0.8), poseAt(nodding, 0.8), () => true)).toBeLessThan(1e-9);
    expect(apart(poseAt(looks, 3.2), poseAt(plain, 3.2), () => true)).toBeLessThan(1e-6);
    expect(apart(poseAt(looks, 5.5), poseAt(nodding, 5.5), () => true)).toBeLessThan(1e-9);
    let most = 0;
    for (let t = 0.5; t < 5.5; t += 1 / 120)
      most = Math.max(
        most,
        apart(poseAt(looks, t), poseAt(looks, t + 1 / 120), (k) => HEAD.has(k)),
      );
    expect(most).toBeLessThan(0.02);
  });

  it('may be told of every channel that swings, each once, feet excepted', () => {
    expect(SWINGING.map((e) => e.path)).toEqual(expect.arrayContaining(['head.turn', 'head.lookAround', 'arms.swing', 'hips.rise', 'trunk.lean']));
    expect(SWINGING.some((e) => e.path.startsWith('feet') || e.path.startsWith('timing'))).toBe(false);
    for (const { path } of SWINGING) for (const v of poseAt(walked([{ channel: path, amount: keys([0, 0.3]) }]), 2)) expect(Number.isFinite(v)).toBe(true);
    const twice = { channel: 'head.turn', amount: keys([0, 1]) };
    expect(planSpecSchema.safeParse({ ...defaultPlan(), channels: [twice, twice] }).success).toBe(false);
    expect(planSpecSchema.safeParse({ ...defaultPlan(), channels: [{ ...twice, channel: 'feet.lift' }] }).success).toBe(false);
  });
});
