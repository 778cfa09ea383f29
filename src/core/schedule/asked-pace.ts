import { courseAtDistance, type Course } from '../course/course';
import { clamp, GRAVITY } from '../math/scalar';
import { trackValue, type Track } from '../math/track';
import type { Program } from './program';

/** The speed (m/s) a walk is asked for. */
export interface AskedPace {
  /** At t s, s m along the course, for a step of so many seconds. */
  at(t: number, s: number, step: number): number;
  /** When it changes for the last time, s; null where it is told by distance. */
  readonly until: number | null;
}

/** What a program's tracks ask for; null: the gait's own speed. */
export function askedPace({ course, place, pace }: Program): AskedPace | null {
  if (place) return placePace(course, place);
  return pace && { at: (t, s) => trackValue(pace, t, s), until: pace.over === 'distance' ? null : pace.keys.at(-1)!.at };
}

/** As fast as it takes to be where a track of places has the figure at the end of the step. */
function placePace(course: Course, places: Track): AskedPace {
  return {
    at: (t, s, step) => Math.max(0, (courseAtDistance(course, trackValue(places, t + step, 0)) - s) / step),
    until: places.keys.at(-1)!.at,
  };
}

/** How finely (m) a course is looked at for bends, and how hard (m/s²) a walk slows for one. */
const LOOK_STEP_M = 0.2;
const BRAKE = 1.6;
/** Bends tighter than this (1/m) are no wider than a body's step: it slows for them more than its lean asks for, or its feet land beside it. */
const TIGHT = 0.7;
const LEAST_TIGHT = 0.4;

/** Speed (m/s) a course allows at a place: √(g / 2κ) in a bend, less in one that is tight, before it as much as is slowed in time. */
export function bendLimit(course: Course): (s: number) => number {
  if (!Number.isFinite(course.length)) return () => Infinity;
  const n = Math.ceil(course.length / LOOK_STEP_M) + 1;
  const limits = new Float64Array(n);
  const at = [0, 0, 0, 0];
  for (let i = n - 1; i >= 0; i--) {
    course.at(i * LOOK_STEP_M, at, 0);
    const k = Math.abs(at[3]!);
    // Who turns on the spot stops there anyway.
    const tight = course.turns.some((t) => t.from <= i * LOOK_STEP_M && i * LOOK_STEP_M <= t.to) ? 1 : clamp(TIGHT / k, LEAST_TIGHT, 1);
    const next = i + 1 < n ? limits[i + 1]! : Infinity;
    limits[i] = Math.min(k > 1e-9 ? Math.sqrt((GRAVITY / (2 * k)) * tight) : Infinity, Math.sqrt(next * next + 2 * BRAKE * LOOK_STEP_M));
  }
  return (s) => limits[Math.min(n - 1, Math.max(0, Math.floor(s / LOOK_STEP_M)))]!;
}
