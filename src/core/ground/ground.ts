import type { Numbers } from '../math/quaternion';

/** The ground the feet meet: heights in metres at the horizontal place (x, z), Y up. Reading it allocates nothing. */
export interface Ground {
  height(x: number, z: number): number;
  /** Unit normal at (x, z) into out[at..at+2]. */
  normal(x: number, z: number, out: Numbers, at: number): void;
  /** Whether a foot may stand at (x, z). */
  footing(x: number, z: number): boolean;
}

/** Level ground at height 0. */
export const levelGround: Ground = {
  height: () => 0,
  normal: (_x, _z, out, at) => {
    out[at] = out[at + 2] = 0;
    out[at + 1] = 1;
  },
  footing: () => true,
};
