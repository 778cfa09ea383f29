import type { ClipContact, ContactPart } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { createExactParts } from './contact-parts';
import { ANGLES, type FootSeries } from './foot-series';
import { TWISTS } from './recorded-parts';
import { measureSlide } from './slide';
import { TRACE_MARGIN, traceSoles } from './trace';

/** Less slide (mm) at frames is none, and a sole that stands so far (m) from the floor stands on it. */
const EXACT_MM = 0.05;
const ON_FLOOR_M = 1e-4;

/**
 * Contacts of a made clip in which a foot stands exactly already, on the floor, with what it turns about: a lock has nothing to do
 * there. Those in which it twists may be asked to keep their heading, and are none.
 */
export function standingExactly(
  { clip, feet }: ClipFigure,
  contacts: readonly ClipContact[],
  series: ReadonlyMap<string, FootSeries>,
  floor: number,
): ReadonlyMap<ClipContact, readonly ContactPart[]> {
  const trace = traceSoles(clip, feet);
  const exact = new Map(feet.map((foot) => [foot.name, createExactParts(clip, foot, null)]));
  const found = new Map<ClipContact, readonly ContactPart[]>();
  const parted = contacts.map((contact) => ({ contact, parts: contact.parts ?? exact.get(contact.foot)!(contact) }));
  const slides = measureSlide(
    trace,
    parted.map(({ contact, parts }) => ({ ...contact, parts })),
  );
  parted.forEach(({ contact, parts }, i) => {
    const [from, to] = [Math.ceil(contact.from - 1e-6), Math.floor(contact.to + 1e-6)];
    const { lowest } = trace.soles.find((s) => s.foot.name === contact.foot)!;
    const { angles } = series.get(contact.foot)!;
    const whole = parts.length > 0 && parts[0]!.from <= from + 1 && parts.at(-1)!.to >= to - 1;
    let [least, most, off] = [Infinity, -Infinity, 0];
    for (let f = Math.max(0, from); f <= Math.min(clip.frames - 1, to); f++) {
      least = Math.min(least, angles[f * ANGLES]!);
      most = Math.max(most, angles[f * ANGLES]!);
      off = Math.max(off, Math.abs(lowest[f + TRACE_MARGIN]! - floor));
    }
    if (whole && slides[i]!.atFramesMm < EXACT_MM && off < ON_FLOOR_M && most - least < TWISTS) found.set(contact, parts);
  });
  return found;
}
