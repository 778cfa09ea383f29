/** The ground the feet meet. Heights in metres at horizontal position (x, z). */
export interface Ground {
  height(x: number, z: number): number;
}

/** Level ground at height 0. */
export const flatGround: Ground = { height: () => 0 };
