import { distanceTo } from '../ground/build';
import { toDegrees, wrapAngle } from '../math/scalar';
import type { Ground } from '../ground/ground';
import { buildCourse } from './build';
import { COURSE_NUMBERS } from './course';
import { fewerPoints } from './find-way';
import type { CoursePoint } from './rope';
import type { CourseSpec } from './spec';

/** How closely a course keeps to its way, the rougher the better, m; and how finely it is looked at, m. */
const CLOSENESS_M = [0.25, 0.1, 0.04, 0, -1];
const LOOK_M = 0.1;
/** Part of a body's room that a smoothed way may take back. */
const ROOM_SHARE = 0.85;

/** A way found, smoothed into a course of few knots that still keeps clear: as few as do. */
export function courseOfWay(points: readonly CoursePoint[], ground: Ground, radius: number): CourseSpec {
  const at = new Array<number>(COURSE_NUMBERS).fill(0);
  let spec: CourseSpec | null = null;
  for (const within of CLOSENESS_M) {
    // Closest of all with a knot between every two places, so that the rope hardly leaves the straight line.
    const kept = within < 0 ? withMiddles(points) : fewerPoints(points, within);
    spec = { knots: kept.map((p) => ({ x: p.x, z: p.z, by: 'smooth' as const })) };
    const course = buildCourse(spec, 0.5);
    let clear = true;
    for (let s = 0; clear && s <= course.length; s += LOOK_M) {
      course.at(s, at, 0);
      clear = (ground.obstacles ?? []).every((o) => distanceTo(o, at[0]!, at[1]!) >= ROOM_SHARE * radius);
    }
    if (clear) return spec;
  }
  return spec!;
}

/** Less than this (degrees) is no turn. */
const LEAST_TURN_DEG = 2;

/** The same course, with a turn on the spot at its end to where the figure is to face, rad. */
export function facingAtEnd(spec: CourseSpec, heading: number): CourseSpec {
  const course = buildCourse({ ...spec, knots: spec.knots.map((k, i) => (i === spec.knots.length - 1 ? { ...k, turnDeg: 0 } : k)) }, 0.5);
  const at = new Array<number>(COURSE_NUMBERS).fill(0);
  course.at(course.length, at, 0);
  const turnDeg = Math.round(toDegrees(wrapAngle(heading - at[2]!)));
  return Math.abs(turnDeg) < LEAST_TURN_DEG ? spec : { knots: spec.knots.map((k, i) => (i === spec.knots.length - 1 ? { ...k, turnDeg } : k)) };
}

const withMiddles = (points: readonly CoursePoint[]): CoursePoint[] =>
  points.flatMap((p, i) => {
    const next = points[i + 1];
    return next ? [p, { x: (p.x + next.x) / 2, z: (p.z + next.z) / 2 }] : [p];
  });
