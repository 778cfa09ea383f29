import type { Numbers } from '../math/quaternion';

/** A turn on the spot: the part of a course from `from` to `to` (m of its length) over which place stays and heading turns by `angle`, rad. */
export interface CourseTurn {
  readonly from: number;
  readonly to: number;
  readonly angle: number;
}

/**
 * A way over the ground by arc length s (m). `at` writes x, z (m), heading (rad about Y, unwrapped) and curvature
 * (rad/m, left positive) into out[o..o+3] and allocates nothing; beyond its ends a course goes straight on. A turn on the spot
 * takes TURN_M of length a radian, so that one number tells place and heading alike.
 */
export interface Course {
  readonly length: number;
  /** Turns on the spot, ascending. */
  readonly turns: readonly CourseTurn[];
  at(s: number, out: Numbers, o: number): void;
}
/** Numbers written by `Course.at`. */
export const COURSE_NUMBERS = 4;
/** Length (m) of course that a radian of turning on the spot takes. */
export const TURN_M = 0.5;

/** A straight course from the origin towards `heading` (rad), endless. */
export function straightCourse(heading = 0): Course {
  const sin = Math.sin(heading),
    cos = Math.cos(heading);
  return {
    length: Infinity,
    turns: [],
    at(s, out, o) {
      out[o] = sin * s;
      out[o + 1] = cos * s;
      out[o + 2] = heading;
      out[o + 3] = 0;
    },
  };
}

/** Distance (m) walked over the ground where a course stands at s: turns on the spot cover none. */
export function groundDistance({ turns }: Course, s: number): number {
  let turned = 0;
  for (const { from, to } of turns) turned += Math.min(Math.max(s - from, 0), to - from);
  return s - turned;
}

/** The s at which so much ground has been covered: behind a turn that begins there. */
export function courseAtDistance({ turns }: Course, distance: number): number {
  let s = distance;
  for (const { from, to } of turns) if (s >= from - 1e-9) s += to - from;
  return s;
}
