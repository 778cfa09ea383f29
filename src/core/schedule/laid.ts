import type { TooFast } from './foothold';
import type { Mark } from './marks';
import type { GaitMix, StepGait, StepGaits } from './step-gait';

/** One step of a walk, laid out: its leading landing. */
export interface LaidStep {
  /** From 1; 0 for the feet stood on at first. */
  readonly number: number;
  /** Which step of the stride's pattern, counted on. */
  readonly index: number;
  readonly gait: StepGait;
  readonly mix: GaitMix;
  /** Time (s) of a stride of steps like this one. */
  readonly strideTime: number;
  /** By how much (s) the time of this step alone is longer than its stride's share. */
  readonly stretched: number;
  /** So long (s) both feet stay where they are after its landing. */
  readonly paused: number;
  /** Length as a part of a full one. */
  readonly share: number;
  /** Place on the course, m. */
  readonly s: number;
  /** How far (m) to the left of the course the foot itself stands; null: half a step width from it. */
  readonly onto: number | null;
  readonly landing: number;
  readonly phase: number;
  /** Speed (m/s) it would have were the walk not just getting going or coming to rest. */
  readonly pace: number;
  /** How far (0 … 1) the feet go apart as standing feet do. */
  readonly wide: number;
  /** Where it is asked to be faster than its gait goes. */
  readonly tooFast?: TooFast;
  /** The walk rests behind it. */
  readonly rests: boolean;
}

/** Steps between two rests. */
export interface Stretch {
  readonly steps: readonly LaidStep[];
  readonly kind: 'walk' | 'turn';
  /** Place on the course where it begins, m. */
  readonly s: number;
  /** When its first foot leaves, s. */
  readonly from: number;
  /** How long it takes to come to its speed, s; its speed, m/s. */
  readonly gain: number;
  readonly speed: number;
}

/** A walk laid out step by step: made by `layWalk`, read by contacts and paths. */
export interface LaidWalk {
  readonly gaits: StepGaits;
  /** Pattern's index of the first step. */
  readonly first: number;
  readonly stretches: readonly Stretch[];
  /** By how much (m/s) bends slow it. */
  readonly slowed: number;
  /** Pieces of footing that lie too far to be stepped to. */
  readonly farMarks: readonly Mark[];
}

/** A step before its times are known. */
export interface RawStep extends Omit<LaidStep, 'number' | 'landing' | 'phase' | 'rests' | 'share' | 's' | 'onto'> {
  /** Way (m) of a whole step of its gait. */
  readonly full: number;
  share: number;
  s: number;
  onto: number | null;
}

/** Time (s) of a step with all that lengthens it; `before`: the one it follows. */
export const stepTimeOf = (raw: Pick<LaidStep, 'gait' | 'strideTime' | 'stretched'>, before?: Pick<LaidStep, 'paused'>): number =>
  raw.strideTime / raw.gait.steps.length + raw.stretched + (before?.paused ?? 0);
