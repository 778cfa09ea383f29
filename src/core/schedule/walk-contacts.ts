import { legThickness } from '../body/limbs';
import { SIDES, type Side } from '../body/roles';
import type { Beat } from '../gait/beats';
import { clamp, lerp, smoothstep } from '../math/scalar';
import { stepsUp, type Foothold } from './foothold';
import { heldPrint } from './held-print';
import type { LaidStep, LaidWalk } from './laid';
import { placeOf, settlePrint, throughLeg, type Print } from './print';
import type { HeldPlace, Program } from './program';
import type { StepEdits } from './step-edits';
import { airAfter, beatsAt, phaseOf, type StepGait } from './step-gait';

/** Part of its flights that a run of no speed at all still has: small steps hardly leave the ground. */
const LEAST_FLIGHT = 0.8;
/** Part of its flight that the very first take-off has. */
const FIRST_FLIGHT_SHARE = 0.45;
/** Pitch of the last landing and of the first lift-off, as parts of the gait's. */
const LAST_LANDING_SHARE = 0.3;
const LEAST_LEAVING_SHARE = 0.4;
const LEAST_LANDING_SHARE = 0.3;
/** Times (s) closer than this are the same. */
const SAME_TIME_S = 1e-6;
/** Pitch (rad) with which a foot lands a step down. Common practice: ball first. */
const DOWN_LANDING_RAD = -0.22;

/** Where the next foot lands so much (m) higher, the body is taken up by a foot that rolls over all the way, and by so much (rad) more. */
const CLIMBS_M = [0.02, 0.16] as const;
const MORE_LEAVING_RAD = 0.12;

/** One contact of the walk, before its leaving is known. */
export interface WalkContact {
  readonly beat: Beat;
  readonly gait: StepGait;
  /** Step it belongs to, from 1; 0 for a foot that stands at first. */
  readonly step: number;
  readonly stretch: number;
  readonly landing: number;
  /** Time on the ground as the pattern has it, s; shorter steps of a run stand longer. */
  readonly stance: number;
  readonly strideTime: number;
  /** Length of its step as a part of a full one. */
  readonly share: number;
  /** Part of it, s, for which the foot waits behind the body while both stay. */
  readonly waits: number;
  /** When the body passes over it, s. */
  readonly pass: number;
  readonly print: Print;
  /** When it is asked to land, s; null where it lands as it comes. */
  readonly mark: number | null;
  readonly laid: LaidStep | null;
}

/** Feet that stand keep so many of their breadths, and of their calves' thicknesses, between their middles, at least. */
const STANDING_BREADTHS = 1.35;
const STANDING_CALVES = 2.15;

/** How far (m) a standing foot goes outward of where its gait has it, so that the feet do not stand in each other. */
function standingAside({ body }: Program, { sided }: StepGait, side: Side): number {
  const room = Math.max(STANDING_BREADTHS * body.sole.breadth, STANDING_CALVES * legThickness(body).knee);
  return (side === 0 ? 0.5 : -0.5) * Math.max(0, room - sided.gait.feet.stepWidth);
}

/** Time (s) on the ground of a beat of so short a step: flights shrink with it, and a slower stride is stood longer, not flown. */
function stanceOf(gait: StepGait, beat: Beat, part: number, strideTime: number): number {
  const air = airAfter(gait, beat);
  const own = (beat.duration + (air > 0 ? (1 - LEAST_FLIGHT) * (1 - part) * air : 0)) * strideTime;
  return air > 0 ? own + Math.max(0, strideTime - gait.strideTime) * air : own;
}

/** Time (s) by which hand-made times lengthen a contact of the step at `nth`: their part of what its pattern stands for, and pauses near its end, in which both feet stay. */
function stoodMore(steps: readonly LaidStep[], nth: number, { duration }: Beat): { readonly stretched: number; readonly waits: number } {
  const { gait } = steps[nth]!;
  const span = duration * gait.steps.length;
  let [more, waits] = [0, 0];
  for (let j = 1; j - 1 < span && nth + j < steps.length; j++) {
    const { stretched, paused } = steps[nth + j]!;
    // A longer step of a run is stood, not flown.
    more += stretched * (stretched > 0 && gait.flies && j === 1 ? 1 : Math.min(1, span - (j - 1)));
    if (j < span) waits += paused;
  }
  return { stretched: more, waits };
}

/** Where prints are held, by their steps. */
function heldPlaces({ edits, free }: Program): Map<number, HeldPlace> {
  if (free) return new Map(free.prints.map((p, i) => [i + 1, { ...p, time: p.lands }]));
  return new Map(edits.flatMap((e) => (e.held ? [[e.step, e.held] as const] : [])));
}

/** A foot goes no farther (m) out of the way of the one that stands: the next step could not follow. */
const MOST_THROUGH_M = 0.3;
/** A foot stands no more than so many times as long as the one two steps on. */
const LESS_AT_ONCE = 2.5;

/** Both feet at first, then every contact of every step, by landing. */
export function walkContacts(program: Program, { first, stretches }: LaidWalk, edits: StepEdits): WalkContact[] {
  const opening = stretches[0]!;
  const start = opening.steps[0]!.gait;
  const contacts: WalkContact[] = SIDES.map((side) => ({
    beat: start.steps.flat().find((b) => b.side === side)!,
    gait: start,
    step: 0,
    stretch: 0,
    landing: -1,
    stance: 0,
    waits: 0,
    strideTime: start.strideTime,
    share: 0,
    pass: -1,
    print: program.free
      ? heldPrint(program, start.sided, side, { ...program.free.stands[side], time: null, at: opening.s }, opening.s)
      : settlePrint(program, start.sided, side, opening.s, -Infinity, { aside: standingAside(program, start, side), turn: 0 }),
    mark: null,
    laid: null,
  }));
  const settled = [-Infinity, -Infinity];
  const held = heldPlaces(program);
  const total = stretches.reduce((n, s) => n + s.steps.length, 0);
  stretches.forEach(({ steps }, stretch) => {
    steps.forEach((laid, nth) => {
      // Where a walk gets faster, a foot stands no longer than the next one will: the body is past it by then.
      const [next, onward] = [steps[nth + 1], steps[nth + 2]];
      const { gait, index, share, strideTime } = laid;
      const beats = beatsAt(gait, index);
      const lead = beats[0]!;
      const shift = edits.shiftOf(laid.number);
      const holds = held.get(laid.number);
      const reach = (beat: Beat) => phaseOf(gait, index, first, beat) * gait.strideLength + beat.aheadShare * beat.duration * gait.strideLength;
      for (const beat of beats) {
        // A foot that is to stand does not hop any more.
        if (beat.hopped && gait.steps.length > 1 && laid.number >= total - 1) continue;
        const landing = laid.landing + (phaseOf(gait, index, first, beat) - laid.phase) * strideTime;
        const place = laid.s + share * (reach(beat) - reach(lead)) + shift.along;
        const aside = laid.wide * standingAside(program, gait, beat.side) + shift.aside;
        const settle = (more: number) =>
          settlePrint(program, gait.sided, beat.side, place, settled[beat.side]!, { aside: aside + more, turn: shift.turn, onto: laid.onto });
        const asked = holds && beat === lead ? heldPrint(program, gait.sided, beat.side, holds, place, shift.turn) : settle(0);
        // Whoever changes from side to side would step through the leg that stands, and so would a narrow run's short last steps.
        const stands = contacts.findLast((c) => c.beat.side !== beat.side)!.print;
        const asLaid = program.faces !== null || (shift.aside === 0 && laid.onto === null && laid.wide === 0);
        const through = asLaid && !holds ? clamp(throughLeg(asked, beat.side, stands, program.body.sole.breadth), -MOST_THROUGH_M, MOST_THROUGH_M) : 0;
        const print = through === 0 ? asked : settle(through);
        settled[beat.side] = print.s;
        const own = stanceOf(gait, beat, Math.min(1, share), strideTime);
        const of = (l: LaidStep) => stanceOf(l.gait, beatsAt(l.gait, l.index)[0]!, Math.min(1, l.share), l.strideTime);
        const faster = next && (next.gait !== gait || next.strideTime < strideTime) ? of(next) : Infinity;
        // And who is faster still in the step after that is on its way there.
        const soon = next && onward && onward.strideTime < next.strideTime ? LESS_AT_ONCE * of(onward) : Infinity;
        const plain = Math.min(own, faster, soon);
        const { stretched, waits } = stoodMore(steps, nth, beat);
        const moving = plain + stretched;
        const stance = laid.paused + moving + waits;
        contacts.push({
          beat,
          gait,
          step: laid.number,
          stretch,
          landing,
          stance,
          strideTime,
          share,
          pass: passOf(gait, beat, landing, laid.paused, moving),
          waits,
          print,
          mark: holds && beat === lead ? holds.time : null,
          laid,
        });
      }
    });
  });
  return contacts.sort((a, b) => a.landing - b.landing);
}

/** When the body passes a foot: after a pause in which both stay; a run's body waits over the foot itself. */
const passOf = ({ flies }: StepGait, { aheadShare }: Beat, landing: number, paused: number, moving: number): number =>
  landing + (flies ? aheadShare * (paused + moving) : paused + aheadShare * moving);

/** Part of the time that a gait has a foot in the air for which it is so at least, whatever was made of its steps' times. */
const LEAST_AIR = 0.3;
const LEAST_HOP = 0.8;

/** Least time (s) from one contact of a foot to its next. */
function leastAir({ step, beat, landing, strideTime }: WalkContact, after: WalkContact): number {
  if (after.step !== step) return LEAST_AIR * after.gait.airborne[after.beat.side] * Math.min(strideTime, after.strideTime);
  return LEAST_HOP * (after.landing - landing - beat.duration * strideTime);
}

export interface PlacedHold {
  readonly hold: Foothold;
  readonly print: Print;
}

/** The contacts as footholds: when each is left, and how the first and the last are rolled over. */
export function walkFootholds(contacts: readonly WalkContact[], duration: number): PlacedHold[] {
  const leaving = contacts.map(() => duration + 1);
  // A foot rolls over as far as the step that follows it is long.
  const onward = contacts.map(() => 0);
  const climb = contacts.map(() => 0);
  /** Whether a foot stands on while the walk rests. */
  const rests = contacts.map(() => true);
  const next: (WalkContact | undefined)[] = [undefined, undefined];
  for (let i = contacts.length - 1; i >= 0; i--) {
    const { beat, step, stretch, landing, stance, print } = contacts[i]!;
    const after = next[beat.side];
    if (after) {
      const rise = contacts[i + 1]!.print.y - print.y;
      climb[i] = smoothstep(CLIMBS_M[0], CLIMBS_M[1], rise);
      onward[i] = lerp(Math.min(1, after.share), 1, climb[i]!);
      rests[i] = step === 0 || after.stretch !== stretch;
      leaving[i] = rests[i]
        ? Math.max(landing + 0.1 * stance, after.landing - after.gait.airborne[beat.side] * after.strideTime)
        : Math.min(landing + stance, after.landing - leastAir(contacts[i]!, after));
    }
    next[beat.side] = contacts[i];
  }
  firstFlights(contacts, leaving);
  standOn(contacts, leaving);
  let before: Print | undefined;
  return contacts.map(({ beat, gait, step, share, waits, print, mark, laid, landing }, i): PlacedHold => {
    const { roll, side } = beat;
    const isFirst = step === 0,
      isLast = leaving[i]! > duration;
    const up = isFirst || !before ? 0 : stepsUp(before, print);
    before = print;
    const styled = isFirst ? 0 : laid?.rests ? roll.landingPitch * LAST_LANDING_SHARE : roll.landingPitch * lerp(LEAST_LANDING_SHARE, 1, clamp(share, 0, 1));
    const hold: Foothold = {
      side,
      step,
      ...placeOf(print),
      landing,
      leaving: leaving[i]!,
      landingPitch: up > 0 ? lerp(styled, Math.min(styled, 0), up) : up < 0 ? lerp(styled, Math.min(styled, DOWN_LANDING_RAD), -up) : styled,
      leavingPitch: isLast ? 0 : roll.leavingPitch * lerp(LEAST_LEAVING_SHARE, 1, clamp(onward[i]!, 0, 1)) - MORE_LEAVING_RAD * climb[i]!,
      standingPitch: isFirst || isLast || rests[i] ? 0 : roll.standingPitch,
      flatAfter: roll.flatAfter,
      riseFor: roll.riseFor + waits,
      toeBend: gait.sided.sides[side].feet.toeBend,
      rests: laid?.rests ?? false,
      swing: gait.swings[side],
      ...(laid?.tooFast ? { tooFast: laid.tooFast } : {}),
      ...(mark === null ? {} : { mark }),
    };
    return { hold, print };
  });
}

/** The contact next to one, before or after it, whose side is asked for; out of range where there is none. */
function nextTo(contacts: readonly WalkContact[], j: number, step: 1 | -1, asked: (side: Side) => boolean): number {
  let i = j + step;
  while (i >= 0 && i < contacts.length && !asked(contacts[i]!.beat.side)) i += step;
  return i;
}

/** Who does not fly stands till the next foot has come down, also where that takes its time: both feet stand together as long as they do in the gait. */
function standOn(contacts: readonly WalkContact[], leaving: number[]): void {
  contacts.forEach(({ beat, gait, step, landing }, j) => {
    const i = nextTo(contacts, j, -1, (side) => side !== beat.side);
    const own = contacts[i];
    if (step === 0 || !own || gait.flies || own.gait.flies || leaving[i]! > landing) return;
    const after = contacts[nextTo(contacts, j, 1, (side) => side === own.beat.side)];
    const both = Math.max(0, own.beat.duration - 1 / own.gait.steps.length) * own.strideTime;
    leaving[i] = Math.max(landing, Math.min(landing + both, after ? after.landing - leastAir(own, after) : Infinity));
  });
}

/** The very first flight after a rest is short: who leaves last leaves later. */
function firstFlights(contacts: readonly WalkContact[], leaving: number[]): void {
  const latest: (number | undefined)[] = [undefined, undefined];
  contacts.forEach(({ beat, step, stretch, landing }, i) => {
    const before = contacts[i - 1];
    if (step > 0 && before && (before.step === 0 || before.stretch !== stretch)) {
      const standing = latest.filter((k) => k !== undefined);
      const lastOff = Math.max(...standing.map((k) => leaving[k]!));
      if (lastOff < landing) for (const k of standing) if (leaving[k]! > lastOff - SAME_TIME_S) leaving[k] = landing - FIRST_FLIGHT_SHARE * (landing - lastOff);
    }
    latest[beat.side] = i;
  });
}
