import type { Body } from '../body/body';
import { SIDES, type Side } from '../body/roles';
import { rotateFrom } from '../math/quaternion';
import { ANKLE_SOLE, ankleOf, createAnkleScratch } from './ankle';
import { longestReach } from './leg';
import { footAt, TARGET, type Targets } from './targets';

/** Softness (part of the squared reach) with which a leg out of reach runs out. */
const SOFT = 0.02;

/** What the legs leave the hips: read once a pose, used by reach and by whoever plans the hips. */
export interface LegsRoom {
  /** Hip joints against the hips' place, left then right, 3 each, m. */
  readonly joints: Float64Array;
  /** Ankles, left then right, 3 each, m, world. */
  readonly ankles: Float64Array;
  /** Orientation of each sole's frame, 4 each. */
  readonly soles: Float64Array;
  /** Longest reach of each leg, m. */
  readonly longest: Float64Array;
  /** Highest place of the hips with which each foot is reached, m. */
  readonly ceilings: Float64Array;
  read(targets: Targets): void;
}

export function createLegsRoom(body: Body): LegsRoom {
  const joints = new Float64Array(6),
    ankles = new Float64Array(6),
    longest = new Float64Array(2),
    ceilings = new Float64Array(2),
    soles = new Float64Array(8);
  const scratch = SIDES.map(createAnkleScratch);
  const hips = body.legs.map(({ hip }) => Float64Array.from(hip));
  let straightest = NaN;
  return {
    joints,
    ankles,
    soles,
    longest,
    ceilings,
    read(targets) {
      if (targets[TARGET.straightest] !== straightest) {
        straightest = targets[TARGET.straightest]!;
        for (const side of SIDES) longest[side] = longestReach(body.legs[side], straightest);
      }
      for (let side = 0; side < 2; side++) {
        const o = side * 3;
        rotateFrom(joints, o, targets, TARGET.hipsTurn, hips[side]!, 0);
        ankleOf(body.legs[side]!.sole, targets, footAt(side as Side), ankles, o, scratch[side]!);
        for (let k = 0; k < 4; k++) soles[side * 4 + k] = scratch[side]![ANKLE_SOLE + k]!;
        const dx = targets[TARGET.hips]! + joints[o]! - ankles[o]!;
        const dz = targets[TARGET.hips + 2]! + joints[o + 2]! - ankles[o + 2]!;
        const square = longest[side]! * longest[side]!;
        // Beyond reach the root runs out smoothly instead of ending in NaN; the leg then reports what it missed.
        const under = square - dx * dx - dz * dz;
        const soft = SOFT * square;
        const rest = under > soft ? under : soft * Math.exp(under / soft - 1);
        ceilings[side] = ankles[o + 1]! + Math.sqrt(rest) - joints[o + 1]!;
      }
    },
  };
}
