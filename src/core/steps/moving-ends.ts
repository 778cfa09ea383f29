import { COURSE_NUMBERS, type Course } from '../course/course';
import type { GaitSpec } from '../gait/spec';
import { wrapPhase } from '../math/scalar';
import type { Foothold, Motion } from '../motion/motion';
import { partOfTime, timed } from '../motion/timed';
import type { PlanSpec, TrackSpec } from './plan';

/** Strides walked before a walk that begins in stride, and after one that ends so: by then the figure goes as its cycle does. */
const RUN_STRIDES = 4;
/** Over so many strides a run-in's gait goes over into the walk's own. */
const OVER_STRIDES = 1;
/** A walk that ends as another gait goes over into it so many strides before: by its end it goes as that does. */
const SETTLED_STRIDES = 2.5;
/** Looks a second at the stride's phase, and how close (s) a moment of it is found. */
const LOOKS_PER_S = 60;
const CLOSE_S = 1e-9;
/** What is asked for just behind the beginning has its say in the run-in: laid out anew so often until times are met this closely, s. */
const ROUNDS = 12;
const MET_S = 1e-5;

/** A walk with what comes before and after it: its plan, its course, and the gait it sets out in. */
export interface LongWalk {
  readonly plan: PlanSpec;
  readonly course: Course;
  readonly opening: GaitSpec;
}

interface Run {
  /** Length, m, and steps of it that are left out at either end. */
  readonly before: number;
  readonly after: number;
  readonly stepsBefore: number;
  readonly stepsAfter: number;
  /** When the walk proper begins, s: tracks over time are told from there. */
  readonly begins: number;
}

/**
 * A plan that begins or ends in full stride, at a phase of a gait's own cycle, which says what foot lands first: walked with a
 * run-in and a run-out straight on, of which the walk proper is cut out. `solve` walks a plan from standing to standing. Throws RangeError where a place in time
 * is asked for, since that stands at first.
 */
export function movingEnds(plan: PlanSpec, course: Course, gaitOf: (id: string) => GaitSpec, solve: (walk: LongWalk) => Motion): Motion {
  const { opens, closes } = plan;
  if (plan.place) throw new RangeError('plan: a walk that is told by its place begins and ends standing');
  const own = gaitOf(plan.gait);
  const opening = opens?.gait ? gaitOf(opens.gait) : own;
  const last = gaitOf(plan.gaits.at(-1)?.gait ?? plan.gait);
  const closing = closes?.gait ? gaitOf(closes.gait) : last;
  const walked = (run: Run, of = plan) => solve({ plan: longPlan(of, course, run, { opening, own, closing }), course: extended(course, run), opening });
  const stride = (g: GaitSpec) => Math.abs(g.timing.strideLength);
  let run: Run = {
    before: opens ? RUN_STRIDES * stride(opening) : 0,
    after: closes ? RUN_STRIDES * stride(closing) : 0,
    stepsBefore: opens ? 2 * RUN_STRIDES : 0,
    stepsAfter: closes ? 2 * RUN_STRIDES : 0,
    begins: 0,
  };
  // Marks at a time say nothing before it is known when the walk proper begins.
  let motion = walked(run, opens ? timeless(plan) : plan);
  let from = 0;
  if (opens) {
    // Once to see where the phase comes, then with a run-in that has it come where the course begins, until its time is met.
    for (let round = 0; round < ROUNDS; round++) {
      from = momentOf(motion, opens.phase, timeAt(motion, run.before));
      if (Math.abs(from - run.begins) < MET_S) break;
      run = { ...run, before: motion.travelled(from), stepsBefore: stepsBy(motion, from), begins: from };
      motion = walked(run);
    }
    from = momentOf(motion, opens.phase, timeAt(motion, run.before));
  }
  const to = closes ? momentOf(motion, closes.phase, timeAt(motion, endOf(motion, run, plan.steps, course))) : motion.duration;
  if (to <= from) throw new RangeError('plan: the walk is too short to begin and end in stride');
  return renumbered(timed(motion, partOfTime(from, to)), run.stepsBefore, motion.travelled(from));
}

/** The plan whose marks are places alone. */
const timeless = (plan: PlanSpec): PlanSpec => ({ ...plan, edits: plan.edits.map((e) => ({ ...e, held: e.held && { ...e.held, time: null } })) });

/** Where (m of the way) the walk proper ends: so many steps on, or at the end of its course. */
function endOf(motion: Motion, run: Run, steps: number | null, course: Course): number {
  if (steps === null) return run.before + course.length;
  const hold = motion.footholds(0, motion.duration).find((h) => h.step === run.stepsBefore + steps);
  return hold ? motion.travelled(hold.landing) : run.before + course.length;
}

/** When so much has been walked, s. */
function timeAt(motion: Motion, way: number): number {
  let [lo, hi] = [0, motion.duration];
  while (hi - lo > CLOSE_S) {
    const mid = (lo + hi) / 2;
    if (motion.travelled(mid) < way) lo = mid;
    else hi = mid;
  }
  return lo;
}

/** The moment (s) nearest to a time at which the stride has a phase. */
function momentOf(motion: Motion, phase: number, near: number): number {
  const off = (t: number) => wrapPhase(motion.phaseAt(t) - phase + 0.5) - 0.5;
  let best = NaN;
  const reach = 1.2 * motion.strideTime;
  for (let t = Math.max(0, near - reach); t < Math.min(motion.duration, near + reach); t += 1 / LOOKS_PER_S) {
    const [a, b] = [off(t), off(t + 1 / LOOKS_PER_S)];
    if (!(a <= 0 && b > 0 && b - a < 0.5)) continue;
    let [lo, hi] = [t, t + 1 / LOOKS_PER_S];
    while (hi - lo > CLOSE_S) {
      const mid = (lo + hi) / 2;
      if (off(mid) <= 0) lo = mid;
      else hi = mid;
    }
    if (Number.isNaN(best) || Math.abs(lo - near) < Math.abs(best - near)) best = lo;
  }
  if (Number.isNaN(best)) throw new RangeError('plan: the walk does not come into stride there; it rests or is too short');
  return best;
}

/** Steps that have landed by a time. */
const stepsBy = (motion: Motion, t: number): number => motion.footholds(0, t).reduce((most, h) => (h.landing <= t ? Math.max(most, h.step) : most), 0);

/** The course with a straight way before it and after it. */
function extended(course: Course, { before, after }: Run): Course {
  const zero = new Array<number>(COURSE_NUMBERS).fill(0);
  course.at(0, zero, 0);
  return {
    length: course.length + before + after,
    turns: course.turns.map((t) => ({ ...t, from: t.from + before, to: t.to + before })),
    at: (s, out, o) => course.at(s - before, out, o),
  };
}

interface Gaits {
  readonly opening: GaitSpec;
  readonly own: GaitSpec;
  readonly closing: GaitSpec;
}

/** The plan with all that it tells by distance, by time and by step moved on by its run-in. */
function longPlan(plan: PlanSpec, course: Course, run: Run, { opening, own, closing }: Gaits): PlanSpec {
  const { before, begins, stepsBefore, stepsAfter } = run;
  const later = (track: TrackSpec | null): TrackSpec | null =>
    track && { ...track, keys: track.keys.map((k) => ({ ...k, at: k.at + (track.over === 'distance' ? before : begins) })) };
  const stretch = (g: GaitSpec) => OVER_STRIDES * Math.abs(g.timing.strideLength);
  const gaits = plan.gaits.map((k) => ({ ...k, at: k.at + before }));
  if (opening !== own) gaits.unshift({ at: before, stretch: stretch(own), gait: plan.gait });
  if (plan.closes?.gait) {
    const end = before + (plan.steps === null ? course.length : (plan.steps * Math.abs(own.timing.strideLength)) / 2);
    const at = Math.max(before + 1e-3, end - SETTLED_STRIDES * stretch(closing));
    gaits.splice(0, gaits.length, ...gaits.filter((k) => k.at < at), { at, stretch: stretch(closing), gait: plan.closes.gait });
  }
  return {
    ...plan,
    steps: plan.steps === null ? null : plan.steps + stepsBefore + stepsAfter,
    gaits,
    halts: plan.halts.map((h) => ({ ...h, at: h.at + before })),
    pace: later(plan.pace),
    amount: later(plan.amount),
    channels: plan.channels.map((c) => ({ ...c, amount: later(c.amount)! })),
    edits: plan.edits.map((e) => ({
      ...e,
      step: e.step + stepsBefore,
      held: e.held && { ...e.held, time: e.held.time === null ? null : e.held.time + begins },
    })),
  };
}

/** The same with the walk proper's first step as step 1, and its way from its first picture on. */
function renumbered(motion: Motion, steps: number, way: number): Motion {
  const own = (h: Foothold): Foothold => ({ ...h, step: Math.max(0, h.step - steps) });
  return { ...motion, footholds: (from, to) => motion.footholds(from, to).map(own), travelled: (t) => motion.travelled(t) - way };
}
