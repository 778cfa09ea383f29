import { z } from 'zod';
import { SIDE_NAMES } from '../body/roles';

/** Fewest and most steps of a straight plan. */
export const STEP_COUNT_RANGE = [2, 200] as const;

/** A straight plan: from standing, so many steps of one gait, to standing with the feet side by side again. */
export const planSpecSchema = z.strictObject({
  format: z.literal('nimbret.plan'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  steps: z.number().int().min(STEP_COUNT_RANGE[0]).max(STEP_COUNT_RANGE[1]),
  firstFoot: z.enum(SIDE_NAMES),
  /** The gait that walks it: a preset's key or a gait's id in the project. */
  gait: z.string().min(1).max(80),
});
export type PlanSpec = z.infer<typeof planSpecSchema>;

export const defaultPlan = (): PlanSpec => ({ format: 'nimbret.plan', version: 1, name: 'Along the causeway', steps: 10, firstFoot: 'left', gait: 'walk' });
