import { armLengths } from '../body/arms';
import type { Body } from '../body/body';
import { SIDES } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { createArmRoom } from '../body/trunk';

/** Moments of a stride looked at, and rounds of taking the arms out. */
const MOMENTS = 12;
const ROUNDS = 5;
/** The most an arm is taken out, rad. */
const MOST_OUT_RAD = 0.9;
const GOOD_M = 5e-4;

/**
 * Takes each arm out from the body, by one angle for the whole stride of `duration` s, until it keeps its clearance (m);
 * writes the angles to `armsOut`, which `solve` must read. Returns the room (m) that is still missing.
 */
export function clearArms(
  body: Body,
  clearance: readonly [number, number],
  duration: number,
  armsOut: Float64Array,
  solve: (t: number, out: Float64Array) => void,
): number {
  if (!clearance.some((w) => w > 0)) return 0;
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const roomOf = createArmRoom(body);
  const { upper, fore } = armLengths(body);
  const missing = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    missing.fill(0);
    for (let i = 0; i < MOMENTS; i++) {
      solve((duration * i) / MOMENTS, pose);
      forwardKinematics(body.skeleton, pose, 0, world);
      for (const side of SIDES) missing[side] = Math.max(missing[side]!, clearance[side] - roomOf(world, side));
    }
    if (missing[0]! <= GOOD_M && missing[1]! <= GOOD_M) return 0;
    for (const side of SIDES)
      if (missing[side]! > GOOD_M) armsOut[side] = Math.min(MOST_OUT_RAD, armsOut[side]! + (1.15 * missing[side]!) / (0.5 * (upper + fore)));
  }
  return Math.max(0, missing[0]!, missing[1]!);
}
