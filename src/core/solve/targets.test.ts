import { describe, expect, it } from 'vitest';
import { poseSize } from '../body/skeleton';
import { createPlacement, placeRoot } from '../math/placement';
import { presetCycle, presetFor, shippedBody, BODY_KEYS } from '../tests/cast';
import { seeded } from '../math/random';
import { cycle } from '../motion/solved';
import { PRESETS } from '../gait/presets';
import { createReach } from './reach';
import { createPoseReader } from './read';
import { ARM_TARGET, armAt, blendTargets, createTargets, FOOT_TARGET, footAt, placeTargets, TARGET, TARGETS_SIZE } from './targets';

const body = shippedBody('marlo');
const size = poseSize(body.skeleton);
const poseOf = (targets: Float64Array) => {
  const pose = new Float64Array(size);
  createReach(body).reach(targets, pose, 0);
  return pose;
};
const targetsOf = (gait: string, t: number) => {
  const targets = createTargets();
  presetCycle(gait).targets(t, targets);
  return targets;
};
/** Largest difference of two poses, quaternions of either sign. */
function difference(a: Float64Array, b: Float64Array): number {
  let most = 0;
  for (let k = 0; k < 6; k++) most = Math.max(most, Math.abs(a[k]! - b[k]!));
  for (let q = 6; q < size; q += 4) {
    const sign = [0, 1, 2, 3].reduce((sum, k) => sum + a[q + k]! * b[q + k]!, 0) < 0 ? -1 : 1;
    for (let k = 0; k < 4; k++) most = Math.max(most, Math.abs(a[q + k]! - sign * b[q + k]!));
  }
  return most;
}

describe('reaching', () => {
  it('is pure: equal targets give equal bits, whatever was reached before', () => {
    const reacher = createReach(body);
    const [a, b] = [targetsOf('walk', 0.2), targetsOf('run', 0.4)];
    const [first, between, again] = [0, 0, 0].map(() => new Float64Array(size)) as [Float64Array, Float64Array, Float64Array];
    reacher.reach(a, first, 0);
    reacher.reach(b, between, 0);
    reacher.reach(a, again, 0);
    expect(again).toEqual(first);
    expect(poseOf(a)).toEqual(first);
  });

  it('goes with a placement: placed targets give the pose with its root placed', () => {
    for (const by of [createPlacement(1, 0, -2, 0), createPlacement(0.5, 0.3, 2, 2.1)]) {
      const targets = targetsOf('walk', 0.37);
      const plain = poseOf(targets);
      placeTargets(targets, by, 0);
      placeRoot(plain, 0, 6, by, 0);
      expect(difference(poseOf(targets), plain)).toBeLessThan(1e-9);
    }
  });

  it('says how far a leg or a hand falls short, and never answers with what is no number', () => {
    const reacher = createReach(body);
    const pose = new Float64Array(size);
    const targets = targetsOf('walk', 0.1);
    targets[footAt(0)] = targets[footAt(0)]! + 3;
    reacher.reach(targets, pose, 0);
    expect(reacher.short.tooFar).toBeGreaterThan(1);
    expect(pose.every(Number.isFinite)).toBe(true);
    const rand = seeded(8);
    for (let n = 0; n < 300; n++) {
      const wild = targetsOf('walk', rand()).map((v, k) => (k < TARGET.hipsTurn || (k >= TARGET.feet && k < TARGET.arms) ? v + 4 * (rand() - 0.5) : v));
      reacher.reach(wild, pose, 0);
      expect(pose.every(Number.isFinite)).toBe(true);
    }
    const held = targetsOf('walk', 0.1);
    held[armAt(0) + ARM_TARGET.palm + 2] = 5;
    held[armAt(0) + ARM_TARGET.weight] = 1;
    reacher.reach(held, pose, 0);
    expect(reacher.short.handMissed).toBeGreaterThan(3);
  });
});

describe('blending', () => {
  it('ends in both, and keeps a foot on its foothold that both have, rolled however each has it', () => {
    const [a, b] = [targetsOf('walk', 0.05), targetsOf('walk', 0.45)];
    const f = footAt(0);
    expect([a[f + FOOT_TARGET.planted], b[f + FOOT_TARGET.planted]]).toEqual([1, 1]);
    const out = createTargets();
    blendTargets(a, b, 0, out);
    expect(difference(poseOf(out), poseOf(a))).toBeLessThan(1e-12);
    blendTargets(a, b, 1, out);
    expect(difference(poseOf(out), poseOf(b))).toBeLessThan(1e-9);
    for (const u of [0.2, 0.5, 0.9]) {
      blendTargets(a, b, u, out);
      for (const k of [FOOT_TARGET.x, FOOT_TARGET.y, FOOT_TARGET.z, FOOT_TARGET.heading]) expect(out[f + k]).toBeCloseTo(a[f + k]!, 12);
      expect(out[f + FOOT_TARGET.planted]).toBe(1);
    }
  });

  it('takes headings the shorter way round, and rotations as rotations', () => {
    const [a, b, out] = [createTargets(), createTargets(), createTargets()];
    a[TARGET.root + 3] = 3;
    b[TARGET.root + 3] = -3;
    blendTargets(a, b, 0.5, out);
    expect(Math.abs(out[TARGET.root + 3]!)).toBeCloseTo(Math.PI, 12);
    for (const q of [TARGET.hipsTurn, TARGET.chest, armAt(1)]) expect(Math.hypot(...out.subarray(q, q + 4))).toBeCloseTo(1, 12);
    expect(out.length).toBe(TARGETS_SIZE);
  });
});

describe('reading a pose', () => {
  it.each(BODY_KEYS.flatMap((key) => PRESETS.map((p) => ({ key, gait: p.key }))))('$gait, $key: what is read is reached again', ({ key, gait }) => {
    const b = shippedBody(key);
    const motion = cycle(presetFor(gait, b), b);
    const read = createPoseReader(b),
      reacher = createReach(b);
    const targets = createTargets();
    const [pose, again] = [new Float64Array(size), new Float64Array(size)];
    for (let i = 0; i < 24; i++) {
      motion.pose((motion.duration * i) / 24, pose, 0);
      read(pose, 0, targets);
      reacher.reach(targets, again, 0);
      expect(difference(pose, again)).toBeLessThan(1e-6);
    }
  });
});
