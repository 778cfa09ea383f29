import { SIDES, type Side } from '../body/roles';
import { beatsOf, stepsOf, type Beat } from '../gait/beats';
import { sidedGait } from '../gait/sides';
import { gaitStyle, standingStyle } from '../gait/style';
import { GRAVITY } from '../math/scalar';
import { splineTrack } from './along';
import { createFlightTrack, mergeIntervals, type Interval } from './flight';
import { pendulumRestToRest } from './pendulum';
import type { Program } from './program';
import type { Schedule } from './schedule';
import { supportPath } from './support';
import { gainTime, phaseOf, walkContacts, walkFootholds, type Walk } from './walk-contacts';
import { headingTrack, markFlights, passKnots, travelPath, withStanding } from './walk-paths';

/** Time (s) of standing before the first lift-off and after the last landing, in pendulum time constants 1/ω. */
const STANDING_CONSTANTS = 3.2;

/** So much quicker than the pendulum a flying body is over what carries it. */
const FLYING_STIFFNESS = 5;

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
    standing: (program.ends.standing * STANDING_CONSTANTS) / omega,
    flies: mergeIntervals([-1, 0, 1].flatMap((k) => beats.map((b) => ({ from: b.start + k, to: b.start + b.duration + k })))).length > 1,
  };
  const swings = SIDES.map((side) => swingPart(beats, side) * T);
  const start = walk.standing + swings[first]!;
  const contacts = walkContacts(walk, start);
  const last = contacts[contacts.length - 1]!;
  const duration = last.landing + (last.pass - last.landing) + walk.standing;
  const holds = walkFootholds(walk, contacts, swings, duration);
  const support = mergeIntervals(holds.map((h) => ({ from: h.hold.landing, to: h.hold.leaving })));
  const flights = support.slice(1).map((s, i): Interval => ({ from: support[i]!.to, to: s.from }));
  const knots = passKnots(walk, contacts, start);
  const shift = withStanding(
    supportPath(
      holds.map(({ hold, print }) => ({ hold, x: print.carryX, z: print.carryZ })),
      0,
      duration,
      omega,
      0,
    ),
    walk.standing,
    duration,
  );
  // A run's body keeps over its feet while it gains and loses speed, and leans for it (effort): in a few steps it is the cycle's.
  const travel = markFlights(travelPath(walk, knots, duration, walk.flies ? FLYING_STIFFNESS * omega : omega), flights);
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
    flight: createFlightTrack(support, GRAVITY * gait.timing.gravity, gait.timing.wholeBody),
    styles: [gaitStyle(sided), standingStyle(sided)],
    fullSpeed: gait.timing.speed,
    effort: {
      lean: (program.ends.lean * gait.timing.speed) / gainTime(walk) / GRAVITY,
      settle: program.ends.settle,
      turn: (start + last.landing) / 2,
      over: T,
    },
    amount: program.amount,
    travelAngle: 0,
    hipsAngle: 0,
  };
}

/** Part of the stride for which a side's foot is in the air between its last contact and its next. */
function swingPart(beats: readonly Beat[], side: Side): number {
  const own = beats.filter((b) => b.side === side).map((b) => ({ ...b }));
  const start = own.find((b) => !b.hopped)!.start;
  const end = Math.max(...own.map((b) => (b.hopped && b.start < start ? b.start + 1 : b.start) + b.duration));
  return 1 - (end - start);
}
