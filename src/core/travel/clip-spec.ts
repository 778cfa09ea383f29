import { z } from 'zod';
import { ROLES } from '../body/roles';
import { UPS } from '../clip/in-world';
import { layerSchema } from './layer-spec';
import { defaultTravel, editSpecSchema, noEdits, noRepair, repairSpecSchema, travelSpecSchema } from './spec';

/** A clip brought into a project: the file it is from, what was said of it, and what is to be done about it. */
export const clipSpecSchema = z.strictObject({
  format: z.literal('nimbret.clip'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(80),
  file: z.strictObject({
    /** SHA-256 of the file as it came, hex. */
    hash: z.string().regex(/^[0-9a-f]{64}$/),
    name: z.string().min(1).max(255),
    bytes: z.number().int().min(1).max(1e9),
    /** Which of its animations. */
    index: z.number().int().min(0).max(255),
    /** Tells files of one skeleton: what was said of one of them is said of all. */
    skeleton: z.string().max(64),
  }),
  said: z.strictObject({
    unit: z.number().min(1e-6).max(1000).nullable(),
    up: z.enum(UPS).nullable(),
    /** Degrees, left positive. */
    heading: z.number().min(-360).max(360),
    /** Joints given roles by hand, by their place in the file; −1 for none. */
    roles: z.partialRecord(z.enum(ROLES), z.number().int().min(-1).max(1023)),
  }),
  repair: repairSpecSchema.default(noRepair),
  edits: editSpecSchema.default(noEdits),
  travel: travelSpecSchema,
  /** Corrections, the first one at the bottom; those baked lie under them and are told no more. */
  layers: z.array(layerSchema).max(64).default([]),
  baked: z.array(layerSchema).max(256).default([]),
});
export type ClipSpec = z.infer<typeof clipSpecSchema>;

/** A clip just brought in: nothing said, nothing done. */
export const newClipSpec = (name: string, file: ClipSpec['file']): ClipSpec => ({
  format: 'nimbret.clip',
  version: 1,
  name: name.trim().slice(0, 80) || 'Clip',
  file,
  said: { unit: null, up: null, heading: 0, roles: {} },
  repair: noRepair(),
  edits: noEdits(),
  travel: defaultTravel(),
  layers: [],
  baked: [],
});
