import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFigure } from '../tests/clips';
import { createFrameReader } from './clip';
import { heldOn, retimed, reversed, trimmed } from './edits';
import { mirrored } from './mirrored';
import { unrolled } from './unroll';

const body = shippedBody('marlo');
const { clip } = cycleClip(presetFor('limp', body), body, 30);
const size = poseSize(clip.skeleton);
const near = (a: Float64Array, b: Float64Array, i = 0, j = 0, n = a.length) => {
  for (let k = 0; k < n; k++) expect(a[i + k]).toBeCloseTo(b[j + k]!, 9);
};

describe('a clip edited', () => {
  it('trimmed is the pictures it names, and none outside', () => {
    const some = trimmed(clip, 3, 9);
    expect(some.frames).toBe(7);
    expect(some.loop).toBe(false);
    near(some.poses, clip.poses, 0, 3 * size);
    expect(() => trimmed(clip, 9, 3)).toThrow(RangeError);
    expect(() => trimmed(clip, NaN, 3)).toThrow(RangeError);
  });

  it('reversed twice is itself, also as a loop', () => {
    near(reversed(reversed(clip)).poses, clip.poses);
    near(reversed(reversed(trimmed(clip, 0, 8))).poses, trimmed(clip, 0, 8).poses);
    expect(reversed(clip).loopTravel[2]).toBeCloseTo(-clip.loopTravel[2]!, 9);
  });

  it('twice as fast shows every second picture, and keeps what a round adds', () => {
    const even = trimmed(clip, 0, 20);
    const fast = retimed(even, 2);
    expect(fast.frames).toBe(11);
    for (let f = 0; f < fast.frames; f++) near(fast.poses, even.poses, f * size, 2 * f * size, size);
    expect(retimed(clip, 0.5).frames).toBe(2 * clip.frames);
    expect([...retimed(clip, 0.5).loopTravel]).toEqual([...clip.loopTravel]);
    expect(() => retimed(clip, 0)).toThrow(RangeError);
  });

  it('held on twos shows each picture twice; unrolled it goes on where it ended', () => {
    const twos = heldOn(clip, 2);
    near(twos.poses, twos.poses, 0, size, size);
    const three = unrolled(clip, 3);
    const read = createFrameReader(clip);
    const pose = new Float64Array(size);
    for (const f of [0, clip.frames - 1, clip.frames, 2 * clip.frames + 4]) {
      read(f, pose, 0);
      near(three.poses, pose, f * size, 0, size);
    }
  });

  it('mirrored has each joint where the other side’s was, seen in a mirror; twice it is itself', () => {
    const figure = ownFigure(clip);
    const other = mirrored(figure);
    const [a, b] = [createWorldPose(clip.skeleton), createWorldPose(clip.skeleton)];
    for (const f of [0, 5, 11]) {
      forwardKinematics(clip.skeleton, clip.poses, f * size, a);
      forwardKinematics(clip.skeleton, other.poses, f * size, b);
      for (const [left, right] of [
        ['leftFoot', 'rightFoot'],
        ['leftHand', 'rightHand'],
        ['head', 'head'],
      ] as const)
        for (const [k, sign] of [-1, 1, 1].entries()) expect(b.positions[JOINT[left] * 3 + k]).toBeCloseTo(sign * a.positions[JOINT[right] * 3 + k]!, 9);
    }
    near(mirrored({ ...figure, clip: other }).poses, clip.poses);
  });
});
