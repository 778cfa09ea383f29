import { SIDES, type Side } from '../body/roles';
import { wrapPhase } from '../math/scalar';
import { contactPhases } from './contact-phases';
import { landAheadShare, rockerTiming, type RockerTiming } from './rocker-timing';
import type { SidedGait } from './sides';

/** One landing in a stride's pattern: when, how long the foot stands, where it lands against the body, how it rolls. */
export interface Beat {
  readonly side: Side;
  /** Phase of the landing in [0, 1) and time on the ground, parts of the stride. */
  readonly start: number;
  readonly duration: number;
  /** Part of the stance travel for which the foot is ahead of the body. */
  readonly aheadShare: number;
  readonly roll: RockerTiming;
  /** Second landing of a foot that hops within its step. */
  readonly hopped: boolean;
}

/** Sole pitch (rad) of the second landing in a skip: the foot comes down on its ball. */
const HOP_LANDING_RAD = -0.2;
/** Landings closer in phase than this are one: both feet of a hop. */
const SAME_PHASE = 1e-6;

/** All landings of one stride by phase, as the gait's pattern, duties and directions have them. */
export function beatsOf({ gait, sides }: SidedGait): Beat[] {
  const { travel, hips, feet } = gait.direction;
  const angle = travel - hips - feet;
  const T = gait.timing.strideTime;
  const beats = SIDES.flatMap((side) =>
    contactPhases(sides[side], side).map(({ start, duration }, i): Beat => {
      const roll = rockerTiming(sides[side], angle, duration * T);
      const hopped = i > 0;
      return {
        side,
        start: wrapPhase(start),
        duration,
        aheadShare: landAheadShare(sides[side], angle),
        roll: hopped ? { ...roll, landingPitch: Math.min(roll.landingPitch, HOP_LANDING_RAD) } : roll,
        hopped,
      };
    }),
  );
  return beats.sort((a, b) => a.start - b.start || a.side - b.side);
}

/** Beats that make one step: a landing, or both feet's at once, each with the hop that follows on the same foot. */
export type StepBeats = readonly Beat[];

/** The steps of a stride in order: a walk has two, a hop one. `beats` as `beatsOf` gives them. */
export function stepsOf(beats: readonly Beat[]): StepBeats[] {
  const steps: Beat[][] = [];
  for (const beat of beats.filter((b) => !b.hopped)) {
    const last = steps[steps.length - 1];
    if (last && beat.start - last[0]!.start < SAME_PHASE) last.push(beat);
    else steps.push([beat]);
  }
  // A pattern whose first and last landing meet over the seam is one step, too.
  if (steps.length > 1 && steps[0]![0]!.start + 1 - steps[steps.length - 1]![0]!.start < SAME_PHASE) steps[0]!.push(...steps.pop()!);
  for (const beat of beats.filter((b) => b.hopped)) steps.find((s) => s.some((b) => b.side === beat.side))!.push(beat);
  return steps;
}
