import { describe, expect, it } from 'vitest';
import { cycle } from '../motion/solved';
import { JOINT } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { structuredCloneGait } from '../gait/timing';
import { centreOfMass } from '../body/centre-of-mass';
import { rotate } from '../math/quaternion';
import { presetFor, shippedBody } from '../tests/cast';

const body = shippedBody('marlo');
const world = createWorldPose(body.skeleton);
const pose = new Float64Array(poseSize(body.skeleton));

function at(phase: number, steadiness?: number) {
  const gait = structuredCloneGait(presetFor('walk', body));
  if (steadiness !== undefined) gait.head.steadiness = steadiness;
  const motion = cycle(gait, body);
  motion.pose(phase * gait.timing.strideTime, pose, 0);
  forwardKinematics(body.skeleton, pose, 0, world);
  const axis = (joint: number, v: readonly [number, number, number]) => {
    const out = [0, 0, 0];
    rotate(out, 0, world.rotations, joint * 4, v[0], v[1], v[2]);
    return out as [number, number, number];
  };
  const p = (joint: number, k: number) => world.positions[joint * 3 + k]!;
  return { axis, p };
}

describe('above the hips', () => {
  it('each arm swings opposite to the leg on its side (common practice, no published source)', () => {
    const landing = at(0);
    // Left foot ahead: left hand behind its shoulder, right hand ahead.
    expect(landing.p(JOINT.leftFoot, 2)).toBeGreaterThan(landing.p(JOINT.rightFoot, 2) + 0.3);
    expect(landing.p(JOINT.leftHand, 2)).toBeLessThan(landing.p(JOINT.leftUpperArm, 2));
    expect(landing.p(JOINT.rightHand, 2)).toBeGreaterThan(landing.p(JOINT.rightUpperArm, 2) + 0.1);
  });

  it('hips turn forward with the landing foot and the chest turns against them', () => {
    const landing = at(0);
    expect(landing.p(JOINT.leftUpperLeg, 2)).toBeGreaterThan(landing.p(JOINT.rightUpperLeg, 2));
    expect(landing.p(JOINT.leftUpperArm, 2)).toBeLessThan(landing.p(JOINT.rightUpperArm, 2));
    // The swinging side of the pelvis drops in single support.
    const single = at(0.28);
    expect(single.p(JOINT.rightUpperLeg, 1)).toBeLessThan(single.p(JOINT.leftUpperLeg, 1));
  });

  it('the trunk leans back a little at contact and forward at passing (common practice, no published source)', () => {
    expect(at(0.25).axis(JOINT.upperChest, [0, 1, 0])[2]).toBeGreaterThan(at(0).axis(JOINT.upperChest, [0, 1, 0])[2]);
  });

  it('a steady head keeps its gaze through the cycle, a loose one follows the chest', () => {
    const wander = (steadiness: number) =>
      Math.max(...[0, 0.1, 0.25, 0.4, 0.5, 0.75].map((p) => Math.hypot(...(at(p, steadiness).axis(JOINT.head, [0, 0, 1]).slice(0, 2) as [number, number]))));
    expect(wander(1)).toBeLessThan(1e-9);
    expect(wander(0)).toBeGreaterThan(0.05);
  });

  it('keeps hands out of the body and elbows from bending backward', () => {
    for (let p = 0; p < 1; p += 0.1) {
      const { p: place } = at(p);
      for (const [hand, sign] of [
        [JOINT.leftHand, 1],
        [JOINT.rightHand, -1],
      ] as const)
        expect(sign * (place(hand, 0) - place(JOINT.hips, 0))).toBeGreaterThan(0.1);
    }
  });
});

describe('the whole-body centre of mass', () => {
  it('rides near the hips, rises and falls 35–55 mm, highest in mid-stance (Saunders et al. 1953; Inman et al. 1981, from memory: 40–50 mm)', () => {
    const com = new Float64Array(3);
    const heights = Array.from({ length: 50 }, (_, i) => {
      at(i / 50);
      centreOfMass(world, com, 0);
      return com[1]!;
    });
    const range = Math.max(...heights) - Math.min(...heights);
    expect(range).toBeGreaterThan(0.03);
    expect(range).toBeLessThan(0.055);
    expect(Math.abs(heights[0]! / body.spec.stature - 0.56)).toBeLessThan(0.03);
    const highest = heights.slice(0, 25).indexOf(Math.max(...heights.slice(0, 25))) / 50;
    expect(highest).toBeGreaterThan(0.2);
    expect(highest).toBeLessThan(0.42);
  });
});
