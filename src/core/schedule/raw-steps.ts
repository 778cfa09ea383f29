import { clamp } from '../math/scalar';
import { bendLimit, type AskedPace } from './asked-pace';
import type { RawStep } from './laid';
import { printAt, widestStep } from './print';
import type { Program } from './program';
import type { StepEdits } from './step-edits';
import { beatsAt, besideOwn, phaseOf, type GaitMix, type StepGait, type StepGaits } from './step-gait';

/** First steps, and last ones counted from the end, as parts of a full step: a body at rest reaches less far, and a run stops faster than it starts. */
const WALK_RAMP = { up: [0.72], down: [0.72] };
const RUN_RAMP = { up: [0.42, 0.82], down: [0.4, 0.85] };
export const rampOf = ({ flies }: StepGait) => (flies ? RUN_RAMP : WALK_RAMP);
/** A body that gets going gains no more than this (m/s²) from step to step, and loses no more than that. */
export const MOST_GAIN = 4;
export const MOST_LOSS = 5;
/** A foot turns by this (rad) a step at most; common practice, no published source. */
export const MOST_TURN = { walk: Math.PI / 4, run: (35 * Math.PI) / 180 };
/** Steps get shorter on slopes steeper than this: by so much for each unit of rise, downhill by a part of it. Common practice, no published source. */
const GENTLE_RISE = 0.05;
const SLOPE_SHORTENS = { walk: 1.2, run: 3.2 };
const DOWNHILL_SHARE = 0.5;
/** A step that lands farther off by this part is as far; one that is brought within reach keeps so much of itself at least. */
const SAME_REACH = 0.02;
const LEAST_SHARE = 0.25;
/** Who does not fly sets no foot farther (legs) from the other where it goes round a bend. */
const FARTHEST_LEGS = 1.3;
/** Way (legs) of a body over a foot that stands longer because its stride is slowed; at most what it is at the gait's own speed where that is more. */
const STOOD_LEGS = 1;
/** A step is looked at for bends this finely, m. */
const BEND_LOOK_M = 0.2;
/** Who goes sideways has its feet farther outside a bend, and goes round it slower by up to this part. */
const ASIDE_SLOWER = 0.5;
/** Range of a pace against the gait's own; below the first the figure rests. */
export const REST_PACE = 0.08;
const MOST_PACE = 1.6;
/** A pace over that by a smaller part is no faster. */
const SAME_PACE = 0.01;

/** Which step of a walk is asked for. */
interface Next {
  /** Its number, from 1, its place in the pattern, and which one of its stretch it is, from 1. */
  readonly number: number;
  readonly index: number;
  readonly nth: number;
  /** Where (m of the course) and when (s) the one before it landed, and the gait its stretch began with. */
  readonly from: number;
  readonly t: number;
  readonly opening: GaitMix;
}

/** Steps as gaits, tracks, bends, slopes and the user's hand have them, one by one. */
export interface RawSteps {
  /** The next step; null where the tracks ask for rest. */
  next(step: Next): RawStep | null;
  /** Part of a step from a place (m) on that turns its foot no farther than it may. */
  withinTurn(raw: RawStep, from: number): number;
  /** Part of a step from a place (m) on whose foot lands no farther from the other than in the gaits as they go steadily: a bend of who faces elsewhere changes the way feet open. */
  withinReach(raw: RawStep, from: number, before: RawStep | undefined): number;
  /** Way (m) of a whole step that lands at a place of the pattern. */
  fullLength(gait: StepGait, index: number): number;
  /** Largest part (m/s) that bends have taken from what was asked. */
  slowed(): number;
}

export function createRawSteps(program: Program, gaits: StepGaits, first: number, asked: AskedPace | null, edits: StepEdits): RawSteps {
  const { course, ground, lengthShare } = program;
  const allowed = bendLimit(course);
  const at = [0, 0, 0, 0],
    normal = [0, 1, 0];
  let slowed = 0;

  /** What a slope leaves of a step: 1 on the level. */
  function onSlope(from: number, flies: boolean): number {
    course.at(from, at, 0);
    ground.normal(at[0]!, at[1]!, normal, 0);
    const rise = -(normal[0]! * Math.sin(at[2]!) + normal[2]! * Math.cos(at[2]!)) / normal[1]!;
    const steep = Math.max(0, Math.abs(rise) - GENTLE_RISE);
    const k = (flies ? SLOPE_SHORTENS.run : SLOPE_SHORTENS.walk) * (rise > 0 ? 1 : DOWNHILL_SHARE);
    return 1 / (1 + k * steep);
  }

  function fullLength(gait: StepGait, index: number): number {
    const reach = (k: number) => {
      const lead = beatsAt(gait, k)[0]!;
      return phaseOf(gait, k, first) * gait.strideLength + lead.aheadShare * lead.duration * gait.strideLength;
    };
    return reach(index) - reach(index - 1);
  }

  function withinTurn({ gait, share, full }: RawStep, from: number): number {
    if (!Number.isFinite(course.length)) return share;
    const facing = (s: number): number => {
      if (program.faces) return program.faces.heading(s);
      course.at(s, at, 0);
      return at[2]!;
    };
    const heading = facing(from);
    const most = gait.flies ? MOST_TURN.run : MOST_TURN.walk;
    const turned = (part: number) => Math.abs(facing(from + part * full) - heading);
    if (turned(share) <= most) return share;
    let lo = 0,
      hi = share;
    for (let i = 0; i < 24; i++) {
      const mid = (lo + hi) / 2;
      if (turned(mid) > most) hi = mid;
      else lo = mid;
    }
    return lo;
  }

  function withinReach(raw: RawStep, from: number, before: RawStep | undefined): number {
    const { gait, index, share, full } = raw;
    const [last] = beatsAt(gait, index - 1),
      [own] = beatsAt(gait, index);
    if (!program.faces || last!.side === own!.side) return share;
    const stood = (before ?? raw).gait;
    const breadth = program.body.sole.breadth;
    const [x, z] = printAt(program, stood.sided.gait, last!.side, from);
    const apart = (part: number) => {
      const [px, pz] = printAt(program, gait.sided.gait, own!.side, from + part * full);
      return Math.hypot(px - x, pz - z);
    };
    const widest = Math.max(...[gait, stood].map((g) => widestStep(g.sided.gait, Math.abs(share * full), breadth)));
    const most = gait.flies ? widest : Math.min(widest, FARTHEST_LEGS * program.body.legLength);
    if (apart(share) <= most * (1 + SAME_REACH)) return share;
    let [lo, hi] = [LEAST_SHARE * share, share];
    for (let i = 0; i < 24; i++) {
      const mid = (lo + hi) / 2;
      if (apart(mid) > most) hi = mid;
      else lo = mid;
    }
    return lo;
  }

  /** A gait of another pattern waits for the rest that comes before it; a step's own gait must be of the stretch's pattern. */
  function mixOf({ number, t, from, opening }: Next): GaitMix {
    const own = edits.gaitOf(number);
    const pattern = gaits.of(opening).steps.length;
    if (own !== null) {
      const { sided, steps } = gaits.all[own]!;
      if (steps.length !== pattern) throw new RangeError(`plan: step ${number} cannot be of ${sided.gait.name}: it lands its feet in another way`);
      return { from: own, to: own, part: 0 };
    }
    const asked = gaits.mixAt(t, from);
    const mix = gaits.of(asked).steps.length === pattern ? asked : opening;
    return besideOwn(mix, edits.gaitOf(number + 1) ?? edits.gaitOf(number - 1), gaits);
  }

  /** Longest stride time (s) of a gait that flies at v m/s: a slower stride is stood longer, but no longer than a leg reaches over the foot. */
  function longestStride(gait: StepGait, index: number, v: number): number {
    if (!gait.flies) return Infinity;
    const { duration } = beatsAt(gait, index)[0]!;
    const air = Math.max(0, 1 / gait.steps.length - duration);
    const over = Math.max(STOOD_LEGS * program.body.legLength, duration * Math.abs(gait.strideLength));
    return Math.max(gait.strideTime, (over / Math.max(1e-6, v) + air * gait.strideTime) / (duration + air));
  }

  function next(step: Next): RawStep | null {
    const { number, index, nth, from, t } = step;
    const mix = mixOf(step);
    const gait = gaits.of(mix);
    const own = gait.speed;
    const n = gait.steps.length;
    const ahead = Math.abs(gait.strideLength) / n;
    const wanted = asked ? asked.at(t, from, gait.strideTime / n) : own;
    if (asked && wanted < REST_PACE * own) return null;
    // Over the whole step: it is in the bend before it lands.
    let most = Math.min(allowed(from), allowed(from + ahead));
    const looks = Math.max(2, Math.ceil(ahead / BEND_LOOK_M));
    for (let i = 1; i < looks; i++) most = Math.min(most, allowed(from + (i * ahead) / looks));
    const { travel, hips } = gait.sided.gait.direction;
    most *= 1 - ASIDE_SLOWER * Math.abs(Math.sin(travel - hips));
    if (most < wanted * (1 - 1e-9)) slowed = Math.max(slowed, wanted - most);
    const v = clamp(Math.min(wanted, most), REST_PACE * own, MOST_PACE * own);
    const part = own > 0 ? v / own : 1;
    const length = part === 1 ? 1 : part ** lengthShare;
    const strideTime = part === 1 ? gait.strideTime : Math.min((gait.strideTime * length) / part, longestStride(gait, index, v));
    const stepTime = strideTime / n;
    const shorter = onSlope(from, gait.flies);
    const gains = gait.flies ? Math.min(1, (nth * stepTime * MOST_GAIN) / Math.max(1e-6, v)) : 1;
    return {
      index,
      gait,
      mix,
      strideTime,
      stretched: edits.stretchOf(number, stepTime),
      paused: edits.pauseOf(number),
      full: fullLength(gait, index),
      share: Math.min(rampOf(gait).up[nth - 1] ?? 1, gains) * (part === 1 ? 1 : (part * strideTime) / gait.strideTime) * shorter * edits.wayOf(number),
      s: from,
      onto: null,
      pace: v * shorter,
      wide: 0,
      ...(asked && wanted > MOST_PACE * own * (1 + SAME_PACE) ? { tooFast: { asked: wanted, most: MOST_PACE * own } } : {}),
    };
  }

  return { next, withinTurn, withinReach, fullLength, slowed: () => slowed };
}
