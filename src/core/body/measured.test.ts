import { describe, expect, it } from 'vitest';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { ownFeet } from './foot-model';
import { measuredBody } from './measured';
import { JOINT_COUNT } from './roles';
import { createWorldPose, forwardKinematics, poseSize } from './skeleton';

describe('a body measured on a skeleton made elsewhere', () => {
  it.each(['marlo', 'pip', 'bosun'] as const)('of our own %s is the body itself, and its poses come back', (key) => {
    const body = shippedBody(key);
    const { clip } = cycleClip(presetFor('walk', body), body, 30);
    const measured = measuredBody(
      body.skeleton,
      { roles: Int32Array.from({ length: JOINT_COUNT }, (_, j) => j), feet: ownFeet(body), legLength: body.legLength },
      'x',
    );
    expect(measured.body.legLength).toBeCloseTo(body.legLength, 9);
    body.skeleton.offsets.forEach((v, i) => expect(measured.body.skeleton.offsets[i]).toBeCloseTo(v, 9));
    const size = poseSize(body.skeleton);
    const [own, back] = [createWorldPose(body.skeleton), createWorldPose(body.skeleton)];
    const taken = new Float64Array(size);
    for (let f = 0; f < clip.frames; f += 3) {
      forwardKinematics(body.skeleton, clip.poses, f * size, own);
      measured.rig.take(clip.poses, f * size, taken, 0);
      forwardKinematics(measured.body.skeleton, taken, 0, back);
      for (let i = 3; i < own.positions.length; i++) expect(back.positions[i]).toBeCloseTo(own.positions[i]!, 9);
    }
  });
});
