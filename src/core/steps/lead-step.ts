import type { Body } from '../body/body';
import { LEFT, RIGHT, type Side } from '../body/roles';
import type { Course } from '../course/course';
import type { Heading } from '../course/printed';
import type { GaitSpec } from '../gait/spec';
import { beatsOf, stepsOf } from '../gait/beats';
import { sidedGait, type SidedGait } from '../gait/sides';
import { distanceTo } from '../ground/build';
import type { Ground } from '../ground/ground';
import { clamp, GRAVITY, lerp, wrapAngle } from '../math/scalar';
import { settlePrint, throughLeg } from '../schedule/print';
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
  /** How long it takes from the one before it, s. */
  readonly takes: number;
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
/** A body comes to stand over the way of so many seconds at its pace; the least way (m) its feet close over. */
const STOPS_S = 0.9;
const LEAST_CLOSING_M = 0.05;
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
const ASIDE = [0, 0.35, -0.35, 0.7, -0.7, 1.05, -1.05, 1.5, -1.5] as const;
const SHORTER = [1, 0.6, 0.3] as const;
/** Feet that turn are set down so far beside each other at least also where one is well ahead, breadths of a sole. */
const AHEAD_BREADTHS = 0.4;
/** A step takes at most so many times as long as the one before it. */
const SLOWER = 1.35;
/** Highest step, legs. */
const RISE = 0.35;
/** Room (statures) about the body. */
const ROOM = 0.17;
/** How closely (m) the way of a step is looked at for what stands there. */
const LOOK_M = 0.12;
/** Ways are tried that stay open so much (m) past the step, then those that do not. */
const PAST_M = 0.9;

/** Whether a gait can be led, as it steps one foot after the other: slowly, or fast where it leaves the ground; null where it cannot. */
export function ledAs(gait: GaitSpec): 'slow' | 'fast' | null {
  const sided = sidedGait(gait);
  const steps = stepsOf(beatsOf(sided));
  if (steps.length !== 2 || steps.some((s) => s.length !== 1)) return null;
  return sided.sides.every((s) => s.timing.dutyFactor < 0.5) ? 'fast' : 'slow';
}

/** Ways that are tried one after the other: open so much (m) past the step, so long a part of it, so far (rad) to a side. */
const ways = (pasts: readonly number[]) => pasts.flatMap((past) => SHORTER.flatMap((part) => ASIDE.map((aside) => ({ past, part, aside }))));
const WAYS = ways([0]);
const WAYS_ROUND = ways([PAST_M, 0]);

/** A step as it is wished: heading (rad), how far the goal is and how long it is to be (m), and whether in the fast gait. */
interface Wish {
  readonly heading: number;
  readonly away: number;
  readonly length: number;
  readonly quick: boolean;
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
  function printAt(sided: SidedGait, side: Side, from: Heading, heading: number, length: number): Pick<LedStep, 'x' | 'z' | 'heading'> {
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
  /** Whether it may go from one place to another. */
  function passes(from: LeadPlace, to: LeadPlace): boolean {
    const looks = ground.obstacles?.length ? Math.ceil(Math.hypot(to.x - from.x, to.z - from.z) / LOOK_M) : 0;
    for (let i = 1; i <= looks; i++) if (!open(lerp(from.x, to.x, i / looks), lerp(from.z, to.z, i / looks))) return false;
    return true;
  }

  /** The print a step comes to, on its own side of the foot that stands: else it would have to go through that leg. */
  function besidePrint(straight: Pick<LedStep, 'x' | 'z' | 'heading'>, side: Side, stands: Pick<LedStep, 'x' | 'z' | 'heading'>) {
    const out = throughLeg(straight, side, stands, body.sole.breadth, AHEAD_BREADTHS);
    const [sin, cos] = [Math.sin(stands.heading), Math.cos(stands.heading)];
    const turned = clamp(wrapAngle(straight.heading - stands.heading), -FEET_TURN, FEET_TURN);
    return { x: straight.x + out * cos, z: straight.z - out * sin, heading: stands.heading + turned, outX: out * cos, outZ: -out * sin };
  }

  /** The step of a side by so much, turned as near to the wish as the ground lets it; null where nothing can be stepped on. */
  function place(last: LedStep, side: Side, { heading: wish, away, length, quick }: Wish): Pick<LedStep, 'x' | 'z' | 'heading' | 'body'> | null {
    const sided = gaits[quick ? 'fast' : 'slow'];
    const [right, left] = quick
      ? [MOST_TURN.fast, MOST_TURN.fast]
      : side === LEFT
        ? [MOST_TURN.inward, MOST_TURN.outward]
        : [MOST_TURN.outward, MOST_TURN.inward];
    const height = ground.height(last.x, last.z);
    // From a rest either foot may go: then it is the other one that stands.
    const stands = side === last.side ? printAt(gaits.slow, side === LEFT ? RIGHT : LEFT, last.body, last.body.heading, 0) : last;
    // Who goes round something on one side keeps to it.
    const keeps = wrapAngle(last.body.heading - wish) < 0 ? -1 : 1;
    for (const { past, part, aside } of ground.obstacles?.length ? WAYS_ROUND : WAYS) {
      const heading = last.body.heading + clamp(wrapAngle(wish + keeps * aside - last.body.heading), -right, left);
      const [sin, cos] = [Math.sin(heading), Math.cos(heading)];
      const over = { x: last.body.x + part * length * sin, z: last.body.z + part * length * cos, heading };
      const far = Math.max(part * length, Math.min(part * length + past, away));
      if (!passes(last.body, { x: last.body.x + far * sin, z: last.body.z + far * cos })) continue;
      const { x, z, heading: lies, outX, outZ } = besidePrint(printAt(sided, side, last.body, heading, part * length), side, stands);
      if (!ground.footing(x, z) || Math.abs(ground.height(x, z) - height) > RISE * body.legLength) continue;
      return { x, z, heading: lies, body: { ...over, x: over.x + outX, z: over.z + outZ } };
    }
    return null;
  }

  function next(last: LedStep, { x, z }: LeadPlace, now: number): LedStep | null {
    const [dx, dz] = [x - last.body.x, z - last.body.z];
    const away = Math.hypot(dx, dz);
    if (last.rests && away < AWAY_M) return null;
    // Who has run past it stops first, and turns back only if it lies farther off than that takes.
    const behind = dx * Math.sin(last.body.heading) + dz * Math.cos(last.body.heading) < 0;
    const there = away < THERE_M || (!last.rests && behind && away < AWAY_M + STOPS_S * last.pace);
    const wish = there ? last.body.heading : Math.atan2(dx, dz);
    const turn = wrapAngle(wish - last.body.heading);
    const side = last.rests ? (turn >= 0 ? LEFT : RIGHT) : last.side === LEFT ? RIGHT : LEFT;
    const most = Math.abs(turn) > TURNS_RAD ? TURNING_PACE * gaits.slow.gait.timing.speed : topPace();
    const wanted = there ? 0 : Math.min(away / FOLLOWS_S, most);
    const had = last.rests ? 0 : last.pace;
    const gear = last.fast && !last.rests ? 'fast' : 'slow';
    const during = stepAt(Math.max(had, 0.5), last.fast).time;
    const pace = clamp(wanted, Math.max(0, had - LOSS[gear] * during), Math.min(topPace(), had + GAIN[gear] * during));
    const quick = pace > froude(last.fast ? WALK_FROUDE : RUN_FROUDE);
    const closing = CLOSING_PACE * gaits.slow.gait.timing.speed;
    const closes = there && pace < closing;
    const own = stepAt(closes ? closing : pace, quick);
    // Who comes out of a run takes a few steps to walk slowly: a leg that swings fast cannot take its time.
    const takes = last.rests ? own.time : Math.min(own.time, SLOWER * last.takes);
    const length = (own.length * takes) / own.time;
    const found = place(last, side, { heading: wish, away, length: closes ? Math.min(length / 2, Math.max(away, LEAST_CLOSING_M)) : length, quick });
    // Who cannot go on closes the feet where the other one stands.
    const stays = found ?? { ...printAt(gaits.slow, side, last.body, last.body.heading, 0), body: last.body };
    const lands = last.rests ? Math.max(last.lands, now) + SET_OUT_S + takes : last.lands + takes;
    if (!found && last.rests) return null;
    return {
      side,
      x: stays.x,
      z: stays.z,
      heading: stays.heading,
      body: stays.body,
      lands,
      takes,
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
        return { side, x, z, heading, lands: when, takes: stepAt(0, false).time, rests: side === RIGHT, fast: false, pace: 0, body: at };
      };
      return [stand(LEFT, lands - stepAt(0, false).time), stand(RIGHT, lands)];
    },
  };
}
