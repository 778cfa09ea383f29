import { multiply, multiplyConjugate, rotate, type Numbers } from '../math/quaternion';
import type { Body } from './body';
import { ownFeet, type FootModel } from './foot-model';
import { JOINT, JOINT_COUNT, ROLES } from './roles';
import { createWorldPose, forwardKinematics, poseSize, restWorld, rotationAt, type Skeleton } from './skeleton';

/** How a canonical pose shows on some skeleton, and how a pose of that skeleton is taken back. */
export interface Rig {
  readonly skeleton: Skeleton;
  readonly feet: readonly FootModel[];
  /** Tip of a joint that has no child, in its frame, m; null where none is told. */
  readonly ends: readonly (readonly [number, number, number] | null)[];
  /** Canonical pose at pose[at..] as a pose of `skeleton` at out[o..]. */
  show(pose: Numbers, at: number, out: Numbers, o: number): void;
  /** Pose of `skeleton` at pose[at..] as a canonical one at out[o..]. */
  take(pose: Numbers, at: number, out: Numbers, o: number): void;
}

/** Head and hands end this far from their joints, as parts of stature. */
const HEAD_END = 0.12;
const HAND_END = 0.108;

/** Our own figure: the canonical skeleton as it is. */
export function mannequinRig(body: Body): Rig {
  const { skeleton, spec, legs } = body;
  const size = poseSize(skeleton);
  const copy = (pose: Numbers, at: number, out: Numbers, o: number) => {
    for (let k = 0; k < size; k++) out[o + k] = pose[at + k]!;
  };
  const ends = ROLES.map((role): readonly [number, number, number] | null => {
    if (role === 'head') return [0, HEAD_END * spec.stature, 0];
    if (role === 'leftHand') return [HAND_END * spec.stature, 0, 0];
    if (role === 'rightHand') return [-HAND_END * spec.stature, 0, 0];
    if (role !== 'leftToes' && role !== 'rightToes') return null;
    const { sole } = legs[role === 'leftToes' ? 0 : 1];
    return [0, -sole.toeJointHeight, sole.tipAhead - sole.ballAhead];
  });
  return { skeleton, feet: ownFeet(body), ends, show: copy, take: copy };
}

/**
 * A skeleton whose joints carry the names of roles, with whatever rest rotations it has, taken for a figure like `body`.
 * Joints without a role stay at rest. Without a joint `root` the travel lies in the hips. Throws RangeError where hips or a
 * leg are missing.
 */
export function namedRig(skeleton: Skeleton, body: Body): Rig {
  const joints = ROLES.map((role) => skeleton.names.indexOf(role));
  for (const role of ['hips', 'leftUpperLeg', 'leftLowerLeg', 'leftFoot', 'rightUpperLeg', 'rightLowerLeg', 'rightFoot'] as const)
    if (joints[JOINT[role]]! < 0) throw new RangeError(`namedRig: the skeleton has no joint ${role}`);
  const roles = skeleton.names.map((name) => (ROLES as readonly string[]).indexOf(name));
  const rest = restWorld(skeleton);
  const canonical = createWorldPose(body.skeleton),
    shown = createWorldPose(skeleton);
  const q = new Float64Array(4);
  const movingAt = (s: Skeleton, joint: number) => s.moving.indexOf(joint) * 3;

  return {
    skeleton,
    feet: ownFeet(body),
    ends: skeleton.names.map(() => null),
    show(pose, at, out, o) {
      forwardKinematics(body.skeleton, pose, at, canonical);
      for (let j = 0; j < skeleton.names.length; j++) {
        const role = roles[j]!;
        const parent = skeleton.parents[j]!;
        const local = o + rotationAt(skeleton, j);
        const m = movingAt(skeleton, j);
        if (m >= 0)
          for (let k = 0; k < 3; k++) {
            if (role < 0) out[o + m + k] = skeleton.offsets[j * 3 + k]!;
            else out[o + m + k] = parent < 0 ? canonical.positions[role * 3 + k]! : pose[at + movingAt(body.skeleton, role) + k]!;
          }
        if (role < 0) for (let k = 0; k < 4; k++) out[local + k] = skeleton.rest[j * 4 + k]!;
        else {
          multiply(shown.rotations, j * 4, canonical.rotations, role * 4, rest.rotations, j * 4);
          if (parent < 0) for (let k = 0; k < 4; k++) out[local + k] = shown.rotations[j * 4 + k]!;
          else multiplyConjugate(out, local, shown.rotations, parent * 4, shown.rotations, j * 4);
          continue;
        }
        if (parent < 0) for (let k = 0; k < 4; k++) shown.rotations[j * 4 + k] = out[local + k]!;
        else multiply(shown.rotations, j * 4, shown.rotations, parent * 4, out, local);
      }
    },
    take(pose, at, out, o) {
      forwardKinematics(skeleton, pose, at, shown);
      const s = body.skeleton;
      for (let role = 0; role < JOINT_COUNT; role++) {
        const j = joints[role]!;
        const parent = s.parents[role]!;
        const w = role * 4;
        if (j < 0) {
          // A role the skeleton lacks goes with its parent; the root stands level under the hips.
          for (let k = 0; k < 4; k++) canonical.rotations[w + k] = parent < 0 ? (k === 3 ? 1 : 0) : canonical.rotations[parent * 4 + k]!;
        } else {
          for (let k = 0; k < 3; k++) q[k] = -rest.rotations[j * 4 + k]!;
          q[3] = rest.rotations[j * 4 + 3]!;
          multiply(canonical.rotations, w, shown.rotations, j * 4, q, 0);
        }
        const local = o + rotationAt(s, role);
        if (parent < 0) for (let k = 0; k < 4; k++) out[local + k] = canonical.rotations[w + k]!;
        else multiplyConjugate(out, local, canonical.rotations, parent * 4, canonical.rotations, w);
      }
      const hips = joints[JOINT.hips]! * 3,
        root = joints[JOINT.root]! * 3;
      const p = shown.positions;
      for (let k = 0; k < 3; k++) out[o + k] = root >= 0 ? p[root + k]! : k === 1 ? 0 : p[hips + k]!;
      // The hips are local to the root.
      for (let k = 0; k < 3; k++) q[k] = -out[o + 6 + k]!;
      q[3] = out[o + 9]!;
      rotate(out, o + 3, q, 0, p[hips]! - out[o]!, p[hips + 1]! - out[o + 1]!, p[hips + 2]! - out[o + 2]!);
    },
  };
}
