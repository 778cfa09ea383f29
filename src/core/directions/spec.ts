import { z } from 'zod';
import { toRadians } from '../math/scalar';

/** How sideways members step: with the hips turned towards the travel, or square to the facing, feet opening and closing. */
export const STEPPINGS = ['turned', 'side'] as const;

/** Furthest twist (rad) of the pelvis against the chest; people manage 35–45° (from memory). */
export const WAIST_RANGE = [0, toRadians(45)] as const;
const DEFAULT_WAIST_RAD = toRadians(40);

/** A directional set: so many directions of one gait, evenly round, forward first, left positive. */
export const setSpecSchema = z.strictObject({
  format: z.literal('nimbret.set'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  /** The gait that goes forward: a preset's key or a gait's id in the project. */
  gait: z.string().min(1).max(80),
  directions: z.number().int().min(2).max(32),
  /** Sideways and diagonal stride as a part of the forward one. */
  sideShare: z.number().min(0.2).max(1),
  /** Also make the twins with the hips turned the other way. */
  twins: z.boolean(),
  stepping: z.enum(STEPPINGS).default('turned'),
  /** The waist turns no further than this (rad): past it the chest goes with the hips. */
  waist: z.number().min(WAIST_RANGE[0]).max(WAIST_RANGE[1]).default(DEFAULT_WAIST_RAD),
});
export type SetSpec = z.infer<typeof setSpecSchema>;

export const defaultSet = (): SetSpec => ({
  format: 'nimbret.set',
  version: 1,
  name: 'All ways',
  gait: 'walk',
  directions: 8,
  sideShare: 0.8,
  twins: false,
  stepping: 'turned',
  waist: DEFAULT_WAIST_RAD,
});
