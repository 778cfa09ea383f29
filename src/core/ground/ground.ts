import type { Numbers } from '../math/quaternion';
import type { GroundSpec } from './spec';

/** A piece of ground a foot may stand on where the ground is in pieces: its middle, the heading along which it is `length` m long, m. */
export interface FootingPiece {
  readonly kind: 'tread' | 'stone';
  /** Pieces of one flight or row. */
  readonly group: number;
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly heading: number;
  readonly length: number;
  readonly breadth: number;
  /** How far (m) the ground rises from piece to piece along the heading. */
  readonly rise: number;
}

/** What stands on the ground and bounds where feet and bodies may be: its middle, and m along its heading and across it. */
export interface Obstacle {
  readonly shape: 'disc' | 'box';
  readonly x: number;
  readonly z: number;
  readonly heading: number;
  readonly length: number;
  readonly breadth: number;
  readonly height: number;
}

/** The ground the feet meet: heights in metres at the horizontal place (x, z), Y up. Reading it allocates nothing. */
export interface Ground {
  height(x: number, z: number): number;
  /** Unit normal at (x, z) into out[at..at+2]. */
  normal(x: number, z: number, out: Numbers, at: number): void;
  /** Whether a foot may stand at (x, z). */
  footing(x: number, z: number): boolean;
  /** Pieces that steps land on one by one; none where a foot may stand anywhere. */
  readonly pieces?: readonly FootingPiece[];
  /** How far (m) it leaves the plane under a sole without being in pieces: 0 where it is made of planes. */
  readonly rough?: number;
  readonly obstacles?: readonly Obstacle[];
  /** What it was built from, where it is to be told in files. */
  readonly spec?: GroundSpec;
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
