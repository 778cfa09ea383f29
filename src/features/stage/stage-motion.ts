import type { Body } from '@/core/body/body';
import type { GaitSpec } from '@/core/gait/spec';
import type { Motion } from '@/core/motion/motion';
import type { Shown } from '@/core/motion/laid';
import { build, type MotionSpec, type ProjectPart } from '@/core/project/motion-spec';
import type { PrintFault } from '@/core/steps/faults';
import type { OwnFigure } from '../travel/own-figure';
import type { ClipOnStage } from '../travel/use-clip';
import type { Session } from './session';

/** The motion on the walkway: what the figure does at the current station. */
export interface StageMotion {
  readonly body: Body;
  /** The gait as it is walked. */
  readonly gait: GaitSpec;
  /** Prepared as it is played. */
  readonly source: Motion;
  /** True for cycles: the motion goes on for ever. */
  readonly endless: boolean;
  readonly duration: number;
  /** What the worker needs to make the same motion. */
  readonly spec: MotionSpec;
  readonly part: ProjectPart;
  /** Others at the same time, on the same ground: another walk, or what a clip is held against. */
  readonly beside: readonly Shown[];
  /** Why what was asked for cannot be walked, in words; then something plain is shown. */
  readonly trouble: string | null;
  /** What is wrong with the prints of a walk. */
  readonly faults: readonly PrintFault[];
  /** Whether it is planned in full; not while it is being changed. Nothing is measured before. */
  readonly settled: boolean;
  /** Whether it only stands in for a walk that is not there yet. */
  readonly arriving: boolean;
  /** Who leads it, where nothing of it is laid out beforehand. */
  readonly led: Session['led'];
  /** A clip's own skeleton as it moves, and the skins that hang on it. */
  readonly own: OwnFigure | null;
  /** The clip it is, where it was brought in. */
  readonly clip: ClipOnStage | null;
}

export const NONE: readonly Shown[] = [];

/** All that a motion on the walkway has besides its own. */
export const plainStage = (spec: MotionSpec, part: ProjectPart) =>
  ({
    endless: false,
    spec,
    part,
    beside: NONE,
    trouble: null,
    faults: [],
    settled: true,
    arriving: false,
    led: null,
    own: null,
    clip: null,
  }) satisfies Partial<StageMotion>;

/** A spec built for the walkway; nothing is solved before a picture asks for it. */
export function stageMotion(spec: MotionSpec, part: ProjectPart): StageMotion {
  const { motion, body, gait } = build(spec, part);
  return { ...plainStage(spec, part), body, gait, source: motion, endless: motion.repeat !== null, duration: motion.duration };
}
