import type { Body } from '../body/body';
import { SIDES } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { createArmRoom } from '../body/trunk';
import { wrapPhase } from '../math/scalar';

/** Phases of a stride looked at, and rounds of taking the arms out of the body's way. */
const PHASES = 24;
const ROUNDS = 4;
/** The most an arm goes out, and its elbow bends more, rad. */
const MOST_OUT_RAD = 0.9;
const MOST_BEND_RAD = 0.8;
/** Angle (rad) by which it is tried what helps, and the least help (m/rad) that counts. */
const TRY_RAD = 0.08;
const LEAST_HELP = 0.05;
/** Room this close (m) to what is wanted is enough. */
const GOOD_M = 5e-4;

/** Extra angles of both arms: out left, out right, elbow left, elbow right, rad. */
export const ARMS_EXTRA = { out: 0, elbow: 2 } as const;
export const ARMS_EXTRA_SIZE = 4;

/** How arms go round the body over a stride. */
export interface ArmsClear {
  /** Per extra angle PHASES control points of a closed cubic spline. */
  readonly points: Float64Array;
  readonly needed: boolean;
  /** The most each arm goes out, rad, and the room (m) that is still missing. */
  readonly out: readonly [number, number];
  readonly missing: number;
}

export const ARMS_FREE: ArmsClear = { points: new Float64Array(0), needed: false, out: [0, 0], missing: 0 };

/**
 * Finds by how much each arm has to go out or to bend, phase by phase, so that it keeps its clearance (m) from trunk and
 * thighs. `solve` writes the pose at a phase with the extra angles in `extra`.
 */
export function clearArms(body: Body, clearance: readonly [number, number], extra: Float64Array, solve: (phase: number, out: Float64Array) => void): ArmsClear {
  if (!clearance.some((w) => w > 0)) return ARMS_FREE;
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const roomOf = createArmRoom(body);
  const points = new Float64Array(ARMS_EXTRA_SIZE * PHASES);
  const look = (phase: number) => {
    solve(phase, pose);
    forwardKinematics(body.skeleton, pose, 0, world);
  };
  let needed = false,
    missing = 0;
  for (let i = 0; i < PHASES; i++) {
    extra.fill(0);
    const phase = i / PHASES;
    const short = [0, 0];
    for (let round = 0; round < ROUNDS; round++) {
      look(phase);
      for (const side of SIDES) short[side] = clearance[side] - roomOf(world, side);
      if (short[0]! <= GOOD_M && short[1]! <= GOOD_M) break;
      needed = true;
      const help = [ARMS_EXTRA.out, ARMS_EXTRA.elbow].map((k) => {
        for (const side of SIDES) extra[k + side] = extra[k + side]! + TRY_RAD;
        look(phase);
        for (const side of SIDES) extra[k + side] = extra[k + side]! - TRY_RAD;
        return SIDES.map((side) => Math.max(0, (short[side]! - clearance[side] + roomOf(world, side)) / TRY_RAD));
      });
      for (const side of SIDES) {
        if (short[side]! <= GOOD_M) continue;
        const [out, bend] = [help[0]![side]!, help[1]![side]!];
        const square = Math.max(LEAST_HELP * LEAST_HELP, out * out + bend * bend);
        extra[side] = Math.min(MOST_OUT_RAD, extra[side]! + (short[side]! * out) / square);
        extra[ARMS_EXTRA.elbow + side] = Math.min(MOST_BEND_RAD, extra[ARMS_EXTRA.elbow + side]! + (short[side]! * bend) / square);
      }
    }
    missing = Math.max(missing, short[0]! - GOOD_M, short[1]! - GOOD_M);
    for (let k = 0; k < ARMS_EXTRA_SIZE; k++) points[k * PHASES + i] = extra[k]!;
  }
  extra.fill(0);
  if (!needed) return ARMS_FREE;
  soften(points);
  const most = (side: number) => points.subarray(side * PHASES, (side + 1) * PHASES).reduce((a, b) => Math.max(a, b), 0);
  return { points, needed, out: [most(0), most(1)], missing };
}

/** Widens every need to its neighbours, so that the spline through its points as a hull is nowhere less, and rounds it off. */
function soften(points: Float64Array): void {
  const at = (v: Float64Array, i: number) => v[(i + PHASES) % PHASES]!;
  for (let k = 0; k < ARMS_EXTRA_SIZE; k++) {
    const own = points.subarray(k * PHASES, (k + 1) * PHASES);
    const wide = own.map((_, i) => Math.max(...[-2, -1, 0, 1, 2].map((d) => at(own, i + d))));
    own.set(wide.map((_, i) => (at(wide, i - 1) + 2 * at(wide, i) + at(wide, i + 1)) / 4));
  }
}

/** Writes the extra angles at a phase, times `share[0]`, to out[0..ARMS_EXTRA_SIZE). Source: the uniform cubic B-spline; C2 all round. */
export function readArms({ points }: ArmsClear, phase: number, share: Float64Array, out: Float64Array): void {
  const s = wrapPhase(phase) * PHASES;
  const i = Math.min(PHASES - 1, Math.floor(s)),
    u = s - i;
  const a = (i + PHASES - 1) % PHASES,
    c = (i + 1) % PHASES,
    d = (i + 2) % PHASES;
  const v = 1 - u;
  const wa = (v * v * v) / 6,
    wb = (3 * u * u * u - 6 * u * u + 4) / 6,
    wc = (3 * v * v * v - 6 * v * v + 4) / 6,
    wd = (u * u * u) / 6;
  for (let k = 0, o = 0; k < ARMS_EXTRA_SIZE; k++, o += PHASES)
    out[k] = share[0]! * (wa * points[o + a]! + wb * points[o + i]! + wc * points[o + c]! + wd * points[o + d]!);
}
