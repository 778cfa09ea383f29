import { describe, expect, it } from 'vitest';
import { namedRig } from '../body/rig';
import { ownFeet } from '../body/foot-model';
import { createWorldPose, forwardKinematics } from '../body/skeleton';
import { defaultSet } from '../directions/spec';
import { setMembers } from '../directions/set';
import { decodeBvh } from '../formats/bvh/decode';
import { encodeBvh } from '../formats/bvh/encode';
import { toBvh } from '../formats/bvh/from-clip';
import { fromBvh } from '../formats/bvh/to-clip';
import { makeClip } from '../handover/make-clip';
import { createPlacement, placeRoot } from '../math/placement';
import { measureFooting } from '../measure/footing';
import { rotate } from '../math/quaternion';
import { createReach } from '../solve/reach';
import { createTargets, TARGET } from '../solve/targets';
import { cycleOrder, presetCycle, presetFor, reportOf, shippedBody } from '../tests/cast';
import { clipMotion } from './clip-motion';
import { corrected } from './corrected';
import { joined } from './joined';
import { mixed } from './mixed';
import type { Motion } from './motion';
import { placed } from './placed';
import { retimed } from './retimed';
import { sampleClip } from './sample';
import { cycle, walk } from './solved';

const body = shippedBody('marlo');
const poseAt = (motion: Motion, t: number) => {
  const out = new Float64Array(98);
  motion.pose(t, out, 0);
  return out;
};
const worldOf = (pose: Float64Array) => {
  const world = createWorldPose(body.skeleton);
  forwardKinematics(body.skeleton, pose, 0, world);
  return world.positions;
};
const far = (a: ArrayLike<number>, b: ArrayLike<number>) => Array.from(a).reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);

describe('placed', () => {
  it('stands somewhere else, goes on there round by round, and keeps its feet', () => {
    const by = createPlacement(2, 0, -1, 1.2);
    const [plain, moved] = [presetCycle('walk'), placed(presetCycle('walk'), by)];
    for (const t of [0.2, 0.9, 3.3]) {
      const want = poseAt(plain, t);
      placeRoot(want, 0, 6, by, 0);
      expect(far(worldOf(poseAt(moved, t)), worldOf(want))).toBeLessThan(1e-9);
    }
    const [a, b] = [poseAt(moved, 0.4), poseAt(moved, 0.4 + moved.duration)];
    placeRoot(a, 0, 6, moved.repeat!, 0);
    expect(far(worldOf(a), worldOf(b))).toBeLessThan(1e-9);
    expect(measureFooting(moved, 240)).toMatchObject({ slideMm: expect.closeTo(0, 1) as number, plantedSinkMm: expect.closeTo(0, 3) as number });
  });
});

describe('retimed', () => {
  it('runs faster over the same places', () => {
    const [plain, quick] = [presetCycle('walk'), retimed(presetCycle('walk'), 2)];
    expect(poseAt(quick, 0.3)).toEqual(poseAt(plain, 0.6));
    expect(quick.pace.speed).toBeCloseTo(2 * plain.pace.speed, 12);
    expect(quick.footholds(0, 1)[0]!.leaving).toBeCloseTo(plain.footholds(0, 1)[0]!.leaving / 2, 12);
    expect(quick.phaseAt(0.5)).toBeCloseTo(plain.phaseAt(1), 12);
    for (const bad of [0, -1, NaN, Infinity]) expect(() => retimed(plain, bad)).toThrow(RangeError);
  });
});

describe('corrected', () => {
  it('hips lowered by hand go down by that much while the feet hold', () => {
    const plain = walk('w', presetFor('walk', body), body, 8, 0);
    const low = corrected(plain, { targets: [(_t, targets) => (targets[TARGET.hips + 1] = targets[TARGET.hips + 1]! - 0.08)] });
    const footing = measureFooting(low, 120);
    expect(footing.slideMm).toBeLessThan(0.05);
    expect(footing.plantedSinkMm).toBeLessThan(0.1);
    for (const t of [2, 3.1, 3.4]) expect(poseAt(plain, t)[4]! - poseAt(low, t)[4]!).toBeGreaterThan(0.05);
    expect(low.survey().tooFar).toBe(0);
  });

  it('hips raised by hand past what the legs reach give way to them, and the feet hold', () => {
    const plain = walk('w', presetFor('walk', body), body, 8, 0);
    const high = corrected(plain, { targets: [(_t, targets) => (targets[TARGET.hips + 1] = targets[TARGET.hips + 1]! + 0.1)] });
    expect(measureFooting(high, 120).slideMm).toBeLessThan(0.05);
    expect(high.survey().tooFar).toBeLessThan(1e-6);
    // Nothing changed, nothing gives way.
    const same = corrected(plain, { targets: [() => {}] });
    for (const t of [2, 3.1]) expect(far(poseAt(plain, t), poseAt(same, t))).toBeLessThan(1e-12);
  });

  it('joints changed after the legs are changed alone', () => {
    const plain = presetCycle('walk');
    const nod = corrected(plain, { joints: [(_t, pose, at) => (pose[at + 6] = 0.5)] });
    const [a, b] = [poseAt(plain, 0.3), poseAt(nod, 0.3)];
    expect(b[6]).toBe(0.5);
    a[6] = b[6];
    expect(far(a, b)).toBeLessThan(1e-12);
  });
});

describe('mixed', () => {
  it('two members of a set go between their directions with feet exactly still', () => {
    const members = setMembers(defaultSet(), presetFor('walk', body)).map((m) => cycle(m.gait, body));
    for (const u of [0.3, 0.5]) {
      const between = mixed(members[0]!, members[1]!, u);
      const footing = measureFooting(between, 240);
      expect(footing.slideMm).toBeLessThan(0.05);
      expect(footing.plantedSinkMm).toBeLessThan(0.1);
      const travel = [0, 2].map((k) => members[0]!.repeat![k]! * (1 - u) + members[1]!.repeat![k]! * u);
      expect(between.repeat![0]).toBeCloseTo(travel[0]!, 9);
      const [a, b] = [poseAt(between, 0.4), poseAt(between, 0.4 + between.duration)];
      expect(b[2]! - a[2]!).toBeCloseTo(travel[1]!, 9);
      expect(reportOf(sampleClip(between, 60), body).slideMm.atFrames).toBeLessThan(0.05);
    }
    expect(far(poseAt(mixed(members[0]!, members[1]!, 0), 0.2), poseAt(members[0]!, 0.2))).toBeLessThan(1e-12);
    expect(() => mixed(members[0]!, presetCycle('run'), 0.5)).toThrow(RangeError);
  });
});

describe('joined', () => {
  it('a start goes over into its cycle: a foot that stands in both stays, and nothing jumps', () => {
    const gait = presetFor('walk', body);
    const start = walk('start', gait, body, 8, 0);
    const loop = cycle(gait, body);
    // The fifth step is a left landing; there the start walks as the cycle does.
    const fifth = start.footholds(0, start.duration).filter((h) => h.side === 0)[2]!;
    const leave = fifth.landing + 0.12,
      enter = 0.12 + loop.duration;
    const both = joined(start, loop, { leave, enter, overlap: 0.35 });
    const footing = measureFooting(both, 240);
    expect(footing.slideMm).toBeLessThan(0.05);
    expect(footing.plantedSinkMm).toBeLessThan(0.1);
    const fastest = (m: Motion) => {
      let [most, before] = [0, worldOf(poseAt(m, 0))];
      for (let t = 1 / 240; t < m.duration; t += 1 / 240) {
        const now = worldOf(poseAt(m, t));
        most = Math.max(most, far(now, before) * 240);
        before = now;
      }
      return most;
    };
    // No joint is thrown faster than in the walk itself.
    expect(fastest(both)).toBeLessThan(1.02 * Math.max(fastest(start), fastest(loop)));
    expect(both.repeat).toBeNull();
    expect(both.travelled(both.duration)).toBeGreaterThan(start.travelled(leave) + 0.1);
  });

  it('also where the second must be turned to meet the first, and says when no foot stands in both', () => {
    const gait = presetFor('walk', body);
    const a = placed(cycle(gait, body), createPlacement(0, 0, 0, 0.8));
    const b = cycle(gait, body);
    const both = joined(a, b, { leave: 1.2, enter: 0.15 + b.duration, overlap: 0.3 });
    expect(measureFooting(both, 240).slideMm).toBeLessThan(0.05);
    const facing = [0, 0, 0];
    rotate(facing, 0, poseAt(both, both.duration), 6, 0, 0, 1);
    expect(Math.atan2(facing[0]!, facing[2]!)).toBeCloseTo(0.8, 6);
    const run = presetCycle('run');
    expect(() => joined(run, run, { leave: 0.28, enter: 0.28, overlap: 0.2 })).toThrow(/no foot stands/);
  });
});

describe('a cycle written to BVH, read, and reached again', () => {
  it.each(['walk', 'run', 'sneak', 'creep'])('%s: within 1e-6', (name) => {
    const order = cycleOrder(presetFor(name, body), body, 30);
    const { document } = makeClip(order, 30, { inPlace: false });
    const { clip } = fromBvh(decodeBvh(encodeBvh(toBvh(document))), 1, name);
    const rig = namedRig(clip.skeleton, body);
    const read = clipMotion({ ...clip, contacts: document.clip.contacts }, body, rig);
    const reacher = createReach(body);
    const targets = createTargets();
    const pose = new Float64Array(98);
    for (let f = 0; f < clip.frames; f++) {
      read.targets(f / clip.rate, targets);
      reacher.reach(targets, pose, 0);
      // BVH has no root of its own: the rig stands it under the hips. All other joints are where they were.
      expect(far(worldOf(pose).subarray(3), worldOf(document.clip.poses.slice(f * 98, (f + 1) * 98)).subarray(3))).toBeLessThan(1e-6);
    }
    expect(read.contacts.length).toBe(document.clip.contacts!.length);
    expect(read.pace.speed).toBeGreaterThan(0.5 * order.motion.pace.speed);
  });

  it('a rig shows a canonical pose on a skeleton that rests turned, and takes it back', () => {
    const { skeleton } = body;
    const turned = { ...skeleton, rest: skeleton.rest.slice() };
    // Hips and a knee rest turned; what hangs on them is placed so that the joints lie where they lay.
    const clip = sampleClip(presetCycle('walk'), 24);
    turned.rest.set([0, Math.SQRT1_2, 0, Math.SQRT1_2], skeleton.names.indexOf('leftToes') * 4);
    turned.rest.set([0.6, 0, 0, 0.8], skeleton.names.indexOf('rightHand') * 4);
    const rig = namedRig(turned, body);
    const [shown, back] = [new Float64Array(98), new Float64Array(98)];
    for (const f of [0, 7, 15]) {
      rig.show(clip.poses, f * 98, shown, 0);
      expect(far(worldOf(shown), worldOf(clip.poses.slice(f * 98, (f + 1) * 98)))).toBeLessThan(1e-9);
      rig.take(shown, 0, back, 0);
      expect(far(worldOf(back), worldOf(shown))).toBeLessThan(1e-9);
      expect(far(back.subarray(0, 6), clip.poses.subarray(f * 98, f * 98 + 6))).toBeLessThan(1e-9);
    }
    expect(() => namedRig({ ...skeleton, names: skeleton.names.map((n) => `x${n}`) }, body)).toThrow(/no joint hips/);
    expect(ownFeet(body)).toHaveLength(2);
  });
});
