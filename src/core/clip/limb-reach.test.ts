import { describe, expect, it } from 'vitest';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { seeded } from '../math/random';
import { cycleClip, presetFor, shippedBody } from '../tests/cast';
import { createLimbReach, usualHinge } from './limb-reach';

const body = shippedBody('pip');
const { clip } = cycleClip(presetFor('walk', body), body, 30);
const { skeleton } = clip;
const size = poseSize(skeleton);
const limb = { root: JOINT.leftUpperLeg, hinge: JOINT.leftLowerLeg, end: JOINT.leftFoot };
const world = createWorldPose(skeleton);
const looked = (at: number) => {
  forwardKinematics(skeleton, clip.poses, at, world);
  return world;
};
const reach = createLimbReach(skeleton, limb, usualHinge(skeleton, clip.poses, limb, looked));

/** Where the ankle comes to when it is asked to a place, from frame f; and the pose. */
function asked(f: number, target: Float64Array): { ankle: number[]; pose: Float64Array } {
  const pose = clip.poses.slice(f * size, (f + 1) * size);
  forwardKinematics(skeleton, pose, 0, world);
  reach(pose, 0, world, target, 0);
  forwardKinematics(skeleton, pose, 0, world);
  return { ankle: [0, 1, 2].map((k) => world.positions[limb.end * 3 + k]!), pose };
}

describe('a recorded limb taken to a place', () => {
  it('comes there exactly wherever it reaches, to 1e-9 m', () => {
    const rand = seeded(11);
    for (let n = 0; n < 400; n++) {
      const f = Math.floor(rand() * clip.frames);
      looked(f * size);
      const hip = [0, 1, 2].map((k) => world.positions[limb.root * 3 + k]!);
      const away = (0.3 + 0.69 * rand()) * body.legLength;
      const [yaw, pitch] = [rand() * 2 * Math.PI, -1.4 + rand()];
      const target = Float64Array.of(
        hip[0]! + away * Math.cos(pitch) * Math.sin(yaw),
        hip[1]! + away * Math.sin(pitch),
        hip[2]! + away * Math.cos(pitch) * Math.cos(yaw),
      );
      const { ankle } = asked(f, target);
      for (let k = 0; k < 3; k++) expect(ankle[k]).toBeCloseTo(target[k]!, 9);
    }
  });

  it('asked to where it is, it is the recording, bit for bit nearly', () => {
    for (let f = 0; f < clip.frames; f += 4) {
      looked(f * size);
      const target = world.positions.slice(limb.end * 3, limb.end * 3 + 3);
      const { pose } = asked(f, target);
      for (let k = 0; k < size; k++) expect(pose[k]).toBeCloseTo(clip.poses[f * size + k]!, 9);
    }
  });

  it('out of reach it is straight towards the place, and never no number', () => {
    looked(0);
    const hip = [0, 1, 2].map((k) => world.positions[limb.root * 3 + k]!);
    for (const target of [
      Float64Array.of(hip[0]!, hip[1]! - 5, hip[2]!),
      Float64Array.of(hip[0]!, hip[1]!, hip[2]!),
      Float64Array.of(hip[0]!, hip[1]! + 0.3, hip[2]!),
    ]) {
      const { ankle, pose } = asked(0, target);
      expect([...pose].every(Number.isFinite)).toBe(true);
      if (target[1]! < hip[1]! - 1) expect(hip[1]! - ankle[1]!).toBeCloseTo(body.legLength, 4);
    }
  });
});
