import { z } from 'zod';
import { CARRIERS } from '../clip/carried';

/** Frame rates the hand-over offers. */
export const HANDOVER_RATES = [24, 25, 30, 50, 60, 120] as const;

/** Stands for the gait, or the walk, that is being worked on. */
export const IN_USE = 'in-use';

const ids = z.array(z.string().min(1).max(64)).max(512);

const currentSchema = z.strictObject({
  format: z.literal('nimbret.handover'),
  version: z.literal(2),
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
  /** Cycles of these gaits, these walks and these clips of the Travel station, by id or IN_USE. */
  gaits: ids,
  walks: ids,
  clips: ids.default([]),
  /** Whether clips go out on a body of ours instead of their own skeletons. */
  clipsOnBody: z.boolean().default(false),
  /** Members of the set. */
  members: z.array(z.strictObject({ directionDeg: z.number(), twin: z.boolean() })).max(128),
});
export type HandoverSpec = z.infer<typeof currentSchema>;

/** A hand-over of version 1 chose the gait and the walk in use, and directions without their twins. */
function upgradeHandover(input: unknown): unknown {
  if (typeof input !== 'object' || input === null || (input as { version?: unknown }).version !== 1) return input;
  const { cycle, plan, directions, ...rest } = input as Record<string, unknown>;
  const used = (chosen: unknown) => (chosen === true ? [IN_USE] : chosen === false ? [] : chosen);
  const members = Array.isArray(directions) ? directions.map((directionDeg: unknown) => ({ directionDeg, twin: false })) : directions;
  return { ...rest, version: 2, gaits: used(cycle), walks: used(plan), members };
}

/** What is to be handed over, as the project remembers it. */
export const handoverSpecSchema = z.preprocess(upgradeHandover, currentSchema) as unknown as z.ZodType<HandoverSpec>;

/** The same with the ids it chooses taken through `moved`. */
export const withChosen = (spec: HandoverSpec, moved: (id: string) => string): HandoverSpec => ({
  ...spec,
  gaits: spec.gaits.map(moved),
  walks: spec.walks.map(moved),
  clips: spec.clips.map(moved),
});

export const defaultHandover = (): HandoverSpec => ({
  format: 'nimbret.handover',
  version: 2,
  name: 'Hand-over',
  rate: null,
  inPlace: false,
  carrier: null,
  cycles: 1,
  hold: 1,
  closing: false,
  formats: ['glb'],
  contacts: false,
  gaits: [IN_USE],
  walks: [IN_USE],
  clips: [],
  clipsOnBody: false,
  members: [0, 45, 90, 135, 180, -135, -90, -45].map((directionDeg) => ({ directionDeg, twin: false })),
});
