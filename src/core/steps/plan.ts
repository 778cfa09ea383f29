import { z } from 'zod';
import { SIDE_NAMES } from '../body/roles';

/** Fewest and most steps of a straight plan. */
export const STEP_COUNT_RANGE = [2, 200] as const;

/** How a plan's ends are played. */
export const ENDS_RANGES = {
  /** Lean into gaining and against losing speed, parts of what balance asks for. */
  lean: [0, 1.5],
  /** Settling after the stop, parts of the common one; at 0 the standing figure does not even breathe. */
  settle: [0, 2],
  /** Standing before the first lift-off and after the last landing, parts of the shortest. */
  standing: [1, 3],
} as const;

/** A straight plan: from standing, so many steps of one gait, to standing with the feet side by side again. */
export const planSpecSchema = z.strictObject({
  format: z.literal('nimbret.plan'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  steps: z.number().int().min(STEP_COUNT_RANGE[0]).max(STEP_COUNT_RANGE[1]),
  firstFoot: z.enum(SIDE_NAMES),
  /** The gait that walks it: a preset's key or a gait's id in the project. */
  gait: z.string().min(1).max(80),
  lean: z.number().min(ENDS_RANGES.lean[0]).max(ENDS_RANGES.lean[1]).default(1),
  settle: z.number().min(ENDS_RANGES.settle[0]).max(ENDS_RANGES.settle[1]).default(1),
  standing: z.number().min(ENDS_RANGES.standing[0]).max(ENDS_RANGES.standing[1]).default(1),
});
export type PlanSpec = z.infer<typeof planSpecSchema>;

export const defaultPlan = (): PlanSpec => ({
  format: 'nimbret.plan',
  version: 1,
  name: 'Along the causeway',
  steps: 10,
  firstFoot: 'left',
  gait: 'walk',
  lean: 1,
  settle: 1,
  standing: 1,
});
