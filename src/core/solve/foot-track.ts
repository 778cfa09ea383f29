import type { LegMeasures } from '../body/legs';
import type { LegThickness } from '../body/limbs';
import type { Side } from '../body/roles';
import type { Ground } from '../ground/ground';
import type { Placement } from '../math/placement';
import { clamp, smoothstep, wrapAngle } from '../math/scalar';
import { seekIndex } from '../math/seek';
import { stepsUp, type Foothold } from '../schedule/foothold';
import { FOOT, FOOT_SIZE } from './foot-state';
import { toLegAngles, toLegLine } from './leg-angles';
import { createLegShaper, HIP_JOINT_SIZE } from './leg-shape';
import { rollFoot } from './rocker';
import { soleAxes } from './sole-frame';
import { createStance, evaluateStance, readPitch, type Demand, type Stance } from './stance';
import { createSwing } from './swing';
import { evaluateSwing, type Swing } from './swing-state';
import { FOOT_TARGET } from './targets';
import type { Twin } from './twin';
import type { Twins } from './twins';

/** One foot through a schedule: stances and the swings between them, each prepared when it is first asked for. */
export interface FootTrack {
  readonly side: Side;
  readonly holds: readonly Foothold[];
  /** Prepared stance of foothold i. */
  stance(i: number): Stance;
  /** Prepared swing from foothold i to the next . */
  swing(i: number): Swing;
  /** Writes the foot's state at clock[c] seconds, inside one round or a little past it, to out[o..] if it stands then; tells whether. */
  stands(clock: Float64Array, c: number, out: Float64Array, o: number): boolean;
  /** How much (0 … 1) the stance at a time (s) inside one round counts if it comes in and goes out over so long; 0 where none is. */
  counts(t: number, over: number): number;
  /** Writes FOOT_TARGET numbers at clock[c] seconds, inside one round, to out[o..]; the hip joint is at joint[0..2]. Allocates nothing once prepared. */
  aim(clock: Float64Array, c: number, joint: Float64Array, out: Float64Array, o: number): void;
}

/** What the tracks of both feet share. */
export interface FootGround {
  readonly ground: Ground;
  readonly duration: number;
  /** What a round adds, or null for a walk that does not repeat. */
  readonly repeat: Placement | null;
  /** Straightest knee of the style, rad. */
  readonly straightest: number;
  readonly thickness: LegThickness;
  /** Whether the walk leaves the ground anywhere. */
  readonly flies: boolean;
}

/** What goes over uneven ground turns a leg no harder than this, rad/s²: stairs ask less of who walks, and more of who runs. */
const HARDEST = { walks: 6000, flies: 20_000 } as const;
/** From one print to the next of a foot no leg goes so far (legs) up or down. */
const CLIFF_LEGS = 0.6;

/** A short step lifts by more than its part of a full one: share to this power. */
const SHORT_STEPS = 0.6;
/** A foot that turns lifts as on a step longer by this (m) a radian. */
const TURN_LIFTS_M = 0.5;
/** No less than this part of a full lift where it turns by so much (rad): a foot that turns on the spot is taken off the ground. */
const TURN_SHARE = 0.95;
const TURNS_RAD = [0.05, 0.3] as const;
/** Step (s) of the one-sided differences that give a stance's end velocities. */
const RATE_STEP_S = 1e-5;
/** Times closer than this are the same, s. */
const SAME_TIME_S = 1e-9;

/** In a walk no leg is taken farther to the side than this (rad): there is no way round a leg that stands where the hips are. */
const ASIDE_RAD = 0.8;

/** Where a foot's hip joint wants to be (for stances) and is (for swings). */
export interface HipPlace {
  readonly wished: Demand;
  /** Writes where the joint is by plan (HIP_JOINT) at clock[0] seconds, also a little outside the round, to out. */
  readonly planned: (clock: Float64Array, out: Float64Array) => void;
  /** The other leg where it stands: writes its points at clock[0] seconds; tells whether it does. */
  readonly other: (clock: Float64Array, out: Float64Array) => boolean;
}

/** The track of one side over `holds`, ascending in time. */
export function createFootTrack(
  side: Side,
  leg: LegMeasures,
  holds: readonly Foothold[],
  { ground, duration, repeat, straightest, thickness, flies }: FootGround,
  hip: HipPlace,
  twins: Twins | null = null,
): FootTrack {
  if (holds.length === 0) throw new RangeError('createFootTrack: a foot needs at least one foothold');
  const { sole } = leg;
  const landings = Float64Array.from(holds, (h) => h.landing);
  const stances: (Stance | undefined)[] = holds.map(() => undefined);
  const swings: (Swing | undefined)[] = holds.map(() => undefined);
  // What was found for one foothold of a round that repeats holds for its like, so many on.
  const period = repeat ? holds.filter((h) => h.landing > -SAME_TIME_S && h.landing < duration - SAME_TIME_S).length : Infinity;
  const state = new Float64Array(FOOT_SIZE);
  const rolled = new Float64Array(4);
  const axes = new Float64Array(6);
  const line = new Float64Array(3);
  const shape = createLegShaper(leg);

  const stance = (i: number): Stance => (stances[i] ??= createStance(sole, holds[i]!, hip.wished, i >= period ? stance(i - period) : undefined, twinOf(i)));
  const twinOf = (i: number): Twin<Stance> | null => (twins && (twins.ends || (i > 0 && i + 1 < holds.length)) ? twins.stance(holds[i]!.landing) : null);

  /** State and rates of a stance at one of its ends, as a swing has them; `sign` points into it. */
  function boundary(of: Stance, t: number, sign: 1 | -1, heading: number): [state: Float64Array, rate: Float64Array] {
    const clock = new Float64Array(1);
    const joint = new Float64Array(HIP_JOINT_SIZE);
    const scratch = new Float64Array(4);
    const [sin, cos] = [Math.sin(heading), Math.cos(heading)];
    const at = (dt: number) => {
      clock[0] = t + sign * dt;
      const found = new Float64Array(FOOT_SIZE);
      evaluateStance(sole, of, clock, 0, found, 0, scratch);
      hip.planned(clock, joint);
      for (let k = 0; k < 3; k++) joint[k] = found[k]! - joint[k]!;
      toLegAngles(leg, joint, 0, sin, cos, found, 0);
      return found;
    };
    const [state, near, far] = [at(0), at(RATE_STEP_S), at(2 * RATE_STEP_S)];
    // Second-order one-sided differences: exact enough that the foot shows no kick.
    const rate = state.map((v, k) => (sign * (-3 * v + 4 * near[k]! - far[k]!)) / (2 * RATE_STEP_S));
    return [state, rate];
  }

  function swing(i: number): Swing {
    const known = swings[i];
    if (known) return known;
    const before = stance(i),
      after = stance(i + 1);
    if (i >= period) {
      const like = swing(i - period);
      return (swings[i] = { ...like, from: before.hold.leaving });
    }
    const { swing: style } = after.hold;
    const turn = Math.abs(wrapAngle(after.hold.heading - before.hold.heading));
    const length = Math.hypot(after.hold.x - before.hold.x, after.hold.z - before.hold.z) + TURN_LIFTS_M * turn;
    const least = TURN_SHARE * smoothstep(TURNS_RAD[0], TURNS_RAD[1], turn);
    const share = style.stride > 0 ? Math.max(least, Math.min(1, length / style.stride) ** SHORT_STEPS) : 1;
    const heading = (before.hold.heading + after.hold.heading) / 2;
    const [from, to] = [before.hold.leaving, after.hold.landing];
    const [start, startRate] = boundary(before, from, -1, heading);
    const [end, endRate] = boundary(after, to, 1, heading);
    const ends = { from, to, start, startRate, end, endRate, heading, stepsUp: stepsUp(before.hold, after.hold) };
    const cliff = Math.abs(after.hold.y - before.hold.y) > CLIFF_LEGS * (leg.thigh + leg.shank);
    const place = {
      leg,
      side,
      ground,
      joint: hip.planned,
      shape,
      other: hip.other,
      thickness,
      aside: repeat ? Infinity : ASIDE_RAD,
      hardest: flies && !cliff ? HARDEST.flies : HARDEST.walks,
    };
    const twin = twins && (twins.ends || (i > 0 && i + 2 < holds.length)) ? twins.swing(before.hold.landing) : null;
    return (swings[i] = createSwing(place, style, ends, share, straightest, twin));
  }

  return {
    side,
    holds,
    stance,
    swing,
    stands(clock, c, out, o) {
      const i = seekIndex(landings, landings.length, clock[c]!);
      if (clock[c]! > holds[i]!.leaving && i + 1 < holds.length) return false;
      evaluateStance(sole, stance(i), clock, c, out, o, rolled);
      return true;
    },
    counts(t, over) {
      const { landing, leaving } = holds[seekIndex(landings, landings.length, t)]!;
      return clamp(Math.min(t - landing, leaving - t) / over, 0, 1);
    },
    aim(clock, c, joint, out, o) {
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
      const way = swing(i);
      evaluateSwing(way, clock, c, state, 0);
      toLegLine(leg, state, 0, way.sin, way.cos, line, 0);
      rolled[0] = state[FOOT.pitch]!;
      rolled[1] = state[FOOT.bend]!;
      rollFoot(sole, rolled, 0, rolled, 2);
      soleAxes(state, FOOT.heading, axes, 0);
      for (let k = 0; k < 3; k++) out[o + k] = joint[k]! + line[k]! - axes[k]! * rolled[2]! - axes[3 + k]! * rolled[3]!;
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
