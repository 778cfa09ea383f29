import { z } from 'zod';
import { PROPORTIONS, type Proportion } from './proportions';

const proportionKeys = Object.keys(PROPORTIONS) as [Proportion, ...Proportion[]];

/**
 * A body as data: stature in metres, mass in kilograms, a build, and any proportion (part of stature) that departs from
 * the table. Girths are factors on the mannequin's average thickness and change its look and mass distribution only.
 */
export const bodySpecSchema = z.strictObject({
  format: z.literal('nimbret.body'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  stature: z.number().min(0.3).max(4),
  mass: z.number().min(1).max(1000),
  build: z.strictObject({
    trunkGirth: z.number().min(0.5).max(2.5),
    limbGirth: z.number().min(0.5).max(2.5),
    headSize: z.number().min(0.5).max(2),
  }),
  proportions: z.partialRecord(z.enum(proportionKeys), z.number().min(0.005).max(0.9)),
});
export type BodySpec = z.infer<typeof bodySpecSchema>;

const average = { trunkGirth: 1, limbGirth: 1, headSize: 1 };

/** An average adult build of the given stature in metres; mass from a body-mass index of 23 kg/m². */
export function bodySpecFromStature(stature: number, name = 'Figure'): BodySpec {
  return { format: 'nimbret.body', version: 1, name, stature, mass: 23 * stature * stature, build: average, proportions: {} };
}

/** The three people of the tidal post: carrier, apprentice, lamplighter. All made up. */
export const SHIPPED_BODIES = {
  marlo: { ...bodySpecFromStature(1.72, 'Marlo Venn'), mass: 68 },
  pip: {
    ...bodySpecFromStature(1.28, 'Pip Orrin'),
    mass: 26,
    build: { trunkGirth: 0.94, limbGirth: 0.92, headSize: 1.24 },
    // A child of that height: bigger head, shorter legs, narrower shoulders than the adult table.
    proportions: { chinHeight: 0.845, shoulderHeight: 0.795, shoulderBreadth: 0.236, thigh: 0.236, shank: 0.236 },
  },
  bosun: {
    ...bodySpecFromStature(1.88, 'Bosun Hale'),
    mass: 118,
    build: { trunkGirth: 1.38, limbGirth: 1.24, headSize: 1.02 },
    proportions: { shoulderBreadth: 0.272, hipJointBreadth: 0.106, footBreadth: 0.06 },
  },
} as const satisfies Record<string, BodySpec>;
export type ShippedBody = keyof typeof SHIPPED_BODIES;
