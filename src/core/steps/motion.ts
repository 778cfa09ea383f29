import type { Body } from '../body/body';
import { LEFT, RIGHT } from '../body/roles';
import { buildCourse } from '../course/build';
import { COURSE_NUMBERS, type Course } from '../course/course';
import type { GaitSpec } from '../gait/spec';
import { buildGround, type BodySize } from '../ground/build';
import type { Ground } from '../ground/ground';
import { carried, type Deck } from '../motion/carried';
import type { Motion } from '../motion/motion';
import { quickWalk, walk } from '../motion/solved';
import { clockOf, partOfTime, timed } from '../motion/timed';
import { constantTrack, monotoneTrack, type TimeTrack } from '../schedule/along';
import { createFaces, type Facing } from '../schedule/facing';
import { toRadians } from '../math/scalar';
import { trackValue } from '../math/track';
import { freeWalk } from './free';
import { movingEnds, type LongWalk } from './moving-ends';
import { LONGEST, type PlanSpec, type TrackSpec } from './plan';
import { programEdit } from './program-edit';

/** What a plan names by id: gaits fitted to its body, and how much room other bodies take. */
export interface PlanCast {
  readonly gait: (id: string) => GaitSpec;
  readonly bodySize?: BodySize;
  /** Without what takes its time and is hardly seen while a walk is being changed (`quickWalk`). */
  readonly quickly?: boolean;
}

/** The course of a plan: curvature ramps over one step of its gait. */
export const planCourse = (plan: Pick<PlanSpec, 'course'>, gait: GaitSpec): Course => buildCourse(plan.course, Math.abs(gait.timing.strideLength) / 2);

/** A plan as a motion: its gaits, fitted to the body, walked over its course on its ground from standing to standing, or cut out of full stride. */
export function planMotion(plan: PlanSpec, body: Body, { gait: made, bodySize, quickly = false }: PlanCast): Motion {
  const gaitOf = onceEach(made);
  const gait = gaitOf(plan.gait);
  const ground = buildGround(plan.ground, bodySize);
  const course = plan.free ? freeWalk(plan.free, body.sole.breadth, gaitOf).course : planCourse(plan, gait);
  const moving = !plan.free && (plan.opens ?? plan.closes);
  const walked = ({ plan: p, course: c, opening }: LongWalk) => walkPlan(p, body, { gaitOf, opening, course: c, ground, quickly });
  const solved = moving ? movingEnds(plan, course, gaitOf, walked) : walked({ plan, course, opening: gait });
  const moved = plan.belt ? carried(solved, deckOf(plan.belt, course, solved.duration)) : solved;
  const { clock } = plan;
  return clock
    ? timed(
        moved,
        clockOf((t) => trackValue(clock, t, 0), moved.duration, LONGEST.time),
      )
    : moved;
}

/** What a plan is walked with: its gaits by id, the one it sets out in, its course and ground. */
interface WalkCast {
  readonly gaitOf: (id: string) => GaitSpec;
  readonly opening: GaitSpec;
  readonly course: Course;
  readonly ground: Ground;
  readonly quickly: boolean;
}

/** A plan from standing to standing, in time and place of its own. */
function walkPlan(plan: PlanSpec, body: Body, { gaitOf, opening, course, ground, quickly }: WalkCast): Motion {
  const free = plan.free && freeWalk(plan.free, body.sole.breadth, gaitOf).free;
  return (quickly ? quickWalk : walk)(plan.name, opening, body, free?.prints.length ?? plan.steps, plan.firstFoot === 'left' ? LEFT : RIGHT, {
    course,
    facing: facingOf(plan),
    ground,
    gaits: {
      over: 'distance',
      keys: [{ at: 0, stretch: 0, gait: opening }, ...plan.gaits.map((k) => ({ at: k.at, stretch: k.stretch, gait: gaitOf(k.gait) }))],
    },
    pace: plan.pace,
    place: plan.place,
    lengthShare: plan.lengthShare,
    halts: plan.halts,
    amount: amountTrack(plan.amount),
    channels: plan.channels.map((c) => ({ path: c.channel, amount: amountTrack(c.amount) })),
    edits: free ? [] : plan.edits.map((e) => programEdit(e, gaitOf)),
    free,
    ends: { lean: plan.lean, settle: plan.settle, standing: plan.standing },
  });
}

const facingOf = ({ facing }: Pick<PlanSpec, 'facing'>): Facing | null =>
  facing?.kind === 'held' ? { kind: 'held', heading: toRadians(facing.headingDeg) } : facing;

/** Where a plan's figure faces (rad) at s m of its course. */
export function planFacing(plan: Pick<PlanSpec, 'facing'>, course: Course): (s: number) => number {
  const facing = facingOf(plan);
  if (facing) return createFaces(course, facing).heading;
  const at = new Array<number>(COURSE_NUMBERS).fill(0);
  return (s) => {
    course.at(s, at, 0);
    return at[2]!;
  };
}

/** Each gait made once, so that equal ids are the same gait. */
function onceEach(make: (id: string) => GaitSpec): (id: string) => GaitSpec {
  const made = new Map<string, GaitSpec>();
  return (id) => {
    const known = made.get(id) ?? make(id);
    made.set(id, known);
    return known;
  };
}

/** The part of a plan's motion that is handed over. */
export function shotOf(motion: Motion, { from, to }: PlanSpec['shot']): Motion {
  const begin = Math.min(from ?? 0, motion.duration),
    end = Math.min(to ?? motion.duration, motion.duration);
  return begin <= 0 && end >= motion.duration ? motion : timed(motion, partOfTime(begin, Math.max(begin + 1e-3, end)));
}

/** Amounts are a matter of time alone; smooth from key to key. */
function amountTrack(track: TrackSpec | null): TimeTrack {
  if (!track) return constantTrack(1);
  if (track.keys.length === 1) return constantTrack(track.keys[0]!.value);
  return monotoneTrack(
    Float64Array.from(track.keys, (k) => k.at),
    Float64Array.from(track.keys, (k) => k.value),
  );
}

/** Looks a second at a belt's velocity. */
const LOOKS_PER_S = 60;

/** Where a belt has carried its deck, along the course's first heading. */
function deckOf(belt: TrackSpec, course: Course, duration: number): Deck {
  const at = new Array<number>(COURSE_NUMBERS).fill(0);
  course.at(0, at, 0);
  const [sin, cos] = [Math.sin(at[2]!), Math.cos(at[2]!)];
  const n = Math.ceil(duration * LOOKS_PER_S) + 1;
  const way = new Float64Array(n + 1);
  const v = (i: number) => trackValue(belt, i / LOOKS_PER_S, 0);
  for (let i = 0; i < n; i++) way[i + 1] = way[i]! + (v(i) + 4 * v(i + 0.5) + v(i + 1)) / (6 * LOOKS_PER_S);
  return (t, out) => {
    const place = Math.min(Math.max(t, 0), duration) * LOOKS_PER_S;
    const i = Math.min(n - 1, Math.floor(place));
    const u = place - i;
    const d = way[i + 1]! - way[i]!,
      a = v(i) / LOOKS_PER_S,
      b = v(i + 1) / LOOKS_PER_S;
    const s = way[i]! + u * (a + u * (3 * d - 2 * a - b + u * (a + b - 2 * d)));
    out[0] = sin * s;
    out[1] = cos * s;
  };
}
