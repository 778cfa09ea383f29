import { legThickness } from '../body/limbs';
import { SIDES, type Side } from '../body/roles';
import type { Beat, StepBeats } from '../gait/beats';
import type { SidedGait } from '../gait/sides';
import { lerp, wrapPhase } from '../math/scalar';
import { swingStyle, type Foothold } from './foothold';
import { placeOf, settlePrint, type Print } from './print';
import type { Program } from './program';

/** First steps, and last ones counted from the end, as parts of a full step: a body at rest reaches less far, and a run stops faster than it starts. */
const WALK_RAMP = { up: [0.72], down: [0.72] };
const RUN_RAMP = { up: [0.42, 0.82], down: [0.4, 0.85] };
/** A body that gets going gains no more than this (m/s²) from step to step, and loses no more than that. */
const MOST_GAIN = 4;
const MOST_LOSS = 5;
/** Part of its flights that a run of no speed at all still has: small steps hardly leave the ground. */
const LEAST_FLIGHT = 0.8;
/** Part of its flight that the very first take-off has. */
const FIRST_FLIGHT_SHARE = 0.45;
/** Pitch of the last landing and of the first lift-off, as parts of the gait's. */
const LAST_LANDING_SHARE = 0.3;
const LEAST_LEAVING_SHARE = 0.4;
const LEAST_LANDING_SHARE = 0.3;
/** Times (s) and phases closer than this are the same. */
const SAME_TIME_S = 1e-6;
const SAME_PHASE = 1e-6;

/** One contact of the walk, before its leaving is known. */
export interface WalkContact {
  readonly beat: Beat;
  /** Step it belongs to, from 1; 0 for a foot that stands at first. */
  readonly step: number;
  readonly landing: number;
  /** Time on the ground as the pattern has it, s; shorter steps of a run stand longer. */
  readonly stance: number;
  /** Length of its step as a part of a full one. */
  readonly share: number;
  /** When the body passes over it, s. */
  readonly pass: number;
  readonly print: Print;
}

/** Everything the parts of the planning share. */
export interface Walk {
  readonly program: Program;
  readonly sided: SidedGait;
  readonly count: number;
  readonly steps: readonly StepBeats[];
  /** Index of the pattern's step that comes first. */
  readonly first: number;
  readonly standing: number;
  readonly flies: boolean;
}

/** Phase of a beat of step k (from 1, also 0), counted on from the stride in which the walk begins. */
export function phaseOf({ steps, first }: Walk, k: number, beat?: Beat): number {
  const index = first + k - 1;
  const n = steps.length;
  const stride = Math.floor(index / n);
  const own = steps[index - stride * n]!;
  const lead = own[0]!.start;
  let start = beat?.start ?? lead;
  if (start < lead - SAME_PHASE) start += 1;
  else if (start > lead + 1 - 2 * SAME_PHASE) start -= 1;
  // The first left landing is a whole number of strides, and the walk begins in the stride before it at the earliest.
  return start + stride - (steps[first]![0]!.start > 0 ? 1 : 0);
}

/** Time (s) in which a walk comes to its full speed. */
export function gainTime({ flies, steps, sided }: Walk): number {
  const { strideTime: T, strideLength: S } = sided.gait.timing;
  const stepTime = T / steps.length;
  return flies ? Math.max((RUN_RAMP.up.length + 1) * stepTime, S / T / MOST_GAIN) : (WALK_RAMP.up.length + 1) * stepTime;
}

/** Landings of step k (from 1, also 0), its leading one first. */
export const beatsIn = ({ steps, first }: Walk, k: number): StepBeats => {
  const n = steps.length;
  return steps[(((first + k - 1) % n) + n) % n]!;
};

/** Feet that stand keep so many of their breadths, and of their calves' thicknesses, between their middles, at least. */
const STANDING_BREADTHS = 1.35;
const STANDING_CALVES = 2.15;

/** How far (m) a standing foot goes outward of where its gait has it, so that the feet do not stand in each other. */
function standingShift({ program, sided }: Walk, side: Side): { readonly aside: number; readonly turn: number } {
  const room = Math.max(STANDING_BREADTHS * program.body.sole.breadth, STANDING_CALVES * legThickness(program.body).knee);
  const narrow = Math.max(0, room - sided.gait.feet.stepWidth);
  return { aside: (side === 0 ? 0.5 : -0.5) * narrow, turn: 0 };
}

/** Both feet at first, then every contact of every step, by landing. */
export function walkContacts(walk: Walk, start: number): WalkContact[] {
  const { program, sided, count, steps } = walk;
  const { strideTime: T, strideLength: S } = sided.gait.timing;
  const closing = steps.length > 1;
  const moving = closing ? count - 1 : count;
  const ramp = walk.flies ? RUN_RAMP : WALK_RAMP;
  const stepTime = T / steps.length;
  const limit = (n: number, most: number) => (walk.flies ? Math.min(1, (n * stepTime * most) / Math.max(1e-6, S / T)) : 1);
  const share = (k: number) =>
    k > moving ? 0 : Math.min(ramp.up[k - 1] ?? 1, ramp.down[moving - k] ?? 1, limit(k, MOST_GAIN), limit(moving - k + 1, MOST_LOSS));
  /** Time on the ground of a beat whose step is so short: flights shrink with it. */
  const stanceOf = (beat: Beat, part: number) => {
    const others = steps.flat().map((b) => wrapPhase(b.start - beat.start));
    const next = Math.min(1, ...others.filter((d) => d > SAME_PHASE));
    // A hop within a step keeps its time.
    const air = steps.flat().some((b) => b.hopped) ? 0 : next - beat.duration;
    return (beat.duration + (air > 0 ? (1 - LEAST_FLIGHT) * (1 - part) * air : 0)) * T;
  };
  const reach = (k: number, beat: Beat) => phaseOf(walk, k, beat) * S + beat.aheadShare * beat.duration * S;
  const contacts: WalkContact[] = SIDES.map((side) => ({
    beat: steps.flat().find((b) => b.side === side)!,
    step: 0,
    landing: -1,
    stance: 0,
    share: 0,
    pass: -1,
    print: settlePrint(program, sided, side, 0, -Infinity, standingShift(walk, side)),
  }));
  const settled = [0, 0];
  let s = 0;
  for (let k = 1; k <= count; k++) {
    const own = beatsIn(walk, k);
    const lead = own[0]!;
    s += share(k) * (reach(k, lead) - reach(k - 1, beatsIn(walk, k - 1)[0]!));
    const edit = program.edits.find((e) => e.step === k);
    let landed = s;
    for (const beat of own) {
      // A foot that is to stand does not hop any more.
      if (beat.hopped && closing && k >= count - 1) continue;
      const landing = start + (phaseOf(walk, k, beat) - phaseOf(walk, 1)) * T;
      const place = s + share(k) * (reach(k, beat) - reach(k, lead)) + (edit?.along ?? 0);
      const aside = share(k) > 0 && (k < count || !closing) ? 0 : standingShift(walk, beat.side).aside;
      const print = settlePrint(program, sided, beat.side, place, settled[beat.side]!, { aside: aside + (edit?.aside ?? 0), turn: edit?.turn ?? 0 });
      settled[beat.side] = print.s;
      const stance = stanceOf(beat, share(k));
      contacts.push({ beat, step: k, landing, stance, share: share(k), pass: landing + beat.aheadShare * stance, print });
      if (beat === lead) landed = print.s;
    }
    // What ground in pieces takes or gives stays with the steps that follow; an edit moves its own print alone.
    s = landed - (edit?.along ?? 0);
  }
  return contacts.sort((a, b) => a.landing - b.landing);
}

export interface PlacedHold {
  readonly hold: Foothold;
  readonly print: Print;
}

/** The contacts as footholds: when each is left, and how the first and the last are rolled over. */
export function walkFootholds(walk: Walk, contacts: readonly WalkContact[], swings: readonly number[], duration: number): PlacedHold[] {
  const { sided, count } = walk;
  const { strideLength: S } = sided.gait.timing;
  const styles = SIDES.map((side) => swingStyle(sided.sides[side], S));
  const firstLanding = contacts.find((c) => c.step > 0)!.landing;
  const leaving = contacts.map(() => duration + 1);
  // A foot rolls over as far as the step that follows it is long.
  const onward = contacts.map(() => 0);
  const next: (WalkContact | undefined)[] = [undefined, undefined];
  for (let i = contacts.length - 1; i >= 0; i--) {
    const { beat, step, landing, stance } = contacts[i]!;
    const after = next[beat.side];
    if (after) onward[i] = after.share;
    if (after) leaving[i] = step === 0 ? after.landing - swings[beat.side]! : landing + stance;
    next[beat.side] = contacts[i];
  }
  // The very first flight is short: who leaves last at first leaves later.
  const standing = contacts.map((c, i) => (c.step === 0 ? leaving[i]! : -Infinity));
  const lastOff = Math.max(...standing);
  if (lastOff < firstLanding)
    standing.forEach((t, i) => {
      if (t > lastOff - SAME_TIME_S) leaving[i] = firstLanding - FIRST_FLIGHT_SHARE * (firstLanding - lastOff);
    });
  return contacts.map(({ beat, step, landing, share, print }, i): PlacedHold => {
    const { roll, side } = beat;
    const isFirst = step === 0,
      isLast = leaving[i]! > duration;
    const hold: Foothold = {
      side,
      step,
      ...placeOf(print),
      landing,
      leaving: leaving[i]!,
      landingPitch: isFirst ? 0 : step === count ? roll.landingPitch * LAST_LANDING_SHARE : roll.landingPitch * lerp(LEAST_LANDING_SHARE, 1, share),
      leavingPitch: isLast ? 0 : roll.leavingPitch * lerp(LEAST_LEAVING_SHARE, 1, onward[i]!),
      standingPitch: isFirst || isLast ? 0 : roll.standingPitch,
      flatAfter: roll.flatAfter,
      riseFor: roll.riseFor,
      toeBend: sided.sides[side].feet.toeBend,
      swing: styles[side]!,
    };
    return { hold, print };
  });
}
