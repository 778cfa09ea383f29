import type { Sole } from '../body/body';
import type { Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import type { Ground } from '../ground/ground';
import { seekIndex } from '../math/seek';
import type { Foothold } from '../schedule/schedule';
import { FOOT_SIZE } from './foot-state';
import type { RolledFoot } from './rocker';
import { createStance, evaluateStance, type Demand, type Stance } from './stance';
import { createSwing, evaluateSwing, type Swing } from './swing';

/** One foot through a schedule: stances and the swings between them. */
export interface FootTrack {
  readonly side: Side;
  readonly sole: Sole;
  readonly landings: Float64Array;
  readonly leavings: Float64Array;
  readonly stances: readonly Stance[];
  /** swings[i] leads from stance i to stance i + 1. */
  readonly swings: readonly Swing[];
  readonly scratch: RolledFoot;
}

/** Step (s) of the one-sided differences that give a stance's end velocities. */
const RATE_STEP_S = 1e-5;

/** Prepares the footholds of one side that matter between `from` and `to` seconds. `period`: holds a stride of a cycle on level ground, else 0. */
export function createFootTrack(
  sole: Sole,
  gait: GaitSpec,
  ground: Ground,
  holds: readonly Foothold[],
  from: number,
  to: number,
  strideLength: number,
  demand: (t: number, out: Demand) => void,
  period = 0,
): FootTrack {
  // Keep the last foothold landed before `from`, all inside, and the first landing after `to`.
  const first = Math.max(0, holds.filter((h) => h.landing <= from).length - 1);
  const count = Math.min(holds.length, holds.filter((h) => h.landing <= to).length + 1) - first;
  const kept = holds.slice(first, first + count);
  // Contacts of a cycle repeat every stride: what was found for one holds for its like, `period` holds on.
  const stances: Stance[] = [];
  for (const [i, hold] of kept.entries()) stances.push(createStance(sole, hold, gait.feet.toeBend, demand, period > 0 ? stances[i - period] : undefined));
  const scratch: RolledFoot = { forward: 0, height: 0, bend: 0 };
  const swings: Swing[] = [];
  for (const [i, next] of stances.slice(1).entries()) {
    const before = stances[i]!;
    const length = Math.hypot(next.hold.x - before.hold.x, next.hold.z - before.hold.z);
    const share = strideLength > 0 ? Math.min(1, length / strideLength) : 1;
    const leave = boundary(sole, before, before.hold.leaving, -RATE_STEP_S, scratch);
    const land = boundary(sole, next, next.hold.landing, RATE_STEP_S, scratch);
    const ends = { from: before.hold.leaving, to: next.hold.landing, start: leave.state, startRate: leave.rate, end: land.state, endRate: land.rate };
    swings.push(createSwing(sole, kept[0]!.side, gait, ground, ends, share, period > 0 ? swings[i - period] : undefined));
  }
  return {
    side: kept[0]!.side,
    sole,
    stances,
    swings,
    scratch,
    landings: Float64Array.from(kept, (h) => h.landing),
    leavings: Float64Array.from(kept, (h) => h.leaving),
  };
}

function boundary(sole: Sole, stance: Stance, t: number, step: number, scratch: RolledFoot) {
  const state = new Float64Array(FOOT_SIZE);
  const near = new Float64Array(FOOT_SIZE);
  const far = new Float64Array(FOOT_SIZE);
  evaluateStance(sole, stance, t, state, 0, scratch);
  evaluateStance(sole, stance, t + step, near, 0, scratch);
  evaluateStance(sole, stance, t + 2 * step, far, 0, scratch);
  // Second-order one-sided difference: exact enough that the foot shows no kick.
  return { state, rate: state.map((v, k) => (-3 * v + 4 * near[k]! - far[k]!) / (2 * step)) };
}

/** Foot state at `t`, written to out[at..]; returns whether the foot stands. Allocates nothing. */
export function evaluateFoot(track: FootTrack, t: number, out: Float64Array, at: number): boolean {
  const i = seekIndex(track.landings, track.landings.length, t);
  if (t <= track.leavings[i]! || i >= track.swings.length) {
    evaluateStance(track.sole, track.stances[i]!, t, out, at, track.scratch);
    return true;
  }
  evaluateSwing(track.swings[i]!, t, out, at);
  return false;
}
