import { JOINT, SHOULDER, SIDES } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { multiply, multiplyAxis, multiplyConjugate, setAxis, setIdentity, slerp, type Numbers } from '../math/quaternion';
import { clamp, lerp } from '../math/scalar';
import { once, twice, type Frame } from './frame';

/** The elbow never opens past this (rad). */
const STRAIGHTEST_ELBOW_RAD = 0.03;
const FURTHEST_ELBOW_RAD = 2.5;

/** q scaled to 1/parts of its angle, so that `parts` of them in a chain make q. Both in the caller's buffers. */
function splitRotation(out: Numbers, o: number, q: Numbers, i: number, parts: number): void {
  const sign = q[i + 3]! < 0 ? -1 : 1;
  const w = Math.min(1, q[i + 3]! * sign);
  const sine = Math.sqrt(Math.max(0, 1 - w * w));
  if (sine < 1e-12) return setIdentity(out, o);
  const half = Math.atan2(sine, w) / parts;
  const k = (Math.sin(half) / sine) * sign;
  out[o] = q[i]! * k;
  out[o + 1] = q[i + 1]! * k;
  out[o + 2] = q[i + 2]! * k;
  out[o + 3] = Math.cos(half);
}

/**
 * Returns the evaluator for spine, arms and head on top of solved hips. Writes local rotations into the pose, whose
 * quaternions start at `quats`. Allocates nothing per call.
 */
export function createUpperBody(gait: GaitSpec) {
  const { trunk, arms, head, direction, hips, timing } = gait;
  const along = Math.cos(direction.travel - direction.hips);
  // Leaning into the way one goes: full forward, a third sideways, against it a little.
  const leanShare = 0.35 + 0.65 * Math.cos(direction.travel);
  const armPhase = [timing.leftArm, timing.rightArm];
  // Scratch: chest world, head world, split local.
  const q = new Float64Array(12);
  return (frame: Frame, pose: Numbers, quats: number): void => {
    const { phase, strength } = frame;
    const keep = 1 - trunk.shoulderLevel;
    const lean = strength * leanShare * (trunk.lean.offset + twice(trunk.lean, phase)) + keep * (frame.tilt - hips.tilt.offset * (1 - strength));
    const sideLean = trunk.sideLean.offset + strength * once(trunk.sideLean, phase);
    setAxis(q, 0, 1, direction.chest + trunk.counterTurn.offset + strength * along * once(trunk.counterTurn, phase));
    multiplyAxis(q, 0, q, 0, 0, lean);
    multiplyAxis(q, 0, q, 0, 2, keep * frame.list - sideLean);
    multiplyConjugate(q, 8, frame.hips, 0, q, 0);
    for (let j = 0; j < 3; j++) splitRotation(pose, quats + (JOINT.spine + j) * 4, q, 8, 3);

    setAxis(q, 8, 0, head.nod);
    multiply(q, 4, q, 0, q, 8);
    slerp(q, 4, q, 4, q, 8, head.steadiness);
    multiplyConjugate(q, 8, q, 0, q, 4);
    splitRotation(pose, quats + JOINT.neck * 4, q, 8, 2);
    splitRotation(pose, quats + JOINT.head * 4, q, 8, 2);

    for (const side of SIDES) {
      const sign = side === 0 ? 1 : -1;
      const shoulder = quats + SHOULDER[side] * 4;
      const at = phase - armPhase[side]!;
      // Standing, an arm hangs; walking, it swings about its centre.
      const swing = strength * (arms.swing.offset + along * once(arms.swing, at));
      const elbow = lerp(0.22, arms.elbow.offset, strength) + strength * along * once(arms.elbow, at);
      // The shoulder girdle follows a little, so that the chest does not look like a board.
      setAxis(pose, shoulder, 1, -sign * 0.12 * swing);
      setAxis(pose, shoulder + 4, 0, -swing);
      multiplyAxis(pose, shoulder + 4, pose, shoulder + 4, 2, -sign * (Math.PI / 2 - arms.out));
      multiplyAxis(pose, shoulder + 4, pose, shoulder + 4, 0, arms.inward);
      setAxis(pose, shoulder + 8, 1, -sign * clamp(elbow, STRAIGHTEST_ELBOW_RAD, FURTHEST_ELBOW_RAD));
      setAxis(pose, shoulder + 12, 2, -sign * 0.06);
    }
  };
}
