import { inOrder, type ClipContact, type ContactManner, type ContactPart } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { toRadians } from '../math/scalar';
import { footSeries } from './foot-series';
import { SHIFT } from './foot-shift';
import { holdFoot, type FootHold } from './hold-foot';
import { staysOf, type Stays } from './stays';

/** Within this (parts of ℓ) of the floor a foot stands on it. */
export const NEAR = 0.04;
/** A foot that turns by more while it stands twists. */
export const TWISTS = toRadians(20);
/** A foot that goes farther (m) from one stand to the next is dragged, one that goes less far shuffles. */
const DRAGS_M = 0.05;

/**
 * Contacts of a clip whose feet shake, with what the foot turns about when, how it stands and how sure that is. The parts are those
 * a lock would hold. `floor` in m, `calm` in Hz. What is slow is told by what is usual `among` all contacts of the clip.
 */
export function recordedParts(
  figure: ClipFigure,
  contacts: readonly ClipContact[],
  { floor, first, calm }: { readonly floor: number; readonly first: number; readonly calm: number },
  among: readonly ClipContact[] = contacts,
): ClipContact[] {
  const { clip, feet, legLength } = figure;
  const shift = new Float64Array(clip.frames * SHIFT);
  const series = new Map(feet.map((foot) => [foot.name, footSeries(clip, foot, first, calm)]));
  const lock = { hold: 'both', blend: 0.2, floor, near: NEAR * legLength } as const;
  const all = staysOf(figure, contacts, first, among);
  return contacts.map((contact, i): ClipContact => {
    const own = series.get(contact.foot)!;
    const whole = ([a, b]: readonly [number, number]) => [Math.max(first, Math.ceil(a - 1e-6)), Math.min(clip.frames - 1, Math.floor(b + 1e-6))] as const;
    const holds = all[i]!.stretches.map(whole).map(([a, b]) => holdFoot(own, a, b, lock, clip.rate, shift));
    return { ...contact, parts: holds.flatMap((h): readonly ContactPart[] => h.parts), manner: mannerOf(all[i]!, holds), sure: all[i]!.sure };
  });
}

/** Contacts, those that are `loose` with the parts their feet show now. */
export function partedAgain(
  figure: ClipFigure,
  contacts: readonly ClipContact[],
  loose: (contact: ClipContact) => boolean,
  how: Parameters<typeof recordedParts>[2],
): ClipContact[] {
  const [still, moving] = [contacts.filter((c) => !loose(c)), contacts.filter(loose)];
  if (moving.length === 0) return [...contacts];
  return inOrder([...still, ...recordedParts(figure, moving, how, contacts)]);
}

function mannerOf({ stretches, dragged }: Stays, holds: readonly FootHold[]): ContactManner {
  if (stretches.length !== 1) return dragged > DRAGS_M || stretches.length === 0 ? 'dragged' : 'shuffles';
  return holds[0]!.turns > TWISTS ? 'twists' : 'stands';
}

/** Stretches of a contact in which its foot stands without a break; the whole of one that tells no parts. */
export function standsOf(contact: ClipContact): ClipContact[] {
  if (!contact.parts) return [contact];
  const stands: ContactPart[][] = [];
  for (const part of contact.parts) {
    const last = stands[stands.length - 1]?.at(-1);
    if (last && part.from <= last.to + 1 + 1e-6) stands[stands.length - 1]!.push(part);
    else stands.push([part]);
  }
  return stands.map((parts) => ({ ...contact, from: parts[0]!.from, to: parts.at(-1)!.to, parts }));
}
