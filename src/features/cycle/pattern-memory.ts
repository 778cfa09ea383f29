import { patternOf, withPattern, type PhasePattern } from '@/core/gait/patterns';
import type { GaitSpec } from '@/core/gait/spec';

/** What a gait's timing was before its limbs took turns in another way, and what that made of it. */
export interface Remembered {
  readonly before: GaitSpec;
  readonly made: string;
}

const DUTY = 'timing.dutyFactor';
/** All that a pattern changes, as text. */
const timingKey = ({ timing, right, legLength }: GaitSpec): string => JSON.stringify([timing, right[DUTY] ?? null, legLength]);

/** A gait with the timing of another; all else as it is. */
function withTimingOf(gait: GaitSpec, { timing, right }: GaitSpec): GaitSpec {
  const others = { ...gait.right };
  delete others[DUTY];
  return { ...gait, timing: { ...timing }, right: DUTY in right ? { ...others, [DUTY]: right[DUTY]! } : others };
}

/**
 * Lets the limbs take turns in another way. As long as nothing else changes the timing, each pattern starts from what was there
 * before the first of them, so that hop, gallop, skip and back to "in turn" gives the walk one had.
 */
export function changePattern(gait: GaitSpec, pattern: PhasePattern, remembered: Remembered | undefined): { gait: GaitSpec; remembered: Remembered } {
  const before = remembered && remembered.made === timingKey(gait) ? withTimingOf(gait, remembered.before) : gait;
  const next = patternOf(before)?.key === pattern.key ? before : withPattern(before, pattern);
  return { gait: next, remembered: { before, made: timingKey(next) } };
}
