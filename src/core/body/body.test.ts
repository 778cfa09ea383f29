import { describe, expect, it } from 'vitest';
import { BODY_KEYS, shippedBody } from '../tests/cast';
import { createBody } from './body';
import { createMannequin } from './mannequin';
import { JOINT } from './roles';
import { createWorldPose, forwardKinematics, poseSize } from './skeleton';
import { bodySpecFromStature, bodySpecSchema, SHIPPED_BODIES } from './spec';

/** World rest positions: a pose of rest translations and identity rotations. */
function restHeights(stature: number) {
  const body = createBody(bodySpecFromStature(stature));
  const pose = new Float64Array(poseSize(body.skeleton));
  body.skeleton.moving.forEach((j, m) => pose.set(body.skeleton.offsets.subarray(j * 3, j * 3 + 3), m * 3));
  for (let j = 0; j < body.skeleton.names.length; j++) pose[body.skeleton.moving.length * 3 + j * 4 + 3] = 1;
  const world = createWorldPose(body.skeleton);
  forwardKinematics(body.skeleton, pose, 0, world);
  return { body, at: (joint: number, axis: number) => world.positions[joint * 3 + axis]! };
}

describe('a body from stature', () => {
  // Drillis & Contini (1966) as reproduced in Winter; values from memory, parts of stature.
  it.each([1.28, 1.72, 1.88])('has joints where Drillis & Contini put them, stature %s m', (H) => {
    const { body, at } = restHeights(H);
    expect(at(JOINT.leftUpperLeg, 1) / H).toBeCloseTo(0.53, 9);
    expect(at(JOINT.leftLowerLeg, 1) / H).toBeCloseTo(0.285, 9);
    expect(at(JOINT.leftFoot, 1) / H).toBeCloseTo(0.039, 9);
    expect(at(JOINT.leftUpperArm, 1) / H).toBeCloseTo(0.818, 9);
    expect((at(JOINT.leftUpperArm, 0) - at(JOINT.rightUpperArm, 0)) / H).toBeCloseTo(0.259, 9);
    expect((at(JOINT.leftLowerArm, 0) - at(JOINT.leftUpperArm, 0)) / H).toBeCloseTo(0.186, 9);
    expect((at(JOINT.leftHand, 0) - at(JOINT.leftLowerArm, 0)) / H).toBeCloseTo(0.146, 9);
    expect((at(JOINT.leftUpperLeg, 0) - at(JOINT.rightUpperLeg, 0)) / H).toBeCloseTo(0.1, 9);
    expect((body.sole.heelBack + body.sole.tipAhead) / H).toBeCloseTo(0.152, 9);
    expect(body.sole.breadth / H).toBeCloseTo(0.055, 9);
    expect(at(JOINT.leftFoot, 0)).toBe(-at(JOINT.rightFoot, 0));
  });

  it('refuses proportions that cannot stand and specs that are not bodies', () => {
    expect(() => createBody({ ...SHIPPED_BODIES.marlo, proportions: { thigh: 0.5, shank: 0.5 } })).toThrow(RangeError);
    for (const bad of [{ stature: NaN }, { stature: -1 }, { mass: Infinity }, { name: '' }, { proportions: { nose: 0.1 } }])
      expect(bodySpecSchema.safeParse({ ...SHIPPED_BODIES.marlo, ...bad }).success).toBe(false);
  });
});

describe('the mannequin', () => {
  it.each(BODY_KEYS)('%s: closed, weighted to 1, the right size, soles on the ground', (key) => {
    const body = shippedBody(key);
    const mesh = createMannequin(body);
    for (let v = 0; v < mesh.positions.length / 3; v++) {
      const weights = [...mesh.weights.subarray(v * 4, v * 4 + 4)];
      expect(weights.reduce((a, b) => a + b)).toBeCloseTo(1, 6);
      expect(Math.min(...weights)).toBeGreaterThanOrEqual(0);
    }
    const ys = mesh.positions.filter((_, i) => i % 3 === 1);
    expect(Math.min(...ys)).toBeCloseTo(0, 3);
    expect(Math.max(...ys)).toBeGreaterThan(0.97 * body.spec.stature);
    expect(Math.max(...ys)).toBeLessThan(1.01 * body.spec.stature);
    // Closed surface: every edge is used once in each direction.
    const edges = new Set<string>();
    for (let i = 0; i < mesh.indices.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const edge = `${mesh.indices[i + k]}>${mesh.indices[i + ((k + 1) % 3)]}`;
        expect(edges.has(edge)).toBe(false);
        edges.add(edge);
      }
    for (const edge of edges) expect(edges.has(edge.split('>').reverse().join('>'))).toBe(true);
  });
});
