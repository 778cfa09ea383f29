import type { Course } from '../course/course';
import type { GaitSpec } from '../gait/spec';
import { turnedGait } from '../gait/turned';
import { clamp, lerp, toRadians, wrapAngle } from '../math/scalar';
import type { GaitKey, GaitTrack } from './gait-track';

/** Where a walk looks that does not look along its course: in one direction (rad), or at a place (m). */
export type Facing = { readonly kind: 'held'; readonly heading: number } | { readonly kind: 'point'; readonly x: number; readonly z: number };

/** Headings of the body and of its travel against it (rad) at s m of a course; neither jumps. */
export interface Faces {
  heading(s: number): number;
  travel(s: number): number;
}

/** How finely (m) a course is looked at; nearer than this (m) to the point the facing stays. */
const LOOK_M = 0.05;
const NEAR_M = 0.25;

export function createFaces(course: Course, facing: Facing): Faces {
  const n = Math.max(1, Math.ceil(course.length / LOOK_M));
  const headings = new Float64Array(n + 1);
  const at = [0, 0, 0, 0];
  for (let i = 0; i <= n; i++) {
    course.at((course.length * i) / n, at, 0);
    const before = i > 0 ? headings[i - 1]! : at[2]!;
    const far = facing.kind === 'held' || Math.hypot(facing.x - at[0]!, facing.z - at[1]!) > NEAR_M;
    const wished = facing.kind === 'held' ? facing.heading : far ? Math.atan2(facing.x - at[0]!, facing.z - at[1]!) : before;
    headings[i] = before + wrapAngle(wished - before);
  }
  const heading = (s: number): number => {
    const place = clamp((s / course.length) * n, 0, n);
    const i = Math.min(n - 1, Math.floor(place));
    return lerp(headings[i]!, headings[i + 1]!, place - i);
  };
  return {
    heading,
    travel(s) {
      course.at(s, at, 0);
      return at[2]! - heading(s);
    },
  };
}

/** Where a body goes that moves less than this (m) over a look is not told. */
const MOVES_M = 0.05;
const AROUND_M = 0.2;

/** The same for a course whose heading is the body's own, whatever way it goes. */
export function movingFaces(course: Course): Faces {
  const n = Math.max(1, Math.ceil(course.length / LOOK_M));
  const travels = new Float64Array(n + 1);
  const [a, b, own] = [
    [0, 0, 0, 0],
    [0, 0, 0, 0],
    [0, 0, 0, 0],
  ];
  for (let i = 0; i <= n; i++) {
    const s = (course.length * i) / n;
    course.at(s, own, 0);
    course.at(Math.max(0, s - AROUND_M), a, 0);
    course.at(Math.min(course.length, s + AROUND_M), b, 0);
    const [dx, dz] = [b[0]! - a[0]!, b[1]! - a[1]!];
    const before = i > 0 ? travels[i - 1]! : 0;
    travels[i] = Math.hypot(dx, dz) < MOVES_M ? before : before + wrapAngle(Math.atan2(dx, dz) - own[2]! - before);
  }
  return {
    heading(s) {
      course.at(s, own, 0);
      return own[2]!;
    },
    travel(s) {
      const place = clamp((s / course.length) * n, 0, n);
      const i = Math.min(n - 1, Math.floor(place));
      return lerp(travels[i]!, travels[i + 1]!, place - i);
    },
  };
}

/** Directions for which a walk has gaits of their own lie so far (rad) apart; one is left when it is off by so many of them. */
const APART_RAD = toRadians(12);
const LEFT_AT = 0.75;
/** One direction goes over into the next within so much (m) at most. */
const OVER_M = 0.7;
/** Hips turn most on the diagonals: as in a set of directions (31°), but square going sideways, so that they never have to turn over. */
const HIPS_RAD = toRadians(31);
const WAIST_RAD = toRadians(38);
const SIDE_SHARE = 0.8;
const MOST_OPEN = 0.62;

/** The gait for a direction of travel against the facing, rad. */
export const facedGait = (forward: GaitSpec, travel: number): GaitSpec =>
  turnedGait(forward, travel, {
    hips: HIPS_RAD * Math.sin(2 * travel),
    waist: WAIST_RAD,
    sideShare: SIDE_SHARE,
    mostOpen: Math.abs(Math.sin(travel)) > 0.1 ? MOST_OPEN : Infinity,
  });

/** The gaits of a walk turned to where it travels against its facing, from direction to direction. */
export function facedGaits({ keys }: GaitTrack, course: Course, faces: Faces): GaitTrack {
  const made: GaitKey[] = [];
  // Counted from the first direction: who keeps it has just that one.
  const first = faces.travel(0);
  let base = keys[0]!,
    bucket = 0;
  const add = (at: number, stretch: number) => made.push({ at, stretch, gait: facedGait(base.gait, first + bucket * APART_RAD) });
  add(0, 0);
  for (let s = LOOK_M; s <= course.length; s += LOOK_M) {
    const own = keys.findLast((k) => k.at <= s) ?? keys[0]!;
    const travel = (faces.travel(s) - first) / APART_RAD;
    const turns = Math.abs(travel - bucket) > LEFT_AT;
    if (!turns && own === base) continue;
    const before = made[made.length - 1]!.at;
    const stretch = own === base ? Math.min(OVER_M, s - before) : own.stretch;
    base = own;
    if (turns) bucket = Math.round(travel);
    add(s, stretch);
  }
  return { over: 'distance', keys: made };
}
