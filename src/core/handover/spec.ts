import { z } from 'zod';
import { CARRIERS } from '../clip/carried';

/** Frame rates the hand-over offers. */
export const HANDOVER_RATES = [24, 25, 30, 50, 60, 120] as const;

/** What is to be handed over, as the project remembers it. */
export const handoverSpecSchema = z.strictObject({
  format: z.literal('nimbret.handover'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  /** Frames a second; null: as the motion is played. */
  rate: z.number().min(1).max(240).nullable(),
  inPlace: z.boolean(),
  /** Which joint carries the travel; null: what is usual in the format. */
  carrier: z.enum(CARRIERS).nullable().default(null),
  /** How often a cycle is repeated, pictures each pose is held for, and whether the closing picture is stored. */
  cycles: z.number().int().min(1).max(100).default(1),
  hold: z.number().int().min(1).max(4).default(1),
  closing: z.boolean().default(false),
  formats: z.array(z.enum(['glb', 'bvh'])).max(2),
  /** Whether a contacts file is written beside each BVH. */
  contacts: z.boolean().default(false),
  cycle: z.boolean(),
  plan: z.boolean(),
  /** Clips of the Travel station, by id, and whether they go out on a body of ours instead of their own skeletons. */
  clips: z.array(z.string().max(64)).max(256).default([]),
  clipsOnBody: z.boolean().default(false),
  /** Directions of the set, degrees. */
  directions: z.array(z.number()).max(64),
});
export type HandoverSpec = z.infer<typeof handoverSpecSchema>;

export const defaultHandover = (): HandoverSpec => ({
  format: 'nimbret.handover',
  version: 1,
  name: 'Hand-over',
  rate: null,
  inPlace: false,
  carrier: null,
  cycles: 1,
  hold: 1,
  closing: false,
  formats: ['glb'],
  contacts: false,
  cycle: true,
  plan: true,
  clips: [],
  clipsOnBody: false,
  directions: [0, 45, 90, 135, 180, -135, -90, -45],
});
