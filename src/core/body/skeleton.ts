import { multiply, rotate, type Numbers } from '../math/quaternion';

/** A joint hierarchy in its rest pose. Parents come before children. Lengths in metres. */
export interface Skeleton {
  readonly names: readonly string[];
  /** Parent index per joint, -1 for a root. */
  readonly parents: Int32Array;
  /** Rest offset from the parent, 3 numbers a joint. */
  readonly offsets: Float64Array;
  /** Local rest rotation, a quaternion per joint. The canonical skeleton's are all identity. */
  readonly rest: Float64Array;
  /** Joints whose translation moves; a pose stores their translations first, 3 numbers each. */
  readonly moving: Int32Array;
}

/** Numbers in one pose: the moving joints' translations, then a quaternion per joint. */
export const poseSize = (s: Skeleton): number => s.moving.length * 3 + s.names.length * 4;

/** Offset of joint j's quaternion inside a pose. */
export const rotationAt = (s: Skeleton, joint: number): number => s.moving.length * 3 + joint * 4;

/** World transforms of a pose: 3 position and 4 rotation numbers a joint. Made once, filled by `forwardKinematics`. */
export interface WorldPose {
  readonly positions: Float64Array;
  readonly rotations: Float64Array;
}

export const createWorldPose = (s: Skeleton): WorldPose => ({
  positions: new Float64Array(s.names.length * 3),
  rotations: new Float64Array(s.names.length * 4),
});

/** Rest rotations of a skeleton whose joints all rest unturned. */
export function identityRest(joints: number): Float64Array {
  const rest = new Float64Array(joints * 4);
  for (let j = 0; j < joints; j++) rest[j * 4 + 3] = 1;
  return rest;
}

/** A pose of the skeleton at rest. */
export function restPose(s: Skeleton): Float64Array {
  const pose = new Float64Array(poseSize(s));
  s.moving.forEach((j, m) => pose.set(s.offsets.subarray(j * 3, j * 3 + 3), m * 3));
  pose.set(s.rest, s.moving.length * 3);
  return pose;
}

/** World transforms of the skeleton at rest. */
export function restWorld(s: Skeleton): WorldPose {
  const world = createWorldPose(s);
  forwardKinematics(s, restPose(s), 0, world);
  return world;
}

/** Fills `world` from the pose at `pose[at..]`. Allocates nothing. */
export function forwardKinematics(s: Skeleton, pose: Numbers, at: number, world: WorldPose): void {
  const { parents, offsets, moving } = s;
  const { positions, rotations } = world;
  const quats = at + moving.length * 3;
  let nextMoving = 0;
  for (let j = 0; j < parents.length; j++) {
    let x: number, y: number, z: number;
    if (moving[nextMoving] === j) {
      const m = at + nextMoving++ * 3;
      x = pose[m]!;
      y = pose[m + 1]!;
      z = pose[m + 2]!;
    } else {
      x = offsets[j * 3]!;
      y = offsets[j * 3 + 1]!;
      z = offsets[j * 3 + 2]!;
    }
    const p = parents[j]!;
    if (p < 0) {
      positions[j * 3] = x;
      positions[j * 3 + 1] = y;
      positions[j * 3 + 2] = z;
      for (let k = 0; k < 4; k++) rotations[j * 4 + k] = pose[quats + j * 4 + k]!;
      continue;
    }
    rotate(positions, j * 3, rotations, p * 4, x, y, z);
    positions[j * 3] = positions[j * 3]! + positions[p * 3]!;
    positions[j * 3 + 1] = positions[j * 3 + 1]! + positions[p * 3 + 1]!;
    positions[j * 3 + 2] = positions[j * 3 + 2]! + positions[p * 3 + 2]!;
    multiply(rotations, j * 4, rotations, p * 4, pose, quats + j * 4);
  }
}
