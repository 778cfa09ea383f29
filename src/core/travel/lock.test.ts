import { describe, expect, it } from 'vitest';
import { poseSize, rotationAt } from '../body/skeleton';
import { unrolled } from '../clip/unroll';
import { multiply, setAxis } from '../math/quaternion';
import { BODY_KEYS, cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { prepareClip } from './prepare';
import { defaultLock, defaultTravel } from './spec';

const locked = { ...defaultTravel(), lock: defaultLock() };
const furthest = (a: Float64Array, b: Float64Array) => a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);

describe('a lock', () => {
  it.each(BODY_KEYS)('has nothing to do where feet stand exactly: a made clip stays as it is, on %s, cut anywhere or as a loop', (key) => {
    const body = shippedBody(key);
    for (const gait of ['walk', 'march', 'sneak', 'proud'] as const) {
      const { clip: loop } = cycleClip(presetFor(gait, body), body, 60);
      const long = unrolled(loop, 3);
      // Cut while both feet stand or one swings, whatever comes.
      const frames = long.frames - 20;
      const cut = { ...long, loop: false, frames, contacts: null, poses: long.poses.slice(0, frames * poseSize(long.skeleton)) };
      for (const clip of [loop, cut]) {
        const done = prepareClip(ownFigure(clip, body), locked);
        expect(furthest(done.clip.poses, clip.poses), `${gait} ${clip.frames}`).toBeLessThan(1e-9);
        expect(done.moved!.calmHz).toBeNull();
        expect(Math.max(...done.after.map((s) => s.atFramesMm))).toBeLessThan(0.05);
      }
    }
  });

  it('holds those feet of a made clip that do not stand, and leaves the others', () => {
    const body = shippedBody('marlo');
    const { clip } = cycleClip(presetFor('walk', body), body, 60);
    const long = unrolled(clip, 3);
    const poses = long.poses.slice();
    const size = poseSize(long.skeleton);
    // The left leg is turned aside in the middle of the second round: that foot slides.
    const at = rotationAt(long.skeleton, long.skeleton.names.indexOf('leftUpperLeg'));
    const aside = [0, 0, 0, 1];
    for (let f = 66; f < 100; f++) {
      setAxis(aside, 0, 2, 0.02 * Math.sin((Math.PI * (f - 66)) / 34));
      multiply(poses, f * size + at, poses, f * size + at, aside, 0);
    }
    const done = prepareClip(ownFigure({ ...long, loop: false, contacts: null, poses }, body), locked);
    expect(Math.max(...done.before.map((s) => s.atFramesMm))).toBeGreaterThan(10);
    expect(Math.max(...done.after.map((s) => s.atFramesMm))).toBeLessThan(0.5);
    // Far from there nothing is moved.
    expect(furthest(done.clip.poses.subarray(150 * size), poses.subarray(150 * size))).toBeLessThan(1e-3);
  });
});
