import type { Side } from '../body/roles';
import { courseAtDistance, type Course } from '../course/course';
import { clamp, GRAVITY, lerp } from '../math/scalar';
import { marksAlong, type Mark } from './marks';
import type { Program } from './program';
import { beatsAt, createStepGaits, firstStepOf, phaseOf, type GaitMix, type StepGait, type StepGaits } from './step-gait';
import { trackValue, type Track } from '../math/track';

/** First steps, and last ones counted from the end, as parts of a full step: a body at rest reaches less far, and a run stops faster than it starts. */
const WALK_RAMP = { up: [0.72], down: [0.72] };
const RUN_RAMP = { up: [0.42, 0.82], down: [0.4, 0.85] };
/** A body that gets going gains no more than this (m/s²) from step to step, and loses no more than that. */
const MOST_GAIN = 4;
const MOST_LOSS = 5;
/** From the short steps that pieces of footing ask for, steps grow by this part of a full one at most. */
const MOST_GROWTH = 0.4;
/** So many last steps before a mark or a halt share what is left over. */
const SHARING = 4;
/** They get longer by this factor at most where a further step can be made. */
const MOST_STRETCH = 1.04;
/** A foot turns by this (rad) a step at most, the outer one past the inner one by that; common practice, no published source. */
const MOST_TURN = { walk: Math.PI / 4, run: (35 * Math.PI) / 180 };
const PAIR_TURN = Math.PI / 3;
const INNER_SHARE = 0.75;
/** What a step that turns on the spot has of a full step's roll and lift. */
const TURNING_SHARE = 0.3;
/** Steps get shorter on slopes steeper than this: by so much for each unit of rise, downhill by a part of it. Common practice, no published source. */
const GENTLE_RISE = 0.05;
const SLOPE_SHORTENS = { walk: 1.2, run: 3.2 };
const DOWNHILL_SHARE = 0.5;
/** Range of a pace against the gait's own; below the first the figure rests. */
const REST_PACE = 0.08;
const MOST_PACE = 1.6;
/** How finely (m) a course is looked at for bends, and how hard (m/s²) a walk slows for one. */
const LOOK_STEP_M = 0.2;
const BRAKE = 1.6;
/** Shortest rest (s) between two stretches. */
const LEAST_REST_S = 0.2;
/** Looks (s) for the end of a rest that a track of pace asks for. */
const REST_LOOK_S = 0.02;
/** A rest that comes within this part of a step of where a walk ends is its end. */
const NEARLY_THERE = 0.7;
/** A step this short (m) is none. */
const NO_STEP_M = 0.02;
const MOST_STEPS = 20_000;

/** One step of a walk, laid out: its leading landing. */
export interface LaidStep {
  /** From 1; 0 for the feet stood on at first. */
  readonly number: number;
  /** Which step of the stride's pattern, counted on. */
  readonly index: number;
  readonly gait: StepGait;
  readonly mix: GaitMix;
  readonly strideTime: number;
  /** Length as a part of a full one. */
  readonly share: number;
  /** Place on the course, m. */
  readonly s: number;
  /** How far (m) to the left of the course the foot itself stands; null: half a step width from it. */
  readonly onto: number | null;
  readonly landing: number;
  readonly phase: number;
  /** Speed (m/s) it would have were the walk not just getting going or coming to rest. */
  readonly pace: number;
  /** How far (0 … 1) the feet go apart as standing feet do. */
  readonly wide: number;
  /** The walk rests behind it. */
  readonly rests: boolean;
}

/** Steps between two rests. */
interface Stretch {
  readonly steps: readonly LaidStep[];
  readonly kind: 'walk' | 'turn';
  /** Place on the course where it begins, m. */
  readonly s: number;
  /** When its first foot leaves, s. */
  readonly from: number;
  /** How long it takes to come to its speed, s; its speed, m/s. */
  readonly gain: number;
  readonly speed: number;
}

export interface LaidWalk {
  readonly gaits: StepGaits;
  /** Pattern's index of the first step. */
  readonly first: number;
  readonly stretches: readonly Stretch[];
  /** What the walk does otherwise than asked. */
  readonly slowed: number;
  readonly farMarks: readonly Mark[];
}

type Goal = { readonly at: number; readonly kind: 'halt'; readonly rest: number } | { readonly at: number; readonly to: number; readonly kind: 'turn' };

/** A step before its times are known. */
interface RawStep {
  readonly index: number;
  readonly gait: StepGait;
  readonly mix: GaitMix;
  readonly strideTime: number;
  readonly full: number;
  share: number;
  s: number;
  onto: number | null;
  readonly pace: number;
  readonly wide: number;
}

/** The speed (m/s) a walk is asked for. */
interface Asked {
  /** At t s, s m along the course, for a step of so many seconds. */
  at(t: number, s: number, step: number): number;
  /** When it changes for the last time, s; null where it is told by distance. */
  readonly until: number | null;
}
/** A resting figure looks so far (s) ahead for where it is to be. */
const STEP_AHEAD_S = 0.5;

const paceOf = (track: Track): Asked => ({ at: (t, s) => trackValue(track, t, s), until: track.over === 'distance' ? null : track.keys.at(-1)!.at });

/** As fast as it takes to be where a track of places has the figure at the end of the step. */
function placePace(course: Course, places: Track): Asked {
  return {
    at: (t, s, step) => Math.max(0, (courseAtDistance(course, trackValue(places, t + step, 0)) - s) / step),
    until: places.keys.at(-1)!.at,
  };
}

/** The right foot lands this close (strides) to half way between two left ones, or the pattern is no walk's. */
const EVEN_PHASE = 0.15;
/** Faster than this (Froude number) no foot finds a tread. */
const MOST_FROUDE = 3.2;

/** Throws where a gait cannot go over treads and stones one by one. */
function refusePieces({ steps, sided, speed }: StepGait, legLength: number): void {
  const refuse = (why: string) => {
    throw new RangeError(`plan: stairs and stones cannot be taken ${why}`);
  };
  if (steps.length === 1) refuse('with both feet at once');
  if (steps.flat().some((b) => b.hopped)) refuse('with a hop on every foot');
  if (Math.abs(steps[1]![0]!.start - steps[0]![0]!.start - 0.5) > EVEN_PHASE) refuse(`at a gallop (${sided.gait.name})`);
  if ((speed * speed) / (GRAVITY * legLength) > MOST_FROUDE) refuse(`at a sprint of ${speed.toFixed(1)} m/s`);
}

/** Speeds (m/s) a course allows, every LOOK_STEP_M: where it bends the walk slows in time, as hard as it brakes. */
function speedLimits(course: Course): Float64Array {
  const n = Math.ceil(course.length / LOOK_STEP_M) + 1;
  const limits = new Float64Array(n);
  const at = [0, 0, 0, 0];
  for (let i = n - 1; i >= 0; i--) {
    course.at(i * LOOK_STEP_M, at, 0);
    const k = Math.abs(at[3]!);
    const next = i + 1 < n ? limits[i + 1]! : Infinity;
    limits[i] = Math.min(k > 1e-9 ? Math.sqrt(GRAVITY / (2 * k)) : Infinity, Math.sqrt(next * next + 2 * BRAKE * LOOK_STEP_M));
  }
  return limits;
}

/** Lays a walk out step by step: where and when each foot lands. `standing` s before the first lift-off. */
export function layWalk(program: Program, standing: number): LaidWalk {
  const { course, steps, lengthShare, ground } = program;
  const pace = program.place ? placePace(course, program.place) : program.pace && paceOf(program.pace);
  if (steps === 'endless') throw new RangeError('layWalk: an endless cycle has no steps to lay out');
  const gaits = createStepGaits(program.gaits);
  const marks = marksAlong(program);
  if (marks.length > 0) for (const g of gaits.all) refusePieces(g, program.body.legLength);
  const farMarks: Mark[] = [];
  const firstGait = gaits.of(gaits.mixAt(0, 0));
  const first = firstStepOf(firstGait, steps.first);
  const stretches: Stretch[] = [];
  const limit = steps.count ?? MOST_STEPS;
  let slowed = 0;
  let index = first - 1,
    number = 0,
    s = 0,
    time = standing,
    phase = phaseOf(firstGait, index, first);
  const at = [0, 0, 0, 0];
  /** The gait a stretch begins with. */
  let opening = gaits.mixAt(0, 0);
  const curved = Number.isFinite(course.length);
  const limits = curved ? speedLimits(course) : null;
  const allowed = (from: number): number => (limits ? limits[Math.min(limits.length - 1, Math.max(0, Math.floor(from / LOOK_STEP_M)))]! : Infinity);

  const normal = [0, 1, 0];
  /** What a slope leaves of a step: 1 on the level. */
  function onSlope(from: number, flies: boolean): number {
    course.at(from, at, 0);
    ground.normal(at[0]!, at[1]!, normal, 0);
    const rise = -(normal[0]! * Math.sin(at[2]!) + normal[2]! * Math.cos(at[2]!)) / normal[1]!;
    const steep = Math.max(0, Math.abs(rise) - GENTLE_RISE);
    const k = (flies ? SLOPE_SHORTENS.run : SLOPE_SHORTENS.walk) * (rise > 0 ? 1 : DOWNHILL_SHARE);
    return 1 / (1 + k * steep);
  }

  /** The step from `from` on, at t, as the tracks have it; null where they ask for rest. */
  function rawStep(at: number, from: number, t: number, nth: number): RawStep | null {
    const next = gaits.mixAt(t, from);
    // A gait of another pattern waits for the rest that comes before it.
    const mix = gaits.of(next).steps.length === gaits.of(opening).steps.length ? next : opening;
    const gait = gaits.of(mix);
    const own = gait.speed;
    const ahead = Math.abs(gait.strideLength) / gait.steps.length;
    const asked = pace ? pace.at(t, from, gait.strideTime / gait.steps.length) : own;
    if (pace && asked < REST_PACE * own) return null;
    // Over the whole step: it is in the bend before it lands.
    const most = Math.min(allowed(from), allowed(from + 0.5 * ahead), allowed(from + ahead));
    if (most < asked * (1 - 1e-9)) slowed = Math.max(slowed, asked - most);
    const v = clamp(Math.min(asked, most), REST_PACE * own, MOST_PACE * own);
    const part = own > 0 ? v / own : 1;
    const length = part === 1 ? 1 : part ** lengthShare,
      strideTime = part === 1 ? gait.strideTime : (gait.strideTime * length) / part;
    const stepTime = strideTime / gait.steps.length;
    const ramp = gait.flies ? RUN_RAMP : WALK_RAMP;
    const shorter = onSlope(from, gait.flies);
    const gains = gait.flies ? Math.min(1, (nth * stepTime * MOST_GAIN) / Math.max(1e-6, v)) : 1;
    const full = fullLength(gait, at);
    return {
      index: at,
      gait,
      mix,
      strideTime,
      full,
      share: Math.min(ramp.up[nth - 1] ?? 1, gains) * length * shorter,
      s: from,
      onto: null,
      pace: v * shorter,
      wide: 0,
    };
  }

  /** Way (m) of a whole step that lands at `at`. */
  function fullLength(gait: StepGait, at: number): number {
    const reach = (k: number) => {
      const lead = beatsAt(gait, k)[0]!;
      return phaseOf(gait, k, first) * gait.strideLength + lead.aheadShare * lead.duration * gait.strideLength;
    };
    return reach(at) - reach(at - 1);
  }

  /** Shortens a step that would turn its foot too far. */
  function keepTurn(raw: RawStep, from: number): void {
    if (!curved) return;
    course.at(from, at, 0);
    const heading = at[2]!;
    const most = raw.gait.flies ? MOST_TURN.run : MOST_TURN.walk;
    const turned = (share: number) => {
      course.at(from + share * raw.full, at, 0);
      return Math.abs(at[2]! - heading);
    };
    if (turned(raw.share) <= most) return;
    let lo = 0,
      hi = raw.share;
    for (let i = 0; i < 24; i++) {
      const mid = (lo + hi) / 2;
      if (turned(mid) > most) hi = mid;
      else lo = mid;
    }
    raw.share = lo;
  }

  /** Share of the last steps of a stretch, `left` of them still to come with this one. */
  const slowing = (raw: RawStep, left: number): number => {
    const ramp = raw.gait.flies ? RUN_RAMP : WALK_RAMP;
    const stepTime = raw.strideTime / raw.gait.steps.length;
    const losses = raw.gait.flies ? Math.min(1, (left * stepTime * MOST_LOSS) / Math.max(1e-6, raw.pace)) : 1;
    return Math.min(ramp.down[left - 1] ?? 1, losses);
  };

  /** Takes raw steps from `from` to `to`, the last ones sharing what is left over; `rests` where the walk comes to rest there. */
  function span(raws: RawStep[], from: number, to: number, rests: boolean): RawStep[] {
    const total = (n: number) => {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += shareOf(i, n) * raws[i]!.full;
      return sum;
    };
    const shareOf = (i: number, n: number) => (rests ? Math.min(raws[i]!.share, slowing(raws[i]!, n - i)) : raws[i]!.share);
    let n = raws.length;
    while (n > 1 && Math.abs(total(n - 1) - (to - from)) <= Math.abs(total(n) - (to - from))) n--;
    /** By how much the last steps are stretched that share what is left over. */
    const stretched = (n: number): number => {
      let lasts = 0;
      for (let i = Math.max(0, n - SHARING); i < n; i++) lasts += shareOf(i, n) * raws[i]!.full;
      return Math.max(0.05, 1 + (to - from - total(n)) / Math.max(1e-9, lasts));
    };
    // Rather one step more than long ones.
    if (n < raws.length && stretched(n) > MOST_STRETCH) n++;
    const taken = raws.slice(0, n);
    const shares = taken.map((_, i) => shareOf(i, n));
    const sharing = Math.min(SHARING, n);
    const factor = stretched(n);
    let place = from;
    taken.forEach((raw, i) => {
      raw.share = shares[i]! * (i >= n - sharing ? factor : 1);
      place += raw.share * raw.full;
      raw.s = i === n - 1 ? to : place;
    });
    return taken;
  }

  /** Steps of a stretch from s on, up to `to` (Infinity: until steps or tracks end it). */
  function moves(to: number): { raws: RawStep[]; rested: boolean } {
    const raws: RawStep[] = [];
    opening = gaits.mixAt(time, s);
    const closing = gaits.of(opening).steps.length > 1 ? 1 : 0;
    const left = limit - number - closing;
    let place = s,
      t = time;
    let rested = false;
    /** Raw steps until `end` is passed. */
    const towards = (end: number, beyond: number): RawStep[] => {
      const own: RawStep[] = [];
      let way = place,
        when = t;
      while (way < end + beyond && raws.length + own.length < left) {
        const raw = rawStep(index + 1 + raws.length + own.length, way, when, raws.length + own.length + 1);
        if (!raw) {
          rested = true;
          break;
        }
        const before = own[own.length - 1] ?? raws[raws.length - 1];
        if (before && before.share < raw.share - MOST_GROWTH) raw.share = before.share + MOST_GROWTH;
        keepTurn(raw, way);
        way += raw.share * raw.full;
        when += raw.strideTime / raw.gait.steps.length;
        raw.s = way;
        own.push(raw);
        if (raw.share * raw.full < 1e-6) break;
      }
      return own;
    };
    const commit = (own: readonly RawStep[]) => {
      for (const raw of own) t += raw.strideTime / raw.gait.steps.length;
      raws.push(...own);
      if (own.length > 0) place = own[own.length - 1]!.s;
    };
    let next = marks.findIndex((m) => m.at > s + NO_STEP_M);
    while (next >= 0 && next < marks.length && marks[next]!.at < to - NO_STEP_M && !rested && raws.length < left) {
      const mark = marks[next]!;
      const own = towards(mark.at, 0.8);
      if (rested || own.length === 0) break;
      const last = own[0]!;
      // Within a step of it, and from piece to piece, the foot goes straight there.
      const before = next > 0 && marks[next - 1]!.group === mark.group && marks[next - 1]!.at <= place + NO_STEP_M;
      const taken = before ? [last] : span(own, place, mark.at, false);
      const final = taken[taken.length - 1]!;
      if (before) {
        final.share = (mark.at - place) / last.full;
        if (mark.at - place > 1.35 * program.body.legLength) farMarks.push(mark);
      }
      final.s = mark.at;
      final.onto = mark.onto;
      commit(taken);
      next = nextMark(next, place, final);
    }
    if (rested) return { raws, rested };
    const own = towards(to, 2.5);
    // Who is asked to rest all but there rests there.
    const latest = own.at(-1);
    if (rested && latest && to - latest.s < NEARLY_THERE * latest.full) rested = false;
    if (!Number.isFinite(to) || rested || raws.length + own.length >= left) {
      // So many steps and no more: the last of them slow down where they are.
      if (!rested || !pace) {
        let way = place;
        own.forEach((raw, i) => {
          raw.share = Math.min(raw.share, slowing(raw, own.length - i));
          way += raw.share * raw.full;
          raw.s = way;
        });
      }
      commit(own);
      return { raws, rested };
    }
    if (own.length > 0 && to - place > NO_STEP_M) commit(span(own, place, to, true));
    return { raws, rested };
  }

  /** The piece a step goes to from the one at `i`. */
  function nextMark(i: number, place: number, from: RawStep): number {
    let next = i + 1;
    const { kind, group } = marks[i]!;
    const wanted = place + from.full;
    const same = (k: number) => k < marks.length && marks[k]!.group === group;
    if (kind === 'tread') {
      // Two treads up a step are more than a running leg makes.
      const two = from.gait.flies && same(i + 2) && marks[i + 2]!.y <= marks[i]!.y && Math.abs(marks[i + 2]!.y - marks[i]!.y) <= 0.45 * program.body.legLength;
      return two ? i + 2 : next;
    }
    while (same(next + 1) && Math.abs(marks[next + 1]!.at - wanted) < Math.abs(marks[next]!.at - wanted)) next++;
    return next;
  }

  /** Steps that turn on the spot between two places of the course, the inner foot first. */
  function turning(from: number, to: number, angle: number): RawStep[] {
    const inner: Side = angle > 0 ? 0 : 1;
    const gait = gaits.of(gaits.mixAt(time, s));
    const make = (at: number, part: number): RawStep => ({
      index: at,
      gait,
      mix: gaits.mixAt(time, s),
      strideTime: gait.strideTime,
      full: Math.abs(fullLength(gait, at)),
      share: TURNING_SHARE,
      s: lerp(from, to, part),
      onto: null,
      pace: gait.speed,
      wide: 1,
    });
    const full = Math.abs(angle);
    if (gait.steps.length === 1) {
      const n = Math.ceil(full / MOST_TURN.walk);
      return Array.from({ length: n }, (_, i) => make(index + 1 + i, (i + 1) / n));
    }
    if (!beatsAt(gait, index + 1).some((b) => b.side === inner)) index++;
    const pairs = Math.max(1, Math.ceil(full / PAIR_TURN + (1 - INNER_SHARE) - 1e-9));
    const unit = 1 / (pairs - 1 + INNER_SHARE);
    return Array.from({ length: 2 * pairs }, (_, i) => {
      const pair = Math.floor(i / 2);
      const part = i % 2 === 0 || pair === pairs - 1 ? (pair + INNER_SHARE) * unit : (pair + 1) * unit;
      return make(index + 1 + i, Math.min(1, part));
    });
  }

  /** Gives raw steps their times and closes the feet behind them. */
  function settle(raws: readonly RawStep[], kind: Stretch['kind'], to: number | null): void {
    if (raws.length === 0) return;
    const opening = raws[0]!;
    const side = beatsAt(opening.gait, opening.index)[0]!.side;
    const from = time;
    const begins = s;
    const steps: LaidStep[] = [];
    let landing = from + opening.gait.airborne[side] * opening.strideTime;
    // As long as the cadence is one, times are told from one landing: a long walk does not gather what rounding leaves.
    let anchor = { landing, phase: phaseOf(opening.gait, opening.index, first), strideTime: opening.strideTime };
    const add = (raw: RawStep, place: number, share: number, wide: number, rests: boolean) => {
      phase = phaseOf(raw.gait, raw.index, first);
      if (raw.strideTime !== anchor.strideTime) anchor = { landing, phase: steps[steps.length - 1]!.phase, strideTime: raw.strideTime };
      landing = anchor.landing + (phase - anchor.phase) * raw.strideTime;
      number++;
      steps.push({ ...raw, number, landing, phase, s: place, share, wide, rests });
    };
    const last = raws[raws.length - 1]!;
    const end = to ?? last.s;
    const closing = kind === 'walk' && last.gait.steps.length > 1;
    for (const raw of raws) add(raw, raw.s, raw.share, raw.wide, !closing && raw === last);
    if (closing) add({ ...last, index: last.index + 1, onto: null }, end, 0, 1, true);
    index = steps[steps.length - 1]!.index;
    s = end;
    time = landing;
    const stepTime = opening.strideTime / opening.gait.steps.length;
    const speed = Math.max(...steps.map((k) => k.pace));
    const gain = opening.gait.flies ? Math.max((RUN_RAMP.up.length + 1) * stepTime, speed / MOST_GAIN) : (WALK_RAMP.up.length + 1) * stepTime;
    stretches.push({ steps, kind, s: begins, from, gain, speed: kind === 'turn' ? 0 : speed });
  }

  const goals: Goal[] = [
    ...program.halts.map((h): Goal => ({ at: courseAtDistance(course, h.at), kind: 'halt', rest: h.rest })),
    // From one step a stride to two, or back, only over a rest: there is nothing between.
    ...program.gaits.keys.flatMap((k, i): Goal[] =>
      i > 0 && program.gaits.over === 'distance' && gaits.all[i]!.steps.length !== gaits.all[i - 1]!.steps.length
        ? [{ at: courseAtDistance(course, k.at), kind: 'halt', rest: 0 }]
        : [],
    ),
    ...course.turns.map((t): Goal => ({ at: t.from, to: t.to, kind: 'turn' })),
  ].sort((a, b) => a.at - b.at);
  const end = steps.count === null ? course.length : Infinity;
  if (steps.count === null && !Number.isFinite(end)) throw new RangeError('plan: a walk needs a number of steps or a course that ends');
  const nextGoals = [...goals.filter((g) => g.at < end + 1e-9), { at: end, kind: 'halt', rest: 0 } as Goal];
  /** Rests until the track of pace asks for steps again; false where it never does. */
  function restUntilPace(): boolean {
    if (!pace || pace.until === null) return false;
    let t = time + leastRest();
    while (pace.at(t, s, STEP_AHEAD_S) < REST_PACE * gaits.of(gaits.mixAt(t, s)).speed) {
      if (t > pace.until) return false;
      t += REST_LOOK_S;
    }
    time = t;
    return true;
  }
  /** Shortest rest (s) in which a foot that has closed comes down flat and rolls off again. */
  const leastRest = (): number => {
    const last = stretches[stretches.length - 1]?.steps.at(-1);
    const roll = last ? beatsAt(last.gait, last.index)[0]!.roll : null;
    return roll ? LEAST_REST_S + roll.flatAfter + roll.riseFor : LEAST_REST_S;
  };
  // Whether a track of pace has ended the walk.
  let over = false;
  for (const goal of nextGoals) {
    let stuck = 0;
    while (!over && number < limit && goal.at - s > NO_STEP_M) {
      const { raws, rested } = moves(goal.at);
      settle(raws, 'walk', rested || !Number.isFinite(goal.at) || number + raws.length + 1 >= limit ? null : goal.at);
      if (raws.length === 0 && stuck++ > 20) break;
      if (!rested) break;
      over = !restUntilPace();
    }
    if (over || number >= limit) break;
    if (goal.kind === 'turn') {
      const turn = course.turns.find((t) => t.from === goal.at)!;
      time += stretches.length > 0 ? leastRest() : 0;
      s = turn.from;
      settle(turning(turn.from, turn.to, turn.angle), 'turn', turn.to);
      time += leastRest();
    } else time += Math.max(leastRest(), goal.rest);
  }
  if (stretches.length === 0) throw new RangeError('plan: nothing is walked: the course is too short for a step, or its pace is 0');
  return { gaits, first, stretches, slowed, farMarks };
}
