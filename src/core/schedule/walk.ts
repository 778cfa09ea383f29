import { sidedGait } from '../gait/sides';
import { gaitStyle, standingStyle } from '../gait/style';
import { withoutChannel } from '../gait/without-channel';
import { channelShares } from './channel-shares';
import { GRAVITY } from '../math/scalar';
import { constantTrack, monotoneTrack, splineTrack, type TimeTrack } from './along';
import { createFlightTrack, mergeIntervals, type Interval } from './flight';
import { stepsUp } from './foothold';
import { layHeld } from './held';
import type { LaidWalk } from './laid';
import { pendulumRestToRest, readPendulum, type PendulumTrack } from './pendulum';
import type { Program } from './program';
import type { Effort, Schedule } from './schedule';
import { supportPath } from './support';
import { walkFootholds } from './walk-contacts';
import {
  bankAt,
  climbAt,
  cutAt,
  markFlights,
  passKnots,
  passTrack,
  restsBetween,
  strideTrack,
  travelPath,
  withRests,
  withStanding,
  type PassKnot,
} from './walk-paths';

/** Time (s) of standing before the first lift-off and after the last landing, in pendulum time constants 1/ω. */
const STANDING_CONSTANTS = 3.2;

/** So much quicker than the pendulum a flying body is over what carries it. */
const FLYING_STIFFNESS = 5;

/** A support longer than so many contacts of the gait that flies is none of it. */
const SPRINGS = 1.6;

/**
 * A walk along a course: standing, walking, standing again, the last step closing the feet (a hop lands both anyway), with
 * rests and turns on the spot between. Steps come as each one's gait has them. How the body gets going and comes to rest is
 * the linear inverted pendulum's answer to the footholds, exactly from rest to rest. Needs two steps or more.
 */
export function planWalk(program: Program): Schedule {
  const { steps } = program;
  if (steps === 'endless') throw new RangeError('plan: an endless cycle is no walk');
  if (steps.count !== null && !(Number.isInteger(steps.count) && steps.count >= 2))
    throw new RangeError(`plan: steps must be a whole number from 2, got ${steps.count}`);
  const omega = Math.sqrt(GRAVITY / program.body.hipHeight);
  const standing = (program.ends.standing * STANDING_CONSTANTS) / omega;
  const { laid, contacts } = layHeld(program, standing);
  const opening = laid.stretches[0]!;
  const { gait } = opening.steps[0]!.gait.sided;
  const last = contacts[contacts.length - 1]!;
  const duration = last.landing + (last.pass - last.landing) + standing;
  const holds = walkFootholds(contacts, duration);
  const support = mergeIntervals(holds.map((h) => ({ from: h.hold.landing, to: h.hold.leaving })));
  const flights = support.slice(1).map((s, i): Interval => ({ from: support[i]!.to, to: s.from }));
  const knots = passKnots(laid, contacts, standing);
  const feet = supportPath(
    holds.map(({ hold, print }) => ({ hold, x: print.carryX, z: print.carryZ })),
    0,
    duration,
    omega,
    0,
  );
  const rests = restsBetween(holds.map(({ hold }, i) => ({ landing: hold.landing, leaving: hold.leaving, stretch: contacts[i]!.stretch })));
  const shift = withStanding(withRests(feet, rests), standing, duration);
  // A run's body keeps over its feet while it gains and loses speed, and leans for it (effort): in a few steps it is the cycle's.
  const travel = markFlights(travelPath(program, standing, opening.s, knots, duration, omega, FLYING_STIFFNESS * omega), flights);
  const { all } = laid.gaits;
  const track = pendulumRestToRest(travel, 1, travel.times.length - 2);
  const strideTime = Math.min(...all.map((g) => g.strideTime));
  const follows = { spine: all.some((g) => g.sided.gait.follow.spine > 0), head: all.some((g) => g.sided.gait.follow.head > 0) };
  return {
    duration,
    repeat: null,
    strideTime,
    strides: strideTrack(laid, duration),
    footholds: [holds.filter((h) => h.hold.side === 0).map((h) => h.hold), holds.filter((h) => h.hold.side === 1).map((h) => h.hold)],
    travel: track,
    speed: flights.length > 0 ? smoothSpeed(track, duration, strideTime / SPEED_LOOKS) : null,
    sway: pendulumRestToRest(shift, 1, shift.times.length - 2),
    heading: headingTrack(facingOf(program), opening.s, knots, duration),
    level: splineTrack(
      Float64Array.of(0, ...knots.map((k, i) => k.time + lagOf(knots, i)), duration),
      Float64Array.of(contacts[0]!.print.level, ...knots.map((k) => k.level), last.print.level),
    ),
    support,
    flight: createFlightTrack(
      support,
      GRAVITY * gait.timing.gravity,
      Math.max(...all.map((g) => g.sided.gait.timing.wholeBody)),
      SPRINGS * Math.max(...all.map((g) => (g.flies ? g.strideTime * (1 - Math.min(...g.airborne)) : 0))),
    ),
    styles: [
      ...all.map((g) => gaitStyle(g.sided, follows)),
      ...program.channels.flatMap(({ path }) => all.map((g) => gaitStyle(sidedGait(withoutChannel(g.spec, path)), follows))),
      standingStyle(all[0]!.sided, follows),
    ],
    shares: channelShares(
      all.length === 1 ? [constantTrack(1)] : all.map((_, i) => passTrack(knots, duration, (k) => shareOf(k, knots, i))),
      program.channels,
      duration,
    ),
    fullSpeed: passTrack(knots, duration, (k) => (k.contact?.gait ?? opening.steps[0]!.gait).speed),
    pace: passTrack(knots, duration, (k, i) => paceOf(k, knots, i)),
    efforts: effortsOf(program, laid, Math.min(...holds.filter((h) => h.hold.step === 0).map((h) => h.hold.leaving))),
    settle: program.ends.settle,
    climb: passTrack(knots, duration, (_, i) => climbAt(knots, i), true),
    bank: passTrack(knots, duration, (_, i) => bankAt(program.course, knots, i, program.body.hipHeight), true),
    cut: passTrack(knots, duration, (_, i) => cutAt(program.course, knots, i, omega, FLYING_STIFFNESS * omega), true),
    amount: program.amount,
    travelAngle: program.faces ? headingTrack((s) => program.faces!.travel(s), opening.s, knots, duration) : constantTrack(0),
    hipsAngle: passTrack(knots, duration, (k) => (k.contact?.gait ?? opening.steps[0]!.gait).sided.gait.direction.hips),
  };
}

/** Where a step goes up from one level to another, the body follows later by this part of it: it is the bent leg ahead that carries it up. */
const LAG_SHARE = 0.22;

/** Time (s) by which the body's height lags behind its pass over a foot; on a slope it does not. */
function lagOf(knots: readonly PassKnot[], i: number): number {
  const own = knots[i]!.contact;
  // A thrown body has nothing to follow.
  if (!own || own.gait.flies) return 0;
  const ups = (a: PassKnot | undefined, b: PassKnot | undefined) => (a?.contact && b?.contact ? Math.max(0, stepsUp(a.contact.print, b.contact.print)) : 0);
  const up = (ups(knots[i - 1], knots[i]) + ups(knots[i], knots[i + 1])) / 2;
  const gap = Math.min((knots[i + 1]?.time ?? Infinity) - knots[i]!.time, knots[i]!.time - (knots[i - 1]?.time ?? 0));
  return LAG_SHARE * gap * up;
}

/** Looks a stride at the speed of a walk that flies. */
const SPEED_LOOKS = 8;

/** Speed of a travel, evened out over two looks to either side: what swings with it is not jolted at every landing. */
function smoothSpeed(travel: PendulumTrack, duration: number, step: number): TimeTrack {
  const n = Math.max(4, Math.ceil(duration / step));
  const clock = new Float64Array(1),
    state = new Float64Array(4);
  const times = Float64Array.from({ length: n + 1 }, (_, i) => (duration * i) / n);
  const speeds = times.map((t) => {
    clock[0] = t;
    readPendulum(travel, clock, 0, state, 0);
    return Math.hypot(state[2]!, state[3]!);
  });
  const at = (i: number) => speeds[Math.min(n, Math.max(0, i))]!;
  return splineTrack(
    times,
    speeds.map((v, i) => (i === 0 || i === n ? v : (at(i - 2) + 2 * at(i - 1) + 3 * v + 2 * at(i + 1) + at(i + 2)) / 9)),
  );
}

/** The pass after or before a knot that has a step. */
const stepNear = (k: PassKnot, knots: readonly PassKnot[], i = knots.indexOf(k)) => (k.contact ?? knots[i + 1]?.contact ?? knots[i - 1]?.contact)!.laid!;

function shareOf(k: PassKnot, knots: readonly PassKnot[], gait: number): number {
  const { mix } = k.contact ? k.contact.laid! : stepNear(k, knots);
  return (mix.from === gait ? 1 - mix.part : 0) + (mix.to === gait ? mix.part : 0) - (mix.from === mix.to && mix.from === gait ? mix.part : 0);
}

const paceOf = (k: PassKnot, knots: readonly PassKnot[], i: number): number => stepNear(k, knots, i).pace;

/** The root turns with the course between the times the body passes its feet, without overshoot. */
function headingTrack(headingAt: (s: number) => number, begin: number, knots: readonly PassKnot[], duration: number): TimeTrack {
  const values = [headingAt(begin), ...knots.map((k) => headingAt(k.s)), headingAt(knots[knots.length - 1]!.s)];
  return monotoneTrack(Float64Array.of(0, ...knots.map((k) => k.time), duration), Float64Array.from(values));
}

/** Lean into gaining and against losing speed, stretch by stretch. */
function effortsOf({ ends }: Program, { stretches }: LaidWalk, leaves: number): Effort[] {
  return stretches.map(({ steps, from, speed, gain }, i): Effort => {
    const [first, last] = [steps[0]!, steps[steps.length - 1]!];
    // A step alone gains and loses within itself.
    const begins = first === last ? from : first.landing;
    return {
      from: i === 0 ? leaves : from,
      to: last.landing,
      lean: (ends.lean * speed) / gain / GRAVITY,
      turn: (begins + last.landing) / 2,
      over: Math.min(first.strideTime, last.landing - begins),
    };
  });
}

/** Where a walk's body looks (rad) at s m of its course. */
function facingOf({ course, faces }: Program): (s: number) => number {
  if (faces) return faces.heading;
  const at = [0, 0, 0, 0];
  return (s) => {
    course.at(s, at, 0);
    return at[2]!;
  };
}
