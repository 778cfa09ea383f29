import { loopCycles, sidedGait } from '../gait/sides';
import { cubicHermite } from '../math/hermite';
import { composePlacement, placeRoot } from '../math/placement';
import { readTrack } from '../schedule/along';
import { levelGround } from '../ground/ground';
import { plan } from '../schedule/plan';
import { readPendulum, type PendulumTrack } from '../schedule/pendulum';
import { cycleProgram, walkProgram, type Program, type WalkMore } from '../schedule/program';
import { stridesAt } from '../schedule/schedule';
import { ownGaits } from '../schedule/step-edits';
import type { Aimer } from '../solve/aim';
import { prepareArms } from '../solve/arms-way';
import type { ArmsClear } from '../solve/clear-arms';
import { createReach } from '../solve/reach';
import { createTargets, placeTargets } from '../solve/targets';
import { throwBody } from '../solve/whole-body';
import type { Body } from '../body/body';
import type { Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { footholdsBetween } from './footholds';
import type { Motion } from './motion';
import { createRounds } from './rounds';
import { kept, missing } from './survey';

/** Times closer than this are the same, s. */
const SAME_TIME_S = 1e-9;

/** Looks a second at the speed of a walk. */
const LOOKS_PER_S = 60;

/** Way (m) along a travel that may turn, over time: the integral of its speed. */
function wayOf(travel: PendulumTrack, duration: number): (t: number) => number {
  const n = Math.max(1, Math.ceil(duration * LOOKS_PER_S));
  const dt = duration / n;
  const state = new Float64Array(5);
  const speedAt = (t: number) => {
    state[4] = t;
    readPendulum(travel, state, 4, state, 0);
    return Math.hypot(state[2]!, state[3]!);
  };
  const way = new Float64Array(n + 1),
    speed = Float64Array.from({ length: n + 1 }, (_, i) => speedAt(i * dt));
  // Simpson's rule from look to look.
  for (let i = 0; i < n; i++) way[i + 1] = way[i]! + (dt / 6) * (speed[i]! + 4 * speedAt((i + 0.5) * dt) + speed[i + 1]!);
  return (t) => {
    const place = Math.min(Math.max(t / dt, 0), n);
    const i = Math.min(n - 1, Math.floor(place));
    return cubicHermite(way[i]!, speed[i]! * dt, way[i + 1]!, speed[i + 1]! * dt, place - i);
  };
}

/** A gait's own cycle as its walks take it. */
interface Steady {
  readonly aimer: Aimer;
  readonly armsClear: () => ArmsClear;
}
const steadies = new WeakMap<Body, WeakMap<GaitSpec, Steady>>();

/** The cycle of a gait on a body; kept with both, since neither is ever edited in place. */
function steadyOf(body: Body, gait: GaitSpec): Steady {
  const known = steadies.get(body) ?? new WeakMap<GaitSpec, Steady>();
  steadies.set(body, known);
  let made = known.get(gait);
  if (!made) {
    const sided = sidedGait(gait);
    const { hips, aimer } = throwBody({ body, ground: levelGround, sided, schedule: plan(cycleProgram(gait, body, sided.gait.direction.travel)) });
    made = { aimer, armsClear: prepareArms(body, sided, hips, null) };
    known.set(gait, made);
  }
  return made;
}

const levels = new WeakMap<Body, WeakMap<GaitSpec, readonly number[]>>();

/** All gaits of a program; one in several directions counts once. */
function gaitsOf(program: Program): GaitSpec[] {
  const { gaits, free } = program;
  const all = [...gaits.keys.map((k) => k.gait), ...ownGaits(program), ...(free?.prints.flatMap((p) => p.gait ?? []) ?? [])];
  return [...new Map(all.map((gait) => [`${gait.name} ${gait.timing.strideTime}`, gait])).values()];
}

/** Largest acceleration (m/s²) of each joint in the cycles of gaits. */
function levelOf(body: Body, gaits: readonly GaitSpec[]): number[] {
  const known = levels.get(body) ?? new WeakMap<GaitSpec, readonly number[]>();
  levels.set(body, known);
  const each = gaits.map((gait) => {
    const own = known.get(gait) ?? cycle(gait, body).survey().level;
    known.set(gait, own);
    return own;
  });
  return each[0]!.map((_, j) => Math.max(...each.map((own) => own[j]!)));
}

/**
 * A program as a motion: planned at once, prepared step by step as it is asked for. `quickly`: without what takes its time and
 * is hardly seen in passing, flights of the whole body and arms looked at for themselves at a walk's ends.
 */
function solved(name: string, program: Program, quickly = false): Motion {
  const { body, ground } = program;
  const sided = sidedGait(program.gait);
  const { gait } = sided;
  const schedule = plan(program);
  const { duration, repeat, strideTime } = schedule;
  // A walk's steady part is its gait's own cycle.
  const round = repeat ? null : steadyOf(body, program.gait);
  const { hips: hipsThrown, aimer } = throwBody({ body, ground, sided, schedule, steady: round?.aimer ?? null, quickly });
  const reacher = createReach(body);
  const targets = createTargets();
  const rounds = createRounds(duration, repeat);
  const travel = new Float64Array(8);
  const clock = new Float64Array(2);
  let way: ((t: number) => number) | null = null;

  const armsClear = prepareArms(body, sided, hipsThrown, round?.armsClear ?? null, !quickly);

  /** Targets of the round's own frame at t. */
  function aim(t: number): void {
    rounds.set(t);
    aimer.arms.prepare(rounds.local[0]!);
    aimer.aim(rounds.local, rounds.turns, targets);
  }

  function pose(t: number, out: Float64Array, at: number): void {
    aim(t);
    reacher.reach(targets, out, at);
    if (rounds.turns !== 0) placeRoot(out, at, at + 6, rounds.moved, 0);
  }

  const gaits = gaitsOf(program);
  const all = [...schedule.footholds[0], ...schedule.footholds[1]]
    .filter((h) => !repeat || (h.landing > -SAME_TIME_S && h.landing < duration - SAME_TIME_S))
    .sort((a, b) => a.landing - b.landing);
  return {
    name,
    body,
    gaits,
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
      return stridesAt(schedule, rounds.local[0]!) + rounds.turns;
    },
    travelled(t) {
      rounds.set(t);
      if (!repeat) return (way ??= wayOf(schedule.travel, duration))(rounds.local[0]!);
      clock[0] = 0;
      clock[1] = rounds.local[0]!;
      readPendulum(schedule.travel, clock, 0, travel, 0);
      readPendulum(schedule.travel, clock, 1, travel, 4);
      return rounds.turns * Math.hypot(repeat[0]!, repeat[2]!) + Math.hypot(travel[4]! - travel[0]!, travel[5]! - travel[1]!);
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
      const { out, missing: armsClose } = armsClear();
      const level = repeat ? most.jolts.map((j) => j.most) : levelOf(body, gaits);
      return { ...most, level, armsOut: out, armsClose };
    }),
  };
}

/** A gait as an endless motion along a straight line. */
export function cycle(gait: GaitSpec, body: Body): Motion {
  return solved(gait.name, cycleProgram(gait, body, sidedGait(gait).gait.direction.travel));
}

/** A gait walked from standing to standing in `count` steps; `more` gives it a course, a ground, edits. */
export function walk(name: string, gait: GaitSpec, body: Body, count: number | null, first: Side, more?: WalkMore): Motion {
  return solved(name, walkProgram(gait, body, count, first, more));
}

/** The same for a walk that is planned anew while it is looked at. */
export function quickWalk(name: string, gait: GaitSpec, body: Body, count: number | null, first: Side, more?: WalkMore): Motion {
  return solved(name, walkProgram(gait, body, count, first, more), true);
}
