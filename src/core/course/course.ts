import type { Numbers } from '../math/quaternion';

/**
 * A way over the ground by arc length s (m). `at` writes x, z (m), heading (rad about Y, unwrapped) and curvature
 * (rad/m, left positive) into out[o..o+3] and allocates nothing; beyond its ends a course goes straight on.
 */
export interface Course {
  readonly length: number;
  at(s: number, out: Numbers, o: number): void;
}
/** Numbers written by `Course.at`. */
export const COURSE_NUMBERS = 4;

/** A straight course from the origin towards `heading` (rad), endless. */
export function straightCourse(heading = 0): Course {
  const sin = Math.sin(heading),
    cos = Math.cos(heading);
  return {
    length: Infinity,
    at(s, out, o) {
      out[o] = sin * s;
      out[o + 1] = cos * s;
      out[o + 2] = heading;
      out[o + 3] = 0;
    },
  };
}
