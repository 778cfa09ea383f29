/**
 * What the height of the hips is found from: even samples over a span of time. Heights in m against one level.
 */
export interface HipsSamples {
  /** Time of the first sample and step between samples, s; in a ring the samples close after `count` steps. */
  readonly start: number;
  readonly step: number;
  readonly count: number;
  /** Styled wish, m. */
  readonly wish: Float64Array;
  /** Least bend (rad) the style allows. */
  readonly straightest: Float64Array;
  /** Per side: squared horizontal distance (m²) from ankle to hip joint, and height of the hips at which the two are level; NaN while the foot does not stand. */
  readonly square: readonly [Float64Array, Float64Array];
  readonly base: readonly [Float64Array, Float64Array];
  /** How much (0 … 1) each foot's stance counts there: a foot comes in and goes out over one step. */
  readonly weight: readonly [Float64Array, Float64Array];
  /** First and last moments of stances. */
  readonly edges: readonly StanceEdge[];
  /** Flights; their ends are breaks of the basis, and so are the even places between them at which they say the acceleration. */
  readonly flights: readonly Flight[];
  readonly gravity: number;
  /** Whether a ring closes with left and right in each other's place: half a stride of a gait whose steps mirror each other. */
  readonly swaps: boolean;
  /** Whether the figure stands still at the first and at the last break. */
  readonly still: readonly [boolean, boolean];
  /** Lowest height worth going down to, m. */
  readonly floor: number;
}

/** A flight (s) and the hips' acceleration (m/s²) at two or more even places of it, both ends included. */
export interface Flight {
  readonly from: number;
  readonly to: number;
  readonly pushes: Float64Array;
}

/** One end of a stance, and the moment EDGE_STEP_S inside it. */
export interface StanceEdge {
  readonly side: 0 | 1;
  readonly landing: boolean;
  readonly time: number;
  readonly square: readonly [number, number];
  readonly base: readonly [number, number];
  readonly straightest: number;
}

/** Time (s) between the two moments of an edge. */
export const EDGE_STEP_S = 2e-3;
