import { z } from 'zod';
import { ownFeet } from '../../body/foot-model';
import type { Body } from '../../body/body';
import type { Clip, ClipContact } from '../../clip/clip';
import { onDeck } from '../../clip/deck';
import { buildGround } from '../../ground/build';
import { toDegrees, toRadians } from '../../math/scalar';
import type { GroundSpec } from '../../ground/spec';
import { FormatFault, READ_LIMITS } from '../limits';
import { createExactParts } from '../../travel/contact-parts';

const frame = z.number().min(-1e6).max(1e7);
const seconds = z.number().min(-1e5).max(1e6);

/** A contact as a file tells it: in a GLB's extras and in a contacts file alike. */
export const toldContactSchema = z.object({
  foot: z.enum(['left', 'right']),
  /** Seconds from the clip's start; a loop's last contact may end after it. */
  landing: seconds,
  leaving: seconds,
  /** What the foot turns about when, frames, both ends inside. */
  parts: z
    .array(z.object({ part: z.enum(['heel', 'flat', 'ball', 'tip']), from: frame, to: frame }))
    .max(10_000)
    .optional(),
  manner: z.enum(['stands', 'shuffles', 'twists', 'dragged']).optional(),
  /** 0 to 1: 1 where its pivots stand exactly. */
  sure: z.number().min(0).max(1).optional(),
});
export type ToldContact = z.infer<typeof toldContactSchema>;

const vector = z.tuple([z.number().min(-10).max(10), z.number().min(-10).max(10), z.number().min(-10).max(10)]);

/** How far a floor that moves has gone by each frame, and how far it has turned by then. */
export const floorShape = {
  /** x and z (m) of each frame, one after the other. */
  floor: z
    .array(z.number().min(-READ_LIMITS.metres).max(READ_LIMITS.metres))
    .min(2)
    .max(2 * READ_LIMITS.frames)
    .optional(),
  /** Degrees about the world's Y, left positive, where it turns: what walks along a bend and is in place turns its floor. */
  floorTurn: z.array(z.number().min(-1e6).max(1e6)).min(1).max(READ_LIMITS.frames).optional(),
};
type ToldFloor = z.infer<z.ZodObject<typeof floorShape>>;

/** Contacts beside a BVH, which has no place for them; each as a GLB's extras tell it. They are checked when read, not trusted. */
export const contactsFileSchema = z.strictObject({
  format: z.literal('nimbret.contacts'),
  version: z.literal(1),
  clip: z.string().max(1000),
  rate: z.number().positive().max(READ_LIMITS.rate),
  frames: z.number().int().positive().max(READ_LIMITS.frames),
  contacts: z.array(toldContactSchema).max(100_000),
  ...floorShape,
  /** The soles they were found on: heel in the ankle's frame, ball and tip in the toes', and the way up where the sole lies flat, m. */
  soles: z
    .array(z.strictObject({ foot: z.enum(['left', 'right']), heel: vector, ball: vector, tip: vector, up: vector, toesUp: vector }))
    .max(2)
    .optional(),
});
export type ContactsFile = z.infer<typeof contactsFileSchema>;

const round = (v: number): number => Math.round(v * 1e6) / 1e6;

/** The way of a floor that moves as a file tells it, to a micrometre and a millionth of a degree. */
export function tellFloor({ deck, frames }: Pick<Clip, 'deck' | 'frames'>): ToldFloor {
  if (!deck) return {};
  const each = Array.from({ length: frames }, (_, f) => f * 4);
  const turns = each.map((at) => round(toDegrees(deck[at + 3]!)));
  return {
    floor: each.flatMap((at) => [round(deck[at]!), round(deck[at + 2]!)]),
    ...(turns.some((t) => t !== 0) ? { floorTurn: turns } : {}),
  };
}

/** Whether a floor that is told has a place for each frame. */
export const floorFits = ({ floor, floorTurn }: ToldFloor, frames: number): boolean =>
  floor?.length === frames * 2 && (floorTurn === undefined || floorTurn.length === frames);

/** The way of a floor as it is told of a clip. Throws FormatFault where it has not a place for each frame. */
export function heardFloor(told: ToldFloor, frames: number, where: string): { deck?: Float64Array } {
  const { floor, floorTurn } = told;
  if (!floor) return {};
  if (floor.length !== frames * 2) throw new FormatFault(`its floor has ${floor.length / 2} places for ${frames} frames`, where);
  if (!floorFits(told, frames)) throw new FormatFault(`its floor has ${floorTurn!.length} turns for ${frames} frames`, where);
  const deck = new Float64Array(frames * 4);
  for (let f = 0; f < frames; f++) deck.set([floor[f * 2]!, 0, floor[f * 2 + 1]!, toRadians(floorTurn?.[f] ?? 0)], f * 4);
  return { deck };
}

/** Contacts of a clip of one of our bodies as a file tells them; those that stand exactly with the parts their soles show. */
export function toldOf(source: Clip, body: Body, ground: GroundSpec | null): ToldContact[] {
  const clip = onDeck(source);
  const over = ground ? buildGround(ground) : null;
  const exact = new Map(ownFeet(body).map((foot) => [foot.name, createExactParts(clip, foot, over)]));
  return (clip.contacts ?? []).map((c) => tell({ ...c, parts: c.parts ?? exact.get(c.foot)!(c) }, clip.rate));
}

/** A contact as a file tells it. */
export const tell = (c: ClipContact, rate: number): ToldContact => ({
  foot: c.foot,
  landing: c.from / rate,
  leaving: c.to / rate,
  manner: c.manner ?? 'stands',
  sure: c.sure ?? 1,
  ...(c.parts ? { parts: c.parts.map((p) => ({ part: p.part, from: round(p.from), to: round(p.to) })) } : {}),
});

/** Contacts that a file tells, in frames of its clip. */
export const heard = (told: readonly ToldContact[], rate: number): ClipContact[] =>
  told.map(({ foot, landing, leaving, parts, manner, sure }) => ({
    foot,
    from: landing * rate,
    to: leaving * rate,
    ...(parts ? { parts } : {}),
    ...(manner ? { manner } : {}),
    ...(sure === undefined ? {} : { sure }),
  }));
