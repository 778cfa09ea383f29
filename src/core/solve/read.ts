import type { Body } from '../body/body';
import { JOINT, SHOULDER, SIDES, UPPER_LEG, type Side } from '../body/roles';
import { createWorldPose, forwardKinematics } from '../body/skeleton';
import { multiplyConjugate, rotate, setIdentity, type Numbers } from '../math/quaternion';
import { rollFoot } from './rocker';
import { soleAxes } from './sole-frame';
import { splitRotation } from './split';
import { ARM_TARGET, armAt, FOOT_TARGET, footAt, TARGET, type Targets } from './targets';

/** Takes poses of the canonical skeleton to the targets that would make them. */
export type PoseReader = (pose: Numbers, at: number, targets: Targets) => void;

/** A hinge or a leg flatter than this (sine) has no heading of its own. */
const FLAT = 1e-6;

/**
 * The reader of one body. Hips are asked to be where they are (giving way by a plain minimum, legs straight if they are);
 * a sole is taken as level with heading, pitch and roll of its foot; the knee's heading is that of its hinge. What a
 * hinged leg cannot do is read as the nearest that one can. Nothing is known of standing: `planted` is 0.
 */
export function createPoseReader(body: Body): PoseReader {
  const { skeleton } = body;
  const world = createWorldPose(skeleton);
  const q = new Float64Array(16);
  const v = new Float64Array(9);
  const rolled = new Float64Array(2);
  const axes = new Float64Array(6);

  function turns(targets: Targets): void {
    const copy = (joint: number, o: number) => targets.set(world.rotations.subarray(joint * 4, joint * 4 + 4), o);
    copy(JOINT.hips, TARGET.hipsTurn);
    copy(JOINT.upperChest, TARGET.chest);
    copy(JOINT.head, TARGET.head);
  }

  /** Deviations of spine, chest and neck from the even split. */
  function shares(pose: Numbers, quats: number, targets: Targets): void {
    multiplyConjugate(q, 0, targets, TARGET.hipsTurn, targets, TARGET.chest);
    splitRotation(q, 4, q, 0, 3);
    multiplyConjugate(targets, TARGET.spineShare, q, 4, pose, quats + JOINT.spine * 4);
    setIdentity(targets, TARGET.chestBefore);
    multiplyConjugate(targets, TARGET.chestShare, q, 4, pose, quats + JOINT.chest * 4);
    multiplyConjugate(q, 0, targets, TARGET.chest, targets, TARGET.head);
    splitRotation(q, 4, q, 0, 2);
    multiplyConjugate(targets, TARGET.neckShare, q, 4, pose, quats + JOINT.neck * 4);
  }

  function foot(side: Side, targets: Targets): void {
    const f = footAt(side);
    const joint = UPPER_LEG[side];
    const ankle = joint + 2;
    // Forward, left and up of the foot; heading, pitch and roll of R = Y(heading) X(−pitch) Z(∓roll).
    rotate(v, 0, world.rotations, ankle * 4, 0, 0, 1);
    rotate(v, 3, world.rotations, ankle * 4, 1, 0, 0);
    rotate(v, 6, world.rotations, ankle * 4, 0, 1, 0);
    let pitch = Math.asin(Math.min(1, Math.max(-1, v[1]!)));
    let heading = Math.hypot(v[0]!, v[2]!) > FLAT ? Math.atan2(v[0]!, v[2]!) : Math.atan2(-v[5]!, v[3]!);
    // About forward, so that left tips down: sin = left.y / cos pitch, cos = up.y / cos pitch.
    let tip = Math.atan2(v[4]!, v[7]!);
    if (Math.abs(tip) > Math.PI / 2) {
      // A foot past the vertical: the other reading of the same rotation, with little roll.
      pitch = Math.PI - pitch;
      if (pitch > Math.PI) pitch -= 2 * Math.PI;
      heading += Math.PI;
      tip = Math.atan2(-v[4]!, -v[7]!);
    }
    targets[f + FOOT_TARGET.heading] = heading;
    targets[f + FOOT_TARGET.slopeX] = targets[f + FOOT_TARGET.slopeZ] = 0;
    targets[f + FOOT_TARGET.pitch] = pitch;
    targets[f + FOOT_TARGET.roll] = (side === 0 ? -1 : 1) * tip;
    // Toes turn about the foot's own left.
    multiplyConjugate(q, 0, world.rotations, ankle * 4, world.rotations, (ankle + 1) * 4);
    targets[f + FOOT_TARGET.bend] = -2 * Math.atan2(q[0]!, q[3]!);
    rollFoot(body.legs[side].sole, targets, f + FOOT_TARGET.pitch, rolled, 0);
    soleAxes(targets, f + FOOT_TARGET.heading, axes, 0);
    for (let k = 0; k < 3; k++) targets[f + k] = world.positions[ankle * 3 + k]! - axes[k]! * rolled[0]! - axes[3 + k]! * rolled[1]!;
    targets[f + FOOT_TARGET.knee] = kneeHeading(joint);
    targets[f + FOOT_TARGET.planted] = 0;
  }

  /** Heading whose left, made perpendicular to the leg, is the thigh's hinge. */
  function kneeHeading(joint: number): number {
    const p = world.positions;
    const u = [0, 1, 2].map((k) => p[(joint + 2) * 3 + k]! - p[joint * 3 + k]!);
    const n = [0, 0, 0];
    rotate(n, 0, world.rotations, joint * 4, 1, 0, 0);
    const share = Math.abs(u[1]!) > FLAT ? n[1]! / u[1]! : 0;
    return Math.atan2(-(n[2]! - share * u[2]!), n[0]! - share * u[0]!);
  }

  return (pose, at, targets) => {
    const quats = at + 6;
    forwardKinematics(skeleton, pose, at, world);
    for (let k = 0; k < 3; k++) targets[TARGET.root + k] = pose[at + k]!;
    targets[TARGET.root + 3] = 2 * Math.atan2(pose[quats + 1]!, pose[quats + 3]!);
    for (let k = 0; k < 3; k++) targets[TARGET.hips + k] = world.positions[JOINT.hips * 3 + k]!;
    turns(targets);
    shares(pose, quats, targets);
    targets[TARGET.straightest] = 0;
    targets[TARGET.sharpness] = Infinity;
    for (const side of SIDES) {
      foot(side, targets);
      const a = armAt(side);
      for (let k = 0; k < 16; k++) targets[a + ARM_TARGET.rotations + k] = pose[quats + SHOULDER[side] * 4 + k]!;
      for (let k = ARM_TARGET.palm; k <= ARM_TARGET.weight; k++) targets[a + k] = 0;
    }
  };
}
