import type { Style } from '../gait/style';
import type { Placement } from '../math/placement';
import type { TimeTrack } from './along';
import type { FlightTrack, Interval } from './flight';
import type { Foothold } from './foothold';
import type { PendulumTrack } from './pendulum';

/** Gaining speed in the first part of a walk and losing it in the last one. */
interface Effort {
  /** Mean acceleration in parts of g: the tangent of the lean it asks for. 0: steady. */
  readonly lean: number;
  /** How much of a settling follows the stop, and of a breath the standing. */
  readonly settle: number;
  /** When gaining turns into losing, s, and over how long. */
  readonly turn: number;
  readonly over: number;
}

/**
 * Footholds in time and the travel of the body over them: all that aiming needs to know of where and when. Made by `plan`.
 * A schedule that repeats describes one round, [0, duration); what comes before and after it is the same, moved by `repeat`.
 */
export interface Schedule {
  /** Length in seconds: one stride of a cycle, or the whole walk. */
  readonly duration: number;
  /** What one round adds to where the figure is; null for a walk that starts and ends standing. */
  readonly repeat: Placement | null;
  readonly strideTime: number;
  /** Strides walked at t = 0 (a left landing is a whole number): strides(t) = phaseStart + t / strideTime. */
  readonly phaseStart: number;
  /**
   * Per side, ascending in time. Those of a repeating schedule reach from the last one landed by its start to the first one
   * landed after its round; the ones that land inside it come again every round.
   */
  readonly footholds: readonly [readonly Foothold[], readonly Foothold[]];
  /** Travel of the root over the ground, and the shift of the body from it towards the standing foot, m. */
  readonly travel: PendulumTrack;
  readonly sway: PendulumTrack;
  /** Heading of the root, rad. */
  readonly heading: TimeTrack;
  /** Height of the ground the body refers to, m. */
  readonly level: TimeTrack;
  /** Merged times of support, reaching past both ends of a round. */
  readonly support: readonly Interval[];
  readonly flight: FlightTrack;
  /** Styles that are mixed: in full swing, and standing. */
  readonly styles: readonly [full: Style, standing: Style];
  /** Speed at which the full style has all the say, m/s; 0: it always has. */
  readonly fullSpeed: number;
  /** How the body gains and loses speed at the ends of a walk. */
  readonly effort: Effort;
  /** Share of the full style's swings over time, 0 … 1. */
  readonly amount: TimeTrack;
  /** Directions of travel and of the hips against the facing, rad. */
  readonly travelAngle: number;
  readonly hipsAngle: number;
}
