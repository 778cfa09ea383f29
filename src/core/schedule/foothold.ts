import type { Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { smoothstep } from '../math/scalar';

/** How the swing towards a foothold is made; read from the gait once, at the step's time. Lengths in m, angles in rad. */
export interface SwingStyle {
  /** Step-to-step distance of the same foot (m) at which lift and clearance are full. */
  readonly stride: number;
  readonly lift: number;
  readonly liftPeak: number;
  readonly clearance: number;
  /** Speed (m/s) with which the foot drops at its landing. */
  readonly landing: number;
  readonly swingBias: number;
  readonly pitchBias: number;
  readonly swingOut: number;
  readonly roll: number;
}

/** Swing values of one side's gait; `stride` in m. */
export function swingStyle({ feet }: GaitSpec, stride: number): SwingStyle {
  const { lift, liftPeak, clearance, landing, swingBias, pitchBias, swingOut, roll } = feet;
  return { stride, lift, liftPeak, clearance, landing, swingBias, pitchBias, swingOut, roll };
}

/** A speed (m/s) that was asked for beyond the most its gait goes at. */
export interface TooFast {
  readonly asked: number;
  readonly most: number;
}

/**
 * One placing of a foot. Position: the point of the ground under the ankle while the sole is flat, metres; heading in
 * radians about Y; the plane of the ground there rises by slopeX and slopeZ along x and z. Times in seconds, pitches in
 * radians, toes up positive.
 */
export interface Foothold {
  readonly side: Side;
  /** Step of a walk it belongs to, from 1: one step may land both feet, or one foot twice. 0 where nothing counts steps. */
  readonly step: number;
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly heading: number;
  readonly slopeX: number;
  readonly slopeZ: number;
  readonly landing: number;
  readonly leaving: number;
  readonly landingPitch: number;
  readonly leavingPitch: number;
  readonly standingPitch: number;
  /** Time from landing until the sole is flat, and from the heel's leaving until lift-off, s. */
  readonly flatAfter: number;
  readonly riseFor: number;
  /** How far (rad) the toes bend before the foot rolls over their tip. */
  readonly toeBend: number;
  /** Whether the walk rests once it has landed. */
  readonly rests: boolean;
  /** How the foot swings here. */
  readonly swing: SwingStyle;
  /** Where the walk is asked to go faster here than its gait goes. */
  readonly tooFast?: TooFast;
  /** When it is asked to land, s. */
  readonly mark?: number;
}

/** A foot that comes this much (m) higher or lower than another, past the ground's own rise, steps up or down. */
const STEP_RISE_M = 0.13;
const LEAST_RISE_M = 0.02;

/** How much (−1 down … 1 up) one place of a foot is a step up from another, past what the ground under both rises anyway. */
export function stepsUp(from: Pick<Foothold, 'x' | 'y' | 'z' | 'slopeX' | 'slopeZ'>, to: Pick<Foothold, 'x' | 'y' | 'z' | 'slopeX' | 'slopeZ'>): number {
  const own = ((to.slopeX + from.slopeX) * (to.x - from.x) + (to.slopeZ + from.slopeZ) * (to.z - from.z)) / 2;
  const rise = to.y - from.y - own;
  return Math.sign(rise) * smoothstep(LEAST_RISE_M, STEP_RISE_M, Math.abs(rise));
}
