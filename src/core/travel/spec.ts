import { z } from 'zod';
import { AXES, HOLDS, TRAVEL_KINDS } from './names';

/** A contact as a person sets it: frames of the clip, both ends inside. */
const contactSchema = z.strictObject({ foot: z.enum(['left', 'right']), from: z.number().min(-1e6).max(1e6), to: z.number().min(-1e6).max(1e6) });

/** What is to be done about a clip's travel and its feet; JSON-able. */
export const travelSpecSchema = z.strictObject({
  kind: z.enum(TRAVEL_KINDS),
  axes: z.strictObject(Object.fromEntries(AXES.map((a) => [a, z.boolean()])) as Record<(typeof AXES)[number], z.ZodBoolean>),
  /** Hz up to which a smoothed travel follows. */
  smoothHz: z.number().min(0.05).max(20),
  /** A distance (m) typed for the whole clip or round, instead of the one found; null where none is. */
  distance: z.number().min(-10_000).max(10_000).nullable(),
  /** Contacts set by hand; null where those found count. */
  contacts: z.array(contactSchema).max(20_000).nullable(),
  lock: z
    .strictObject({
      hold: z.enum(HOLDS),
      /** s, and part of the leg's length. */
      blend: z.number().min(0.02).max(1),
      reach: z.number().min(0.8).max(1),
    })
    .nullable(),
});
export type TravelSpec = z.infer<typeof travelSpecSchema>;

export const defaultTravel = (): TravelSpec => ({
  kind: 'asIs',
  axes: { forward: true, sideways: true, height: true, turn: true },
  smoothHz: 0.5,
  distance: null,
  contacts: null,
  lock: null,
});

/** What is done to a clip's pictures, in this order. */
export const editSpecSchema = z.strictObject({
  /** First and last frame that are kept, of the file; null for all. */
  trim: z.strictObject({ from: z.number().int().min(0).max(1e6), to: z.number().int().min(0).max(1e6) }).nullable(),
  /** A loop cut out of the file: up to and without `to`; its seam is closed over `span` seconds on either side. */
  loop: z.strictObject({ from: z.number().int().min(0).max(1e6), to: z.number().int().min(0).max(1e6), span: z.number().min(0).max(5) }).nullable(),
  mirror: z.boolean(),
  reverse: z.boolean(),
  /** So many times as fast. */
  speed: z.number().min(0.05).max(20),
  /** Rounds of a loop that are written one after the other. */
  repeat: z.number().int().min(1).max(200),
  /** Pictures each pose is held for. */
  hold: z.number().int().min(1).max(4),
});
export type EditSpec = z.infer<typeof editSpecSchema>;

export const noEdits = (): EditSpec => ({ trim: null, loop: null, mirror: false, reverse: false, speed: 1, repeat: 1, hold: 1 });

/** What is mended in a recording before anything else. */
export const repairSpecSchema = z.strictObject({
  /** A rest pose before the motion is cut off. */
  restPose: z.boolean(),
  /** Joints that jump away and back for up to three pictures. */
  spikes: z.boolean(),
  /** Hz from which on shaking is taken out; null where none is. */
  jitterHz: z.number().min(0.5).max(60).nullable(),
  /** A floor that is tilted is made level, one that is not at height 0 brought there. */
  tilt: z.boolean(),
  floor: z.boolean(),
});
export type RepairSpec = z.infer<typeof repairSpecSchema>;

export const noRepair = (): RepairSpec => ({ restPose: false, spikes: false, jitterHz: null, tilt: false, floor: false });

export const defaultLock = (): NonNullable<TravelSpec['lock']> => ({ hold: 'both', blend: 0.2, reach: 0.995 });
