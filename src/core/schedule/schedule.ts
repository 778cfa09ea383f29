import type { Side } from '../body/roles';
import type { FlightTrack } from './flight';
import type { PendulumTrack } from './pendulum';

/**
 * One placing of a foot. Position: the point of the ground under the ankle while the sole is flat, metres; heading in
 * radians about Y; times in seconds. Pitches in radians, toes up positive.
 */
export interface Foothold {
  readonly side: Side;
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly heading: number;
  readonly landing: number;
  readonly leaving: number;
  readonly landingPitch: number;
  readonly leavingPitch: number;
  readonly standingPitch: number;
  /** Time from landing until the sole is flat, and from the heel's leaving until lift-off, s. */
  readonly flatAfter: number;
  readonly riseFor: number;
}

/**
 * Footholds in time and the travel of the body over them: all that the solver needs to know of where and when. A cycle's
 * schedule is periodic (t wraps at `duration`), a plan's is finite (t is clamped).
 */
export interface Schedule {
  readonly periodic: boolean;
  /** Length in seconds: one stride of a cycle, or the whole plan. */
  readonly duration: number;
  readonly strideTime: number;
  /** Gait phase at t = 0; phase(t) = phaseStart + t / strideTime. */
  readonly phaseStart: number;
  /** Per side, ascending in time, reaching past both ends of the duration. */
  readonly footholds: readonly [readonly Foothold[], readonly Foothold[]];
  /** Travel of the root, m. */
  readonly travelX: PendulumTrack;
  readonly travelZ: PendulumTrack;
  /** Pendulum of the sideways weight shift around the travel, along (swayAxisX, swayAxisZ), m. */
  readonly sway: PendulumTrack;
  readonly swayAxisX: number;
  readonly swayAxisZ: number;
  readonly flight: FlightTrack;
  /** Speed at which the gait's amounts are full, m/s; 0 = always full. */
  readonly fullSpeed: number;
}
