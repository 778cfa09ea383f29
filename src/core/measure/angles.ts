import { JOINT, UPPER_LEG, type Side } from '../body/roles';
import { rotate, type Numbers } from '../math/quaternion';

/** Sagittal joint angles of one leg in radians, as gait laboratories count them: flexion and dorsiflexion positive. */
export interface LegAngles {
  /** Thigh against the pelvis. */
  hip: number;
  knee: number;
  /** Foot against the shank, 0 = right angle. */
  ankle: number;
}

/** Reads the angles of a solved pose whose quaternions start at `quats`. */
export function legAngles(pose: Numbers, quats: number, side: Side): LegAngles {
  const v = [0, 0, 0];
  const upper = quats + UPPER_LEG[side] * 4;
  rotate(v, 0, pose, upper, 0, -1, 0);
  const hip = Math.atan2(v[2]!, -v[1]!);
  rotate(v, 0, pose, upper + 4, 0, -1, 0);
  const knee = Math.atan2(-v[2]!, -v[1]!);
  rotate(v, 0, pose, upper + (JOINT.leftFoot - JOINT.leftUpperLeg) * 4, 0, 0, 1);
  return { hip, knee, ankle: Math.atan2(v[1]!, v[2]!) };
}
