import type { Body } from './body';
import { SIDES, SIDE_NAMES, UPPER_LEG, type SideName } from './roles';
import type { WorldPose } from './skeleton';
import type { Sole } from './sole';
import { rotate } from '../math/quaternion';

/** A leg of any skeleton with the three points of its sole; offsets in the joints' rest frames, metres. */
export interface FootModel {
  readonly name: SideName;
  readonly hip: number;
  readonly knee: number;
  readonly ankle: number;
  readonly toes: number;
  readonly heel: readonly [number, number, number];
  readonly ball: readonly [number, number, number];
  readonly tip: readonly [number, number, number];
  /** The way up from the sole where it lies flat (unit): in the ankle's frame, and in the toes'. */
  readonly up: readonly [number, number, number];
  readonly toesUp: readonly [number, number, number];
}

/** Both feet of a canonical body, each with the sole measured for it. */
export function ownFeet(body: Body): readonly FootModel[] {
  return SIDES.map((side) => {
    const hip = UPPER_LEG[side];
    return footModel(SIDE_NAMES[side], [hip, hip + 1, hip + 2, hip + 3], body.legs[side].sole);
  });
}

/** A leg with joints [hip, knee, ankle, toes] whose feet point along +Z in the rest pose. */
function footModel(name: SideName, [hip, knee, ankle, toes]: readonly [number, number, number, number], sole: Sole): FootModel {
  return {
    name,
    hip,
    knee,
    ankle,
    toes,
    heel: [0, -sole.ankleHeight, -sole.heelBack],
    ball: [0, -sole.toeJointHeight, 0],
    tip: [0, -sole.toeJointHeight, sole.tipAhead - sole.ballAhead],
    up: [0, 1, 0],
    toesUp: [0, 1, 0],
  };
}

/** Numbers written by `contactPoints`: heel, ball and toe tip, xyz each. */
export const CONTACT_NUMBERS = 9;

/** World positions (m) of heel, ball and toe tip into out[at..]. */
export function contactPoints(foot: FootModel, world: WorldPose, out: Float64Array, at: number): void {
  place(world, foot.ankle, foot.heel, out, at);
  place(world, foot.toes, foot.ball, out, at + 3);
  place(world, foot.toes, foot.tip, out, at + 6);
}

function place(world: WorldPose, joint: number, offset: readonly [number, number, number], out: Float64Array, at: number): void {
  rotate(out, at, world.rotations, joint * 4, offset[0], offset[1], offset[2]);
  for (let k = 0; k < 3; k++) out[at + k] = out[at + k]! + world.positions[joint * 3 + k]!;
}
