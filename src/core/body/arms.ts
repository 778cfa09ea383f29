import type { Body } from './body';
import { SHOULDER } from './roles';

/** Where the hand's palm is along the hand, as a part of stature. */
const PALM_SHARE = 0.045;

/** Distance from the wrist to the middle of the palm, m. */
export const palmLength = (body: Body): number => PALM_SHARE * body.spec.stature;

/** Lengths of a body's arm, m. */
export function armLengths(body: Body): { upper: number; fore: number } {
  const { offsets } = body.skeleton;
  const length = (j: number) => Math.hypot(offsets[j * 3]!, offsets[j * 3 + 1]!, offsets[j * 3 + 2]!);
  return { upper: length(SHOULDER[0] + 2), fore: length(SHOULDER[0] + 3) };
}
