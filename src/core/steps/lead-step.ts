import type { Body } from '../body/body';
import { LEFT, RIGHT, type Side } from '../body/roles';
import type { Course } from '../course/course';
import type { Heading } from '../course/printed';
import type { GaitSpec } from '../gait/spec';
import { beatsOf, stepsOf } from '../gait/beats';
import { sidedGait, type SidedGait } from '../gait/sides';
import { distanceTo } from '../ground/build';
import type { Ground } from '../ground/ground';
import { clamp, GRAVITY, wrapAngle } from '../math/scalar';
import { settlePrint } from '../schedule/print';
import { cycleProgram, type Program } from '../schedule/program';

/** Who is led, over what: gaits are fitted to the body and step one foot after the other. */
export interface LeadCast {
  readonly body: Body;
  readonly ground: Ground;
  readonly slow: GaitSpec;
  /** What a fast lead is followed in. */
  readonly fast: GaitSpec;
}

/** A step that is decided: its print, when it lands (s), how fast (m/s) and in which gait, and where the body is over it. */
export interface LedStep {
  readonly side: Side;
  readonly x: number;
  readonly z: number;
  readonly heading: number;
  readonly lands: number;
  readonly rests: boolean;
  readonly fast: boolean;
  readonly pace: number;
  readonly body: Heading;
}

/** A place on the ground the figure is led to, m. */
export interface LeadPlace {
  readonly x: number;
  readonly z: number;
}

/** Nearer than this (m) is there; farther than that sets out. */
const THERE_M = 0.25;
const AWAY_M = 0.4;
/** The figure goes so fast that it would be there in this time, s. */
const FOLLOWS_S = 0.9;
/** Froude number v²/(g L) from which walking goes over into running, and below which back. Walk–run transition: about 0.5 (Alexander 1989). */
const RUN_FROUDE = 0.5;
const WALK_FROUDE = 0.36;
/** The body turns by this (rad) a step at most: outward over the foot on that side, inward over the other one; in the fast gait. Common practice. */
const MOST_TURN = { outward: (60 * Math.PI) / 180, inward: (45 * Math.PI) / 180, fast: (32 * Math.PI) / 180 } as const;
/** Feet turn against each other by this (rad) at most. */
const FEET_TURN = (60 * Math.PI) / 180;
/** Gains and losses of speed, m/s². */
const GAIN = { slow: 1.4, fast: 3 } as const;
const LOSS = { slow: 2.2, fast: 4 } as const;
/** Paces against the gait's own; slower steps get shorter alone. */
const PACES = { slow: [0.6, 1.5], fast: [0.6, 1.2] } as const;
/** Longest step, legs: what is farther from foot to foot is a fault of a print. */
const LONGEST = 1.3;
/** A body that turns by more than this (rad) goes at most so fast meanwhile, parts of the slow gait's pace. */
const TURNS_RAD = 0.6;
const TURNING_PACE = 0.45;
/** Below this part of the slow gait's pace a body that is there closes its feet. */
const CLOSING_PACE = 0.6;
/** From the lead's first move to the foot's leaving: the weight goes over first, s. Common practice. */
const SET_OUT_S = 0.45;
/** Ways (rad) and parts of a step that are tried where the straight one is barred. */
const ASIDE = [0, 0.35, -0.35, 0.7, -0.7, 1.05, -1.05] as const;
const SHORTER = [1, 0.6, 0.3] as const;
/** Feet are set down so far beside each other at least, breadths of a sole. */
const BESIDE_BREADTHS = { passing: 0.8, ahead: 0.4 } as const;
const PASSING_M = 0.28;
/** Room (statures) about the body, and the highest step (legs). */
const ROOM = 0.17;
const RISE = 0.35;

/** Whether a gait can be led, as it steps one foot after the other: slowly, or fast where it leaves the ground; null where it cannot. */
export function ledAs(gait: GaitSpec): 'slow' | 'fast' | null {
  const sided = sidedGait(gait);
  const steps = stepsOf(beatsOf(sided));
  if (steps.length !== 2 || steps.some((s) => s.length !== 1)) return null;
  return sided.sides.every((s) => s.timing.dutyFactor < 0.5) ? 'fast' : 'slow';
}

/** Decides steps one by one towards where the figure is led. */
export interface LeadSteps {
  /** The step after one that landed, or null where the figure stands on. `now`, s: only who stands asks. */
  next(last: LedStep, place: LeadPlace, now: number): LedStep | null;
  /** Where both feet stand side by side. */
  standing(at: Heading, lands: number): readonly [LedStep, LedStep];
}

/** Throws RangeError where a gait does not step one foot after the other. */
export function createLeadSteps({ body, ground, slow, fast }: LeadCast): LeadSteps {
  for (const gait of [slow, fast])
    if (ledAs(gait) === null) throw new RangeError(`lead: ${gait.name} cannot be led; it does not step one foot after the other`);
  const gaits = { slow: sidedGait(slow), fast: sidedGait(fast) };
  const froude = (number: number) => Math.sqrt(number * GRAVITY * body.legLength);
  const room = ROOM * body.spec.stature;

  /** Length (m) and time (s) of a step at a pace: both take even shares of what differs from the gait's own. */
  function stepAt(pace: number, quick: boolean): { length: number; time: number } {
    const { strideLength, strideTime, speed } = gaits[quick ? 'fast' : 'slow'].gait.timing;
    const [least, most] = PACES[quick ? 'fast' : 'slow'];
    const share = Math.sqrt(clamp(pace / speed, least, most));
    const longest = Math.min((strideLength / 2) * share, LONGEST * body.legLength);
    const time = Math.min(strideTime / 2 / share, pace > 0 ? Math.max(longest / pace, (0.5 * strideTime) / 2) : Infinity);
    return { length: Math.min(pace * time, longest), time };
  }

  /** The print of a side where the body comes to a place: on footing near it. */
  function printAt(sided: SidedGait, side: Side, from: Heading, heading: number, length: number): Pick<LedStep, 'x' | 'z' | 'heading'> & { y: number } {
    const way: Course = {
      length: Infinity,
      turns: [],
      at(s, out, o) {
        out[o] = from.x + s * Math.sin(heading);
        out[o + 1] = from.z + s * Math.cos(heading);
        out[o + 2] = heading;
        out[o + 3] = 0;
      },
    };
    const program: Program = { ...cycleProgram(sided.gait, body, 0), ground, course: way };
    return settlePrint(program, sided, side, length, -Infinity);
  }

  /** Whether the body may be over a place. */
  const open = (x: number, z: number) => (ground.obstacles ?? []).every((o) => distanceTo(o, x, z) >= room);

  /** The step of a side by so much, turned as near to the wish as the ground lets it; null where nothing can be stepped on. */
  function place(last: LedStep, side: Side, wish: number, length: number, quick: boolean): Pick<LedStep, 'x' | 'z' | 'heading' | 'body'> | null {
    const sided = gaits[quick ? 'fast' : 'slow'];
    const [right, left] = quick
      ? [MOST_TURN.fast, MOST_TURN.fast]
      : side === LEFT
        ? [MOST_TURN.inward, MOST_TURN.outward]
        : [MOST_TURN.outward, MOST_TURN.inward];
    const height = ground.height(last.x, last.z);
    // From a rest either foot may go: then it is the other one that stands.
    const stands = side === last.side ? printAt(gaits.slow, side === LEFT ? RIGHT : LEFT, last.body, last.body.heading, 0) : last;
    for (const part of SHORTER)
      for (const aside of ASIDE) {
        const heading = last.body.heading + clamp(wrapAngle(wish + aside - last.body.heading), -right, left);
        const over = { x: last.body.x + part * length * Math.sin(heading), z: last.body.z + part * length * Math.cos(heading), heading };
        if (!open(over.x, over.z)) continue;
        // A foot is set down on its own side of the one that stands, else it would have to go through that leg.
        const straight = printAt(sided, side, last.body, heading, part * length);
        const [fromX, fromZ] = [straight.x - stands.x, straight.z - stands.z];
        const [sin, cos] = [Math.sin(stands.heading), Math.cos(stands.heading)];
        const beside = Math.abs(fromX * sin + fromZ * cos) < PASSING_M ? BESIDE_BREADTHS.passing : BESIDE_BREADTHS.ahead;
        const own = side === LEFT ? 1 : -1;
        const out = own * Math.max(0, beside * body.sole.breadth - own * (fromX * cos - fromZ * sin));
        const print = { ...straight, x: straight.x + out * cos, z: straight.z - out * sin };
        if (!ground.footing(print.x, print.z) || Math.abs(ground.height(print.x, print.z) - height) > RISE * body.legLength) continue;
        const turned = clamp(wrapAngle(print.heading - stands.heading), -FEET_TURN, FEET_TURN);
        return { x: print.x, z: print.z, heading: stands.heading + turned, body: { ...over, x: over.x + out * cos, z: over.z - out * sin } };
      }
    return null;
  }

  function next(last: LedStep, { x, z }: LeadPlace, now: number): LedStep | null {
    const [dx, dz] = [x - last.body.x, z - last.body.z];
    const away = Math.hypot(dx, dz);
    if (last.rests && away < AWAY_M) return null;
    const wish = away < THERE_M ? last.body.heading : Math.atan2(dx, dz);
    const turn = wrapAngle(wish - last.body.heading);
    const side = last.rests ? (turn >= 0 ? LEFT : RIGHT) : last.side === LEFT ? RIGHT : LEFT;
    const most = Math.abs(turn) > TURNS_RAD ? TURNING_PACE * gaits.slow.gait.timing.speed : topPace();
    const wanted = away < THERE_M ? 0 : Math.min(away / FOLLOWS_S, most);
    const had = last.rests ? 0 : last.pace;
    const gear = last.fast && !last.rests ? 'fast' : 'slow';
    const during = stepAt(Math.max(had, 0.5), last.fast).time;
    const pace = clamp(wanted, Math.max(0, had - LOSS[gear] * during), Math.min(topPace(), had + GAIN[gear] * during));
    const quick = pace > froude(last.fast ? WALK_FROUDE : RUN_FROUDE);
    const closes = away < THERE_M && pace < CLOSING_PACE * gaits.slow.gait.timing.speed;
    const { length, time } = stepAt(closes ? Math.max(pace, CLOSING_PACE) : pace, quick);
    const found = place(last, side, wish, closes ? Math.min(length / 2, away) : length, quick);
    // Who cannot go on closes the feet where the other one stands.
    const stays = !found ? { ...printAt(gaits.slow, side, last.body, last.body.heading, 0), body: last.body } : found;
    const lands = last.rests ? Math.max(last.lands, now) + SET_OUT_S + time : last.lands + time;
    if (!found && last.rests) return null;
    return {
      side,
      x: stays.x,
      z: stays.z,
      heading: stays.heading,
      body: stays.body,
      lands,
      rests: closes || !found,
      fast: quick && !closes,
      pace: found ? pace : 0,
    };
  }

  const topPace = () => PACES.fast[1] * gaits.fast.gait.timing.speed;

  return {
    next,
    standing(at, lands) {
      const stand = (side: Side, when: number): LedStep => {
        const { x, z, heading } = printAt(gaits.slow, side, at, at.heading, 0);
        return { side, x, z, heading, lands: when, rests: side === RIGHT, fast: false, pace: 0, body: at };
      };
      return [stand(LEFT, lands - stepAt(0, false).time), stand(RIGHT, lands)];
    },
  };
}
