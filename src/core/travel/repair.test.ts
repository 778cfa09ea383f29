import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { poseSize, rotationAt } from '../body/skeleton';
import { inWorld } from '../clip/in-world';
import { unrolled } from '../clip/unroll';
import { multiply } from '../math/quaternion';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure, shaken } from '../tests/clips';
import { recording, RECORDINGS } from '../tests/recordings';
import { analyseClip } from './analysis';
import { mended } from './repair';
import { noRepair } from './spec';

const body = shippedBody('marlo');
const walk = unrolled(cycleClip(presetFor('walk', body), body, 60).clip, 4);
const size = poseSize(walk.skeleton);
const figure = ownFigure(walk);

describe('mending a recording', () => {
  it('takes out a joint that jumps away and back, and nothing of a clip that has none', () => {
    const poses = walk.poses.slice();
    for (const [f, joint] of [
      [40, 'leftLowerArm'],
      [41, 'leftLowerArm'],
      [120, 'head'],
    ] as const) {
      const at = f * size + rotationAt(walk.skeleton, JOINT[joint]);
      multiply(poses, at, poses, at, [0, 0, Math.sin(0.4), Math.cos(0.4)], 0);
    }
    const { figure: clean, done } = mended({ ...figure, clip: { ...walk, poses } }, { ...noRepair(), spikes: true });
    expect(done).toMatchObject([{ what: 'spikes', count: 3 }]);
    expect(done[0]!.most).toBeGreaterThan(0.1);
    for (let i = 0; i < poses.length; i++) expect(Math.abs(clean.clip.poses[i]! - walk.poses[i]!)).toBeLessThan(0.02);
    expect(mended(figure, { ...noRepair(), spikes: true }).done).toMatchObject([{ count: 0, most: 0 }]);
  });

  it('calms shaking by what it says', () => {
    const shaking = shaken(figure, 0.002, 4);
    const { figure: calm, done } = mended(shaking, { ...noRepair(), jitterHz: 8 });
    const off = (clip: typeof walk) => {
      let sum = 0;
      for (let i = 0; i < clip.poses.length; i++) sum += (clip.poses[i]! - walk.poses[i]!) ** 2;
      return Math.sqrt(sum / clip.poses.length);
    };
    expect(off(calm.clip)).toBeLessThan(0.6 * off(shaking.clip));
    expect(done[0]!.mean).toBeGreaterThan(0.001);
  });

  it('levels a tilted, sunken floor: feet stand on 0 again', () => {
    const tilt = 0.06;
    const tilted = inWorld(walk, 1, Float64Array.of(Math.sin(tilt / 2), 0, 0, Math.cos(tilt / 2)));
    const poses = tilted.poses.slice();
    for (let f = 0; f < walk.frames; f++) poses[f * size + 1] = poses[f * size + 1]! - 0.3;
    const { figure: level, done } = mended(shaken({ ...figure, clip: { ...tilted, poses } }, 0.0005, 9), { ...noRepair(), tilt: true, floor: true });
    expect(done.map((d) => d.what)).toEqual(['tilt', 'floor']);
    expect(Math.abs(analyseClip(level).floor)).toBeLessThan(0.006);
    // The hips go level again: as high at the end as at the beginning, to a centimetre.
    const y = (f: number) => level.clip.poses[f * size + 1]!;
    expect(Math.abs(y(10) - y(walk.frames - 10))).toBeLessThan(0.02);
  });

  it('cuts a rest pose off where there is one', async () => {
    const { figure: jumps } = (await recording(RECORDINGS.jumps)).brought;
    const cut = mended(jumps, { ...noRepair(), restPose: true });
    expect(cut.figure.clip.frames).toBe(jumps.clip.frames - 1);
    expect(mended(cut.figure, { ...noRepair(), restPose: true }).done).toEqual([]);
    const floored = mended(jumps, { ...noRepair(), floor: true });
    expect(Math.abs(analyseClip(floored.figure).floor)).toBeLessThan(1e-6);
  });
});
