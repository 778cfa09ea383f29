import type { Side } from '../body/roles';
import type { Sole } from '../body/sole';
import type { Ground } from '../ground/ground';
import type { Placement } from '../math/placement';
import { seekIndex } from '../math/seek';
import type { Foothold } from '../schedule/foothold';
import { FOOT, FOOT_SIZE } from './foot-state';
import { rollFoot } from './rocker';
import { soleAxes } from './sole-frame';
import { createStance, evaluateStance, readPitch, type Demand, type Stance } from './stance';
import { createSwing, evaluateSwing, type Swing } from './swing';
import { FOOT_TARGET } from './targets';

/** One foot through a schedule: stances and the swings between them, each prepared when it is first asked for. */
export interface FootTrack {
  readonly side: Side;
  readonly holds: readonly Foothold[];
  /** Prepared stance of foothold i. */
  stance(i: number): Stance;
  /** Prepared swing from foothold i to the next . */
  swing(i: number): Swing;
  /** Writes FOOT_TARGET numbers at clock[c] seconds, inside one round, to out[o..]. Allocates nothing once prepared. */
  aim(clock: Float64Array, c: number, out: Float64Array, o: number): void;
}

/** What the tracks of both feet share. */
export interface FootGround {
  readonly ground: Ground;
  readonly duration: number;
  /** What a round adds, or null for a walk that does not repeat. */
  readonly repeat: Placement | null;
  /** Knots of a stance's pitch. */
  readonly knots: number;
}

/** Step (s) of the one-sided differences that give a stance's end velocities. */
const RATE_STEP_S = 1e-5;
/** Times closer than this are the same, s. */
const SAME_TIME_S = 1e-9;

/** The track of one side over `holds`, ascending in time; `demand` says where its hip wants to be. */
export function createFootTrack(
  side: Side,
  sole: Sole,
  holds: readonly Foothold[],
  { ground, duration, repeat, knots }: FootGround,
  demand: Demand,
): FootTrack {
  if (holds.length === 0) throw new RangeError('createFootTrack: a foot needs at least one foothold');
  const landings = Float64Array.from(holds, (h) => h.landing);
  const stances: (Stance | undefined)[] = holds.map(() => undefined);
  const swings: (Swing | undefined)[] = holds.map(() => undefined);
  // What was found for one foothold of a round that repeats holds for its like, so many on.
  const period = repeat ? holds.filter((h) => h.landing > -SAME_TIME_S && h.landing < duration - SAME_TIME_S).length : Infinity;
  const state = new Float64Array(FOOT_SIZE);
  const rolled = new Float64Array(4);
  const axes = new Float64Array(6);

  const stance = (i: number): Stance => (stances[i] ??= createStance(sole, holds[i]!, demand, knots, i >= period ? stance(i - period) : undefined));

  function swing(i: number): Swing {
    const known = swings[i];
    if (known) return known;
    const before = stance(i),
      after = stance(i + 1);
    const leave = boundary(sole, before, before.hold.leaving, -RATE_STEP_S);
    const land = boundary(sole, after, after.hold.landing, RATE_STEP_S);
    const { swing: style } = after.hold;
    const length = Math.hypot(after.hold.x - before.hold.x, after.hold.z - before.hold.z);
    const share = style.stride > 0 ? Math.min(1, length / style.stride) : 1;
    const ends = { from: before.hold.leaving, to: after.hold.landing, start: leave.state, startRate: leave.rate, end: land.state, endRate: land.rate };
    return (swings[i] = createSwing(sole, side, style, ground, ends, share, i >= period ? swing(i - period) : undefined));
  }

  return {
    side,
    holds,
    stance,
    swing,
    aim(clock, c, out, o) {
      const i = seekIndex(landings, landings.length, clock[c]!);
      const hold = holds[i]!;
      if (clock[c]! <= hold.leaving || i + 1 === holds.length) {
        readPitch(stance(i), clock, c, out, o + FOOT_TARGET.pitch);
        out[o + FOOT_TARGET.x] = hold.x;
        out[o + FOOT_TARGET.y] = hold.y;
        out[o + FOOT_TARGET.z] = hold.z;
        out[o + FOOT_TARGET.heading] = hold.heading;
        out[o + FOOT_TARGET.slopeX] = hold.slopeX;
        out[o + FOOT_TARGET.slopeZ] = hold.slopeZ;
        out[o + FOOT_TARGET.roll] = 0;
        out[o + FOOT_TARGET.planted] = 1;
        return;
      }
      evaluateSwing(swing(i), clock, c, state, 0);
      rolled[0] = state[FOOT.pitch]!;
      rolled[1] = state[FOOT.bend]!;
      rollFoot(sole, rolled, 0, rolled, 2);
      soleAxes(state, FOOT.heading, axes, 0);
      out[o + FOOT_TARGET.x] = state[FOOT.x]! - axes[0]! * rolled[2]! - axes[3]! * rolled[3]!;
      out[o + FOOT_TARGET.y] = state[FOOT.y]! - axes[1]! * rolled[2]! - axes[4]! * rolled[3]!;
      out[o + FOOT_TARGET.z] = state[FOOT.z]! - axes[2]! * rolled[2]! - axes[5]! * rolled[3]!;
      out[o + FOOT_TARGET.heading] = state[FOOT.heading]!;
      out[o + FOOT_TARGET.slopeX] = state[FOOT.slopeX]!;
      out[o + FOOT_TARGET.slopeZ] = state[FOOT.slopeZ]!;
      out[o + FOOT_TARGET.pitch] = state[FOOT.pitch]!;
      out[o + FOOT_TARGET.bend] = state[FOOT.bend]!;
      out[o + FOOT_TARGET.roll] = state[FOOT.roll]!;
      out[o + FOOT_TARGET.planted] = 0;
    },
  };
}

/** State and rates of a stance at one of its ends; `step` (s) points into it. */
function boundary(sole: Sole, stance: Stance, t: number, step: number): { state: Float64Array; rate: Float64Array } {
  const clock = Float64Array.of(t, t + step, t + 2 * step);
  const scratch = new Float64Array(4);
  const [state, near, far] = [0, 1, 2].map((c) => {
    const found = new Float64Array(FOOT_SIZE);
    evaluateStance(sole, stance, clock, c, found, 0, scratch);
    return found;
  }) as [Float64Array, Float64Array, Float64Array];
  // Second-order one-sided difference: exact enough that the foot shows no kick.
  return { state, rate: state.map((v, k) => (-3 * v + 4 * near[k]! - far[k]!) / (2 * step)) };
}
