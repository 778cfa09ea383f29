import type { Style } from '../gait/style';
import type { Placement } from '../math/placement';
import { readTrack, type TimeTrack } from './along';
import type { FlightTrack, Interval } from './flight';
import type { Foothold } from './foothold';
import type { PendulumTrack } from './pendulum';

/** Gaining speed in the first part of a stretch between two rests, and losing it in the last one. */
export interface Effort {
  /** When its first foot leaves and when its last one lands, s. */
  readonly from: number;
  readonly to: number;
  /** Mean acceleration in parts of g: the tangent of the lean it asks for. */
  readonly lean: number;
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
  /** Strides walked over time (a left landing is a whole number). */
  readonly strides: TimeTrack;
  /**
   * Per side, ascending in time. Those of a repeating schedule reach from the last one landed by its start to the first one
   * landed after its round; the ones that land inside it come again every round.
   */
  readonly footholds: readonly [readonly Foothold[], readonly Foothold[]];
  /** Travel of the root over the ground, and the shift of the body from it towards the standing foot, m. */
  readonly travel: PendulumTrack;
  readonly sway: PendulumTrack;
  /** Speed (m/s) of the travel as the body above it takes it: smoothed where flights and contacts push by jerks; null: as it is. */
  readonly speed: TimeTrack | null;
  /** Heading of the root, rad. */
  readonly heading: TimeTrack;
  /** Height of the ground the body refers to, m. */
  readonly level: TimeTrack;
  /** Merged times of support, reaching past both ends of a round. */
  readonly support: readonly Interval[];
  readonly flight: FlightTrack;
  /** Styles that are mixed: those of the gaits in full swing, and last the standing one. */
  readonly styles: readonly Style[];
  /** How much each gait has of the full swing, over time; they add up to 1. */
  readonly shares: readonly TimeTrack[];
  /** Speed at which the full styles have all the say, m/s; 0: they always have. */
  readonly fullSpeed: TimeTrack;
  /** Speed (m/s) meant where the walk neither gets going nor comes to rest. */
  readonly pace: TimeTrack;
  /** How the body gains and loses speed between two rests, in order; none in a cycle. */
  readonly efforts: readonly Effort[];
  /** How much of a settling follows each stop, and of a breath the standing. */
  readonly settle: number;
  /** How steeply the body goes up, rad, and the lean (rad, to the left) its bends ask for. */
  readonly climb: TimeTrack;
  readonly bank: TimeTrack;
  /** How far (m, to the left) the travel goes inside its course in bends. */
  readonly cut: TimeTrack;
  /** Share of the full style's swings over time, 0 … 1. */
  readonly amount: TimeTrack;
  /** Directions of travel and of the hips against the facing, rad. */
  readonly travelAngle: TimeTrack;
  readonly hipsAngle: TimeTrack;
}

/** Strides walked at t s. */
export function stridesAt({ strides }: Pick<Schedule, 'strides'>, t: number): number {
  const out = Float64Array.of(t, 0);
  readTrack(strides, out, 0, out, 1);
  return out[1]!;
}
