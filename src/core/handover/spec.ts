import { z } from 'zod';

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
  /** How often a cycle is repeated, pictures each pose is held for, and whether the closing picture is stored. */
  cycles: z.number().int().min(1).max(100).default(1),
  hold: z.number().int().min(1).max(4).default(1),
  closing: z.boolean().default(false),
  formats: z.array(z.enum(['glb', 'bvh'])).max(2),
  cycle: z.boolean(),
  plan: z.boolean(),
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
  cycles: 1,
  hold: 1,
  closing: false,
  formats: ['glb'],
  cycle: true,
  plan: true,
  directions: [0, 45, 90, 135, 180, -135, -90, -45],
});
