import { loopCycles, sidedGait } from '../gait/sides';
import { composePlacement, placeRoot } from '../math/placement';
import { readTrack } from '../schedule/along';
import { levelGround } from '../ground/ground';
import { plan } from '../schedule/plan';
import { readPendulum } from '../schedule/pendulum';
import { cycleProgram, walkProgram, type Program } from '../schedule/program';
import { createAim, type Aimer, type ArmsSpan } from '../solve/aim';
import { ARMS_FREE, clearArms, clearSpan, type ArmsClear } from '../solve/clear-arms';
import { createReach } from '../solve/reach';
import { createTargets, placeTargets } from '../solve/targets';
import type { Body } from '../body/body';
import type { Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { footholdsBetween } from './footholds';
import type { Motion } from './motion';
import { createRounds } from './rounds';
import { kept, missing } from './survey';

/** Times closer than this are the same, s. */
const SAME_TIME_S = 1e-9;

/** Strides at both ends of a walk in which arms are looked at for themselves, looks a stride, and the time (s) a walk stands at its end. */
const SPAN_STRIDES = 2.5;
const FLYING_STRIDES = 2;
const SPAN_LOOKS = 14;
const STANDING_S = 1.2;

/** A program as a motion: planned at once, prepared step by step as it is asked for. */
function solved(name: string, program: Program): Motion {
  const { body, ground } = program;
  const sided = sidedGait(program.gait);
  const { gait, sides } = sided;
  const schedule = plan(program);
  const { duration, repeat, strideTime } = schedule;
  // A walk's steady part is its gait's own cycle.
  const round = repeat ? null : createAim({ body, ground: levelGround, sided, schedule: plan(cycleProgram(program.gait, body, gait.direction.travel)) });
  const aimer = createAim({ body, ground, sided, schedule, steady: round });
  const reacher = createReach(body);
  const targets = createTargets();
  const rounds = createRounds(duration, repeat);
  const travel = new Float64Array(8);
  const clock = new Float64Array(2);

  const clearance = [sides[0].arms.clearance, sides[1].arms.clearance] as const;
  const trial = (of: Aimer) => (phase: number, out: Float64Array) => {
    clock[0] = phase;
    of.aim(clock, 0, targets);
    reacher.reach(targets, out, 0);
  };
  let armsClear: ArmsClear | null = null;
  /** Arms of a walk go as they do in its gait's own cycle, by as much as the gait has the say; its first and last strides are looked at besides. */
  function prepare(): ArmsClear {
    if (gait.carry === 'cart') return ARMS_FREE;
    const cycling = round ?? aimer;
    const solve = trial(cycling);
    const clear = clearArms(body, clearance, cycling.arms.trial, (phase, out) => solve(phase * strideTime, out));
    aimer.arms.stride = clear.stride;
    if (!repeat) {
      const span = (from: number, to: number): ArmsSpan => ({ from, to, spline: undefined });
      // Runs take longer to come to their speed.
      const strides = SPAN_STRIDES + (schedule.flight.count > 0 ? FLYING_STRIDES : 0);
      const half = (strides + 1) * strideTime;
      const late = (strides + 0.5) * strideTime + STANDING_S;
      aimer.arms.spans = half + late >= duration - strideTime ? [span(0, duration)] : [span(0, half), span(duration - late, duration)];
    }
    return clear;
  }

  function prepareSpan(span: ArmsSpan): void {
    // While it is being looked for it is not there.
    span.spline = null;
    const { from, to } = span;
    span.spline = clearSpan(body, clearance, aimer.arms.trial, trial(aimer), from, to, strideTime / SPAN_LOOKS);
  }

  /** Targets of the round's own frame at t. */
  function aim(t: number): void {
    armsClear ??= prepare();
    rounds.set(t);
    for (const span of aimer.arms.spans) if (span.spline === undefined && rounds.local[0]! >= span.from && rounds.local[0]! <= span.to) prepareSpan(span);
    aimer.aim(rounds.local, rounds.turns, targets);
  }

  function pose(t: number, out: Float64Array, at: number): void {
    aim(t);
    reacher.reach(targets, out, at);
    if (rounds.turns !== 0) placeRoot(out, at, at + 6, rounds.moved, 0);
  }

  const all = [...schedule.footholds[0], ...schedule.footholds[1]]
    .filter((h) => !repeat || (h.landing > -SAME_TIME_S && h.landing < duration - SAME_TIME_S))
    .sort((a, b) => a.landing - b.landing);
  return {
    name,
    body,
    ground,
    duration,
    repeat,
    strideTime,
    rounds: repeat ? loopCycles(gait) : 1,
    pace: {
      speed: gait.timing.speed,
      strideLength: gait.timing.strideLength,
      strideTime,
      dutyFactor: gait.timing.dutyFactor,
      direction: gait.direction.travel,
    },
    contacts: all.map((h) => ({ side: h.side, from: h.landing, to: h.leaving })),
    footholds: (from, to) => footholdsBetween(all, duration, repeat, from, to),
    phaseAt(t) {
      rounds.set(t);
      return schedule.phaseStart + rounds.local[0]! / strideTime + (rounds.turns * duration) / strideTime;
    },
    travelled(t) {
      rounds.set(t);
      clock[0] = 0;
      clock[1] = rounds.local[0]!;
      readPendulum(schedule.travel, clock, 0, travel, 0);
      readPendulum(schedule.travel, clock, 1, travel, 4);
      const round = repeat ? Math.hypot(repeat[0]!, repeat[2]!) : 0;
      return rounds.turns * round + Math.hypot(travel[4]! - travel[0]!, travel[5]! - travel[1]!);
    },
    place(t, out) {
      rounds.set(t);
      readPendulum(schedule.travel, rounds.local, 0, travel, 0);
      readTrack(schedule.heading, rounds.local, 0, travel, 4);
      readTrack(schedule.level, rounds.local, 0, travel, 5);
      out[0] = travel[0]!;
      out[1] = travel[5]!;
      out[2] = travel[1]!;
      out[3] = travel[4]!;
      if (rounds.turns !== 0) composePlacement(out, 0, rounds.moved, 0, out, 0);
    },
    pose,
    targets(t, out) {
      aim(t);
      out.set(targets);
      if (rounds.turns !== 0) placeTargets(out, rounds.moved, 0);
    },
    ...kept(function* () {
      const most = yield* missing({ body, duration, pose }, reacher.short);
      const { out, missing: armsClose } = (armsClear ??= prepare());
      return { ...most, armsOut: out, armsClose };
    }),
  };
}

/** A gait as an endless motion along a straight line. */
export function cycle(gait: GaitSpec, body: Body): Motion {
  return solved(gait.name, cycleProgram(gait, body, sidedGait(gait).gait.direction.travel));
}

/** A gait walked from standing to standing in `count` steps; `more` gives it a course, a ground, edits. */
export function walk(name: string, gait: GaitSpec, body: Body, count: number, first: Side, more?: Parameters<typeof walkProgram>[4]): Motion {
  return solved(name, walkProgram(gait, body, count, first, more));
}
