import { SIDES, type Side } from '../body/roles';
import { beatsOf } from '../gait/beats';
import { sidedGait } from '../gait/sides';
import { gaitStyle, standingStyle } from '../gait/style';
import { createPlacement } from '../math/placement';
import { GRAVITY } from '../math/scalar';
import { constantTrack, lineTrack } from './along';
import { createFlightTrack, mergeIntervals } from './flight';
import { swingStyle, type Foothold } from './foothold';
import { constantMotion, pendulumPeriodic } from './pendulum';
import { placeOf, placePrint } from './print';
import type { Program } from './program';
import type { Schedule } from './schedule';
import { supportPath } from './support';

/** Strides around a round whose contacts reach into it or shape its flights. */
const AROUND = [-3, -2, -1, 0, 1, 2];

interface Placed {
  readonly hold: Foothold;
  /** Place against the course, m. */
  readonly x: number;
  readonly z: number;
}

/** One stride of a gait along a straight course, to be repeated: from t = 0, where the root is at the origin, at constant speed. */
export function planCycle(program: Program): Schedule {
  const { body, course } = program;
  const sided = sidedGait(program.gait);
  const { gait, sides } = sided;
  const { strideTime: T, strideLength: S } = gait.timing;
  const swings = SIDES.map((side) => swingStyle(sides[side], S));
  const beats = beatsOf(sided);
  const placed = AROUND.flatMap((stride) =>
    beats.map((beat): Placed => {
      const landing = (beat.start + stride) * T;
      const print = placePrint(program, sided, beat.side, (landing / T) * S + beat.aheadShare * beat.duration * S);
      const hold: Foothold = {
        side: beat.side,
        step: 0,
        ...placeOf(print),
        landing,
        leaving: landing + beat.duration * T,
        ...beat.roll,
        toeBend: sides[beat.side].feet.toeBend,
        rests: false,
        swing: swings[beat.side]!,
      };
      return { hold, x: print.carryX, z: print.carryZ };
    }),
  );
  // In flight nothing pushes.
  const omega = Math.sqrt(GRAVITY / body.hipHeight);
  const support = mergeIntervals(placed.map(({ hold }) => ({ from: hold.landing, to: hold.leaving })));
  const step = [0, 0, 0, 0];
  course.at(S, step, 0);
  return {
    duration: T,
    repeat: createPlacement(step[0], 0, step[1], 0),
    strideTime: T,
    strides: lineTrack(0, T),
    footholds: [reaching(placed, 0, T), reaching(placed, 1, T)],
    travel: constantMotion(step[0]! / T, step[1]! / T, T),
    sway: pendulumPeriodic(supportPath(placed, 0, T, omega, 0)),
    speed: null,
    heading: constantTrack(0),
    level: constantTrack(0),
    support,
    flight: createFlightTrack(support, GRAVITY * gait.timing.gravity, gait.timing.wholeBody),
    styles: [gaitStyle(sided), standingStyle(sided)],
    shares: [constantTrack(1)],
    fullSpeed: constantTrack(0),
    pace: constantTrack(0),
    efforts: [],
    settle: 0,
    climb: constantTrack(0),
    bank: constantTrack(0),
    cut: constantTrack(0),
    amount: program.amount,
    travelAngle: constantTrack(gait.direction.travel),
    hipsAngle: constantTrack(gait.direction.hips),
  };
}

/** A side's footholds from the last one landed by the start of a round to the first one landed after it. */
function reaching(placed: readonly Placed[], side: Side, duration: number): Foothold[] {
  const own = placed.map((p) => p.hold).filter((h) => h.side === side);
  const first = own.filter((h) => h.landing <= 0).length - 1;
  return own.slice(first, own.filter((h) => h.landing <= duration).length + 1);
}
