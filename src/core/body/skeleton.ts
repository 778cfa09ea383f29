import { multiply, rotateFrom, type Numbers } from '../math/quaternion';

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
function restPose(s: Skeleton): Float64Array {
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

/** Joints and all above them, parents first: what kinematics of a few joints need. */
export function withAncestors({ parents }: Skeleton, joints: readonly number[]): Int32Array {
  const wanted = new Set<number>();
  for (const joint of joints) for (let j = joint; j >= 0; j = parents[j]!) wanted.add(j);
  return Int32Array.from([...wanted].sort((a, b) => a - b));
}

/**
 * Fills `world` from the pose at `pose[at..]`: of all joints, or of those in `only` (parents first, with all above them).
 * Allocates nothing.
 */
export function forwardKinematics(s: Skeleton, pose: Numbers, at: number, world: WorldPose, only?: Int32Array): void {
  const { parents, offsets, moving } = s;
  const { positions, rotations } = world;
  const quats = at + moving.length * 3;
  const count = only ? only.length : parents.length;
  for (let i = 0, m = 0; i < count; i++) {
    const j = only ? only[i]! : i;
    const p = parents[j]!;
    while (m < moving.length && moving[m]! < j) m++;
    const moves = m < moving.length && moving[m] === j;
    if (p < 0) {
      for (let k = 0; k < 3; k++) positions[j * 3 + k] = moves ? pose[at + m * 3 + k]! : offsets[j * 3 + k]!;
      for (let k = 0; k < 4; k++) rotations[j * 4 + k] = pose[quats + j * 4 + k]!;
      continue;
    }
    if (moves) rotateFrom(positions, j * 3, rotations, p * 4, pose, at + m * 3);
    else rotateFrom(positions, j * 3, rotations, p * 4, offsets, j * 3);
    positions[j * 3] = positions[j * 3]! + positions[p * 3]!;
    positions[j * 3 + 1] = positions[j * 3 + 1]! + positions[p * 3 + 1]!;
    positions[j * 3 + 2] = positions[j * 3 + 2]! + positions[p * 3 + 2]!;
    multiply(rotations, j * 4, rotations, p * 4, pose, quats + j * 4);
  }
}
