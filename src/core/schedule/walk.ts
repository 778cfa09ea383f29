import { SIDES, type Side } from '../body/roles';
import { beatsOf, stepsOf, type Beat, type StepBeats } from '../gait/beats';
import { sidedGait, type SidedGait } from '../gait/sides';
import { gaitStyle, standingStyle } from '../gait/style';
import { GRAVITY } from '../math/scalar';
import { monotoneTrack, splineTrack } from './along';
import { createFlightTrack, mergeIntervals, type Interval } from './flight';
import { swingStyle, type Foothold } from './foothold';
import { pendulumRestToRest, type SupportPath } from './pendulum';
import { settlePrint, type Print } from './print';
import type { Program } from './program';
import type { Schedule } from './schedule';
import { supportPath } from './support';

/** First steps, and last ones counted from the end, as parts of a full step: a body at rest reaches less far. */
const WALK_RAMP = [0.72];
const RUN_RAMP = [0.42, 0.68, 0.88];
/** Time (s) of standing before the first lift-off and after the last landing, in pendulum time constants 1/ω. */
const STANDING_CONSTANTS = 3.2;
/** Part of its flight that the very first take-off has. */
const FIRST_FLIGHT_SHARE = 0.45;
/** Pitch of the last landing and of the first lift-off, as parts of the gait's. */
const LAST_LANDING_SHARE = 0.3;
const FIRST_LEAVING_SHARE = 0.75;
/** Knots closer than this (s) are one, and phases closer than that. */
const SAME_TIME_S = 1e-6;
const SAME_PHASE = 1e-6;

/** One contact of the walk, before its leaving is known. */
interface Contact {
  readonly beat: Beat;
  /** Step it belongs to, from 1; 0 for a foot that stands at first. */
  readonly step: number;
  readonly landing: number;
  /** When the body passes over it, s. */
  readonly pass: number;
  readonly print: Print;
}

/** Everything the parts of the planning share. */
interface Walk {
  readonly program: Program;
  readonly sided: SidedGait;
  readonly count: number;
  readonly steps: readonly StepBeats[];
  /** Index of the pattern's step that comes first. */
  readonly first: number;
  readonly standing: number;
  readonly flies: boolean;
}

/** Part of the stride for which a side's foot is in the air between its last contact and its next. */
function swingPart(beats: readonly Beat[], side: Side): number {
  const own = beats.filter((b) => b.side === side).map((b) => ({ ...b }));
  const start = own.find((b) => !b.hopped)!.start;
  const end = Math.max(...own.map((b) => (b.hopped && b.start < start ? b.start + 1 : b.start) + b.duration));
  return 1 - (end - start);
}

/** Phase of a beat of step k (from 1, also 0), counted on from the stride in which the walk begins. */
function phaseOf({ steps, first }: Walk, k: number, beat?: Beat): number {
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

const beatsIn = ({ steps, first }: Walk, k: number): StepBeats => {
  const n = steps.length;
  return steps[(((first + k - 1) % n) + n) % n]!;
};

/**
 * A walk of so many steps along a course: standing, walking, standing again, the last step closing the feet (a hop lands
 * both anyway). Steps come as the gait's pattern has them. How the body gets going and comes to rest is the linear inverted
 * pendulum's answer to the footholds, exactly from rest to rest. Needs two steps or more.
 */
export function planWalk(program: Program, { count, first }: { readonly count: number; readonly first: Side }): Schedule {
  if (!(Number.isInteger(count) && count >= 2)) throw new RangeError(`plan: steps must be a whole number from 2, got ${count}`);
  const { body, gait: asked } = program;
  const sided = sidedGait(asked);
  const { gait } = sided;
  const T = gait.timing.strideTime;
  const beats = beatsOf(sided);
  const steps = stepsOf(beats);
  const omega = Math.sqrt(GRAVITY / body.hipHeight);
  const walk: Walk = {
    program,
    sided,
    count,
    steps,
    first: steps.findIndex((s) => s.some((b) => b.side === first)),
    standing: STANDING_CONSTANTS / omega,
    flies: mergeIntervals([-1, 0, 1].flatMap((k) => beats.map((b) => ({ from: b.start + k, to: b.start + b.duration + k })))).length > 1,
  };
  const swings = SIDES.map((side) => swingPart(beats, side) * T);
  const start = walk.standing + swings[first]!;
  const contacts = walkContacts(walk, start);
  const last = contacts[contacts.length - 1]!;
  const duration = last.landing + (last.pass - last.landing) + walk.standing;
  const holds = footholds(walk, contacts, swings, duration);
  const support = mergeIntervals(holds.map((h) => ({ from: h.hold.landing, to: h.hold.leaving })));
  const flights = support.slice(1).map((s, i): Interval => ({ from: support[i]!.to, to: s.from }));
  const knots = passKnots(walk, contacts, start);
  const shift = withStanding(
    supportPath(
      holds.map(({ hold, print }) => ({ hold, x: print.offsetX, z: print.offsetZ })),
      0,
      duration,
      omega,
      0,
    ),
    walk.standing,
    duration,
  );
  const travel = markFlights(travelPath(walk, knots, duration, omega), flights);
  return {
    duration,
    repeat: null,
    strideTime: T,
    phaseStart: phaseOf(walk, 1) - start / T,
    footholds: [holds.filter((h) => h.hold.side === 0).map((h) => h.hold), holds.filter((h) => h.hold.side === 1).map((h) => h.hold)],
    travel: pendulumRestToRest(travel, 1, travel.times.length - 2),
    sway: pendulumRestToRest(shift, 1, shift.times.length - 2),
    heading: headingTrack(walk, knots, duration),
    level: splineTrack(
      Float64Array.of(0, ...knots.map((k) => k.time), duration),
      Float64Array.of(knots[0]!.level, ...knots.map((k) => k.level), last.print.level),
    ),
    support,
    flight: createFlightTrack(support, GRAVITY * gait.timing.gravity),
    styles: [gaitStyle(sided), standingStyle(sided)],
    fullSpeed: gait.timing.speed,
    amount: program.amount,
    travelAngle: 0,
    hipsAngle: 0,
  };
}

/** Both feet at first, then every contact of every step, by landing. */
function walkContacts(walk: Walk, start: number): Contact[] {
  const { program, sided, count, steps } = walk;
  const { strideTime: T, strideLength: S } = sided.gait.timing;
  const closing = steps.length > 1;
  const moving = closing ? count - 1 : count;
  const ramp = walk.flies ? RUN_RAMP : WALK_RAMP;
  const share = (k: number) => (k > moving ? 0 : Math.min(ramp[k - 1] ?? 1, ramp[moving - k] ?? 1));
  const reach = (k: number, beat: Beat) => phaseOf(walk, k, beat) * S + beat.aheadShare * beat.duration * S;
  const contacts: Contact[] = SIDES.map((side) => ({
    beat: steps.flat().find((b) => b.side === side)!,
    step: 0,
    landing: -1,
    pass: -1,
    print: settlePrint(program, sided, side, 0, -Infinity),
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
      const print = settlePrint(program, sided, beat.side, place, settled[beat.side]!, edit);
      settled[beat.side] = print.s;
      contacts.push({ beat, step: k, landing, pass: landing + beat.aheadShare * beat.duration * T, print });
      if (beat === lead) landed = print.s;
    }
    // What ground in pieces takes or gives stays with the steps that follow; an edit moves its own print alone.
    s = landed - (edit?.along ?? 0);
  }
  return contacts.sort((a, b) => a.landing - b.landing);
}

interface PlacedHold {
  readonly hold: Foothold;
  readonly print: Print;
}

/** The contacts as footholds: when each is left, and how the first and the last are rolled over. */
function footholds(walk: Walk, contacts: readonly Contact[], swings: readonly number[], duration: number): PlacedHold[] {
  const { sided, count } = walk;
  const { strideTime: T, strideLength: S } = sided.gait.timing;
  const styles = SIDES.map((side) => swingStyle(sided.sides[side], S));
  const firstLanding = contacts.find((c) => c.step > 0)!.landing;
  const leaving = contacts.map(() => duration + 1);
  const next: (Contact | undefined)[] = [undefined, undefined];
  for (let i = contacts.length - 1; i >= 0; i--) {
    const { beat, step, landing } = contacts[i]!;
    const after = next[beat.side];
    if (after) leaving[i] = step === 0 ? after.landing - swings[beat.side]! : landing + beat.duration * T;
    next[beat.side] = contacts[i];
  }
  // The very first flight is short: who leaves last at first leaves later.
  const standing = contacts.map((c, i) => (c.step === 0 ? leaving[i]! : -Infinity));
  const lastOff = Math.max(...standing);
  if (lastOff < firstLanding)
    standing.forEach((t, i) => {
      if (t > lastOff - SAME_TIME_S) leaving[i] = firstLanding - FIRST_FLIGHT_SHARE * (firstLanding - lastOff);
    });
  return contacts.map(({ beat, step, landing, print }, i): PlacedHold => {
    const { roll, side } = beat;
    const isFirst = step === 0,
      isLast = leaving[i]! > duration;
    const hold: Foothold = {
      side,
      x: print.x,
      y: print.y,
      z: print.z,
      heading: print.heading,
      slopeX: print.slopeX,
      slopeZ: print.slopeZ,
      landing,
      leaving: leaving[i]!,
      landingPitch: isFirst ? 0 : step === count ? roll.landingPitch * LAST_LANDING_SHARE : roll.landingPitch,
      leavingPitch: isLast ? 0 : isFirst ? roll.leavingPitch * FIRST_LEAVING_SHARE : roll.leavingPitch,
      standingPitch: isFirst || isLast ? 0 : roll.standingPitch,
      flatAfter: roll.flatAfter,
      riseFor: roll.riseFor,
      toeBend: sided.sides[side].feet.toeBend,
      swing: styles[side]!,
    };
    return { hold, print };
  });
}

/** When the body passes over which place of the course, and the ground's height there. */
interface PassKnot {
  readonly time: number;
  readonly s: number;
  readonly level: number;
}

function passKnots(walk: Walk, contacts: readonly Contact[], start: number): PassKnot[] {
  const { standing } = walk;
  const T = walk.sided.gait.timing.strideTime;
  // The foot stood on at first is passed, too, as if it had landed in its turn.
  const before = beatsIn(walk, 0)[0]!;
  const virtual = start + (phaseOf(walk, 0) - phaseOf(walk, 1)) * T + before.aheadShare * before.duration * T;
  const at = contacts.filter((c) => c.step > 0).map((c): PassKnot => ({ time: c.pass, s: c.print.s, level: c.print.level }));
  const resting = contacts.find((c) => c.step === 0)!.print;
  const knots = [{ time: virtual, s: 0, level: resting.level }, ...at].sort((a, b) => a.time - b.time);
  return knots.filter((k, i) => k.time > standing / 2 + SAME_TIME_S && (i === 0 || k.time - knots[i - 1]!.time > SAME_TIME_S));
}

/** The support point of the travel: it runs along the course from foot to foot at the times the body passes them. */
function travelPath({ program, standing }: Walk, knots: readonly PassKnot[], duration: number, omega: number): SupportPath {
  const end = knots[knots.length - 1]!.s;
  const all = [{ time: 0, s: 0 }, { time: standing * 0.5, s: 0 }, ...knots, { time: duration - standing * 0.5, s: end }, { time: duration, s: end }];
  const at = [0, 0, 0, 0];
  const x = new Float64Array(all.length),
    z = new Float64Array(all.length);
  all.forEach((k, i) => {
    program.course.at(k.s, at, 0);
    x[i] = at[0]!;
    z[i] = at[1]!;
  });
  return { times: Float64Array.from(all, (k) => k.time), x, z, omegas: new Float64Array(all.length - 1).fill(omega) };
}

/** The same path with knots where flights begin and end; in flight nothing pushes. */
function markFlights(path: SupportPath, flights: readonly Interval[]): SupportPath {
  if (flights.length === 0) return path;
  const times = [...path.times, ...flights.flatMap((f) => [f.from, f.to])]
    .sort((a, b) => a - b)
    .filter((t, i, all) => i === 0 || t - all[i - 1]! > SAME_TIME_S);
  let span = 0,
    flight = 0;
  const points = times.map((t) => {
    while (span < path.times.length - 2 && path.times[span + 1]! <= t) span++;
    const u = (t - path.times[span]!) / (path.times[span + 1]! - path.times[span]!);
    return [path.x[span]! + (path.x[span + 1]! - path.x[span]!) * u, path.z[span]! + (path.z[span + 1]! - path.z[span]!) * u, path.omegas[span]!] as const;
  });
  const omegas = times.slice(0, -1).map((t, i) => {
    const middle = (t + times[i + 1]!) / 2;
    while (flight < flights.length - 1 && flights[flight]!.to <= middle) flight++;
    return middle > flights[flight]!.from && middle < flights[flight]!.to ? 0 : points[i]![2];
  });
  return {
    times: Float64Array.from(times),
    x: Float64Array.from(points, (p) => p[0]),
    z: Float64Array.from(points, (p) => p[1]),
    omegas: Float64Array.from(omegas),
  };
}

/** Adds the knots in mid-standing that the weight shift needs, with the support between the feet there. */
function withStanding(path: SupportPath, standing: number, duration: number): SupportPath {
  const { times } = path;
  let first = 0,
    end = times.length;
  while (times[first]! <= standing * 0.5) first++;
  while (times[end - 1]! >= duration - standing * 0.5) end--;
  const n = end - first + 4;
  const padded = { times: new Float64Array(n), x: new Float64Array(n), z: new Float64Array(n), omegas: new Float64Array(n - 1).fill(path.omegas[0]!) };
  padded.times.set(times.subarray(first, end), 2);
  padded.x.set(path.x.subarray(first, end), 2);
  padded.z.set(path.z.subarray(first, end), 2);
  padded.omegas.set(path.omegas.subarray(first, Math.min(end, path.omegas.length)), 2);
  padded.times[1] = standing * 0.5;
  padded.times[n - 2] = duration - standing * 0.5;
  padded.times[n - 1] = duration;
  return padded;
}

/** The root turns with the course between the times the body passes its feet, without overshoot. */
function headingTrack({ program }: Walk, knots: readonly PassKnot[], duration: number) {
  const at = [0, 0, 0, 0];
  const headings = [{ s: 0 }, ...knots, { s: knots[knots.length - 1]!.s }].map(({ s }) => {
    program.course.at(s, at, 0);
    return at[2]!;
  });
  return monotoneTrack(Float64Array.of(0, ...knots.map((k) => k.time), duration), Float64Array.from(headings));
}
