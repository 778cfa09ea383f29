import type { Body } from '../body/body';
import { SIDES, type Side } from '../body/roles';
import { createWorldPose, forwardKinematics, poseSize } from '../body/skeleton';
import { createArmRoom } from '../body/trunk';
import { wrapPhase } from '../math/scalar';

/** Phases of a stride looked at, and rounds of taking the arms out of the body's way. */
const PHASES = 24;
const ROUNDS = 6;
/** The most an arm goes out, and its elbow bends more, rad. */
const MOST_OUT_RAD = 0.9;
const MOST_BEND_RAD = 0.8;
/** Part of the way out by which the elbow bends more. */
const BEND_SHARE = 0.25;
/** Help (m of room a rad) that is supposed at first, and the least that counts. */
const USUAL_HELP = 0.35;
const LEAST_HELP = 0.08;
/** So much (m) more room is looked for, for what lies between two looks. */
const MORE_M = 0.006;
/** Room (m) over what is wanted that arms surely keep between two looks that have it. */
const WELL_CLEAR_M = 0.025;
/** Room this close (m) to what is wanted is enough. */
const GOOD_M = 5e-4;

/** Extra angles of both arms: out left, out right, elbow left, elbow right, rad. */
export const ARMS_EXTRA = { out: 0, elbow: 2 } as const;
export const ARMS_EXTRA_SIZE = 4;

/** Extra angles over time as a cubic spline with even control points: of a stride, over and over, or of a span of a walk. */
export interface ArmsSpline {
  readonly start: number;
  readonly step: number;
  readonly count: number;
  readonly ring: boolean;
  /** `count` control points for each extra angle. */
  readonly points: Float64Array;
}

/** How arms go round the body. */
export interface ArmsClear {
  /** Over the phase of a stride; null where nothing is needed. */
  readonly stride: ArmsSpline | null;
  /** The most each arm goes out, rad, and the room (m) that is still missing. */
  readonly out: readonly [number, number];
  readonly missing: number;
}

export const ARMS_FREE: ArmsClear = { stride: null, out: [0, 0], missing: 0 };

/** Writes the pose at a time (a phase, for a stride) with the extra angles in `extra` on top. */
export type ArmsTrial = (time: number, out: Float64Array) => void;

/**
 * Finds by how much each arm has to go out or to bend, phase by phase, so that it keeps its clearance (m) from trunk and
 * thighs.
 */
export function clearArms(body: Body, clearance: readonly [number, number], extra: Float64Array, solve: ArmsTrial): ArmsClear {
  if (!clearance.some((w) => w > 0)) return ARMS_FREE;
  const found = findNeeds(body, clearance, extra, solve, { start: 0, step: 1 / PHASES, count: PHASES, ring: true });
  if (!found.spline) return { ...ARMS_FREE, missing: found.missing };
  const { points } = found.spline;
  const most = (side: number) => points.subarray(side * PHASES, (side + 1) * PHASES).reduce((a, b) => Math.max(a, b), 0);
  return { stride: found.spline, out: [most(0), most(1)], missing: found.missing };
}

/** The same for a span of a walk, in which arms and legs are not yet, or no more, as its gait has them; null where nothing is needed. */
export function clearSpan(
  body: Body,
  clearance: readonly [number, number],
  extra: Float64Array,
  solve: ArmsTrial,
  from: number,
  to: number,
  step: number,
): ArmsSpline | null {
  if (!clearance.some((w) => w > 0)) return null;
  const count = Math.max(4, Math.ceil((to - from) / step) + 1);
  return findNeeds(body, clearance, extra, solve, { start: from, step: (to - from) / (count - 1), count, ring: false }).spline;
}

function findNeeds(
  body: Body,
  clearance: readonly [number, number],
  extra: Float64Array,
  solve: ArmsTrial,
  span: Omit<ArmsSpline, 'points'>,
): { spline: ArmsSpline | null; missing: number } {
  const { clearAt, spareAt } = armClearer(body, clearance, extra, solve);
  const { count } = span;
  const points = new Float64Array(ARMS_EXTRA_SIZE * count);
  // Arms that keep well clear at every other look need no closer one.
  if (span.ring) {
    let least = Infinity;
    for (let i = 0; i < count && least > WELL_CLEAR_M; i += 2) least = Math.min(least, spareAt(span.start + i * span.step));
    if (least > WELL_CLEAR_M) return { spline: null, missing: 0 };
  }
  let missing = 0,
    needed = false;
  for (let i = 0; i < count; i++) {
    missing = Math.max(missing, clearAt(span.start + i * span.step));
    for (let k = 0; k < ARMS_EXTRA_SIZE; k++) {
      points[k * count + i] = extra[k]!;
      needed ||= extra[k]! > 0;
    }
  }
  extra.fill(0);
  const spline = { ...span, points };
  if (needed) soften(spline);
  return { spline: needed ? spline : null, missing };
}

/** Returns a search that leaves in `extra` what one moment needs, and tells the room (m) that is still missing. */
function armClearer(body: Body, clearance: readonly [number, number], extra: Float64Array, solve: ArmsTrial): ArmClearer {
  const pose = new Float64Array(poseSize(body.skeleton));
  const world = createWorldPose(body.skeleton);
  const roomOf = createArmRoom(body);
  const shortOf = (side: Side) => clearance[side] + MORE_M - roomOf(world, side);
  const look = (phase: number) => {
    solve(phase, pose);
    forwardKinematics(body.skeleton, pose, 0, world);
  };
  const spareAt = (phase: number): number => {
    extra.fill(0);
    look(phase);
    return -Math.max(shortOf(0), shortOf(1));
  };
  const ways = SIDES.map(createWay);
  const clearAt = (phase: number): number => {
    extra.fill(0);
    for (const way of ways) way.begin();
    for (let round = 0; ; round++) {
      look(phase);
      const done = SIDES.map((side) => ways[side]!.try(shortOf(side)));
      if (done.every(Boolean) || round === ROUNDS) break;
      for (const side of SIDES) {
        extra[side] = ways[side]!.at;
        extra[ARMS_EXTRA.elbow + side] = Math.min(MOST_BEND_RAD, BEND_SHARE * ways[side]!.at);
      }
    }
    return Math.max(0, ...ways.map((way) => way.short - GOOD_M - MORE_M));
  };
  return { clearAt, spareAt };
}

/** A search for how far (rad) one arm has to go out so that nothing is short of its room. */
interface Way {
  /** Where it is tried next, and what was short (m) at the last try. */
  at: number;
  short: number;
  begin(): void;
  /** Takes what is short at `at`; tells whether that is it, or says where to try next. */
  try(short: number): boolean;
}

/** Secants inside a bracket: what is found moves as evenly as what it is found for. */
function createWay(): Way {
  let low = 0,
    high = MOST_OUT_RAD,
    help = USUAL_HELP,
    last = NaN;
  const way: Way = {
    at: 0,
    short: 0,
    begin() {
      way.at = low = 0;
      high = MOST_OUT_RAD;
      help = USUAL_HELP;
      last = NaN;
    },
    try(short) {
      if (!Number.isNaN(last) && way.at !== last) help = Math.max(LEAST_HELP, (way.short - short) / (way.at - last));
      last = way.at;
      way.short = short;
      if (Math.abs(short) <= GOOD_M || (short < 0 && way.at === 0) || (short > 0 && way.at === MOST_OUT_RAD)) return true;
      if (short > 0) low = way.at;
      else high = way.at;
      const next = way.at + short / help;
      way.at = next > low && next < high ? next : next >= MOST_OUT_RAD && high === MOST_OUT_RAD ? MOST_OUT_RAD : (low + high) / 2;
      return false;
    },
  };
  return way;
}

interface ArmClearer {
  /** Leaves in `extra` what one moment needs; returns the room (m) that is still missing. */
  readonly clearAt: (time: number) => number;
  /** Room (m) over what is wanted, at one moment, with no extra angles. */
  readonly spareAt: (time: number) => number;
}

/** Widens every need to its neighbours, so that the spline through its points as a hull is nowhere less, and rounds it off. */
function soften({ points, count, ring }: ArmsSpline): void {
  const at = (v: Float64Array, i: number) => v[ring ? (i + count) % count : Math.min(count - 1, Math.max(0, i))]!;
  for (let k = 0; k < ARMS_EXTRA_SIZE; k++) {
    const own = points.subarray(k * count, (k + 1) * count);
    const wide = own.map((_, i) => Math.max(...[-2, -1, 0, 1, 2].map((d) => at(own, i + d))));
    own.set(wide.map((_, i) => (at(wide, i - 1) + 2 * at(wide, i) + at(wide, i + 1)) / 4));
  }
}

/** Adds the extra angles at a time, times `weight`, to out[0..ARMS_EXTRA_SIZE). Source: the uniform cubic B-spline; C2, also all round. */
export function addArms({ start, step, count, ring, points }: ArmsSpline, time: number, weight: number, out: Float64Array): void {
  const place = (time - start) / step;
  const s = ring ? wrapPhase(place / count) * count : Math.min(count - 1, Math.max(0, place));
  const i = Math.min(count - 1, Math.floor(s)),
    u = s - i,
    v = 1 - u;
  const a = i > 0 ? i - 1 : ring ? count - 1 : 0,
    c = i + 1 < count ? i + 1 : ring ? i + 1 - count : count - 1,
    d = i + 2 < count ? i + 2 : ring ? i + 2 - count : count - 1;
  const k6 = weight / 6;
  const wa = k6 * v * v * v,
    wb = k6 * (3 * u * u * u - 6 * u * u + 4),
    wc = k6 * (3 * v * v * v - 6 * v * v + 4),
    wd = k6 * u * u * u;
  for (let k = 0, o = 0; k < ARMS_EXTRA_SIZE; k++, o += count)
    out[k] = out[k]! + wa * points[o + a]! + wb * points[o + i]! + wc * points[o + c]! + wd * points[o + d]!;
}
