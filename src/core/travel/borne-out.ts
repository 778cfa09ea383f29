import type { FootModel } from '../body/foot-model';
import type { Clip, ClipContact, PivotPart } from '../clip/clip';
import { createExactParts } from './contact-parts';
import { pointMoves, TRACE_MARGIN, type ClipTrace, type SoleTrace } from './trace';

/**
 * A foot is seen to stand by how low and slow it is: one that leaves slowly is seen to stand so long (s) more than it is told to,
 * one that a cut lets leave at once for a moment; on level ground one that comes softly is seen so long less.
 */
const SEEN_MORE_S = 0.21;
const SEEN_LESS_S = 0.13;

/**
 * Whether contacts that a clip tells are those that are seen in it, each end about there. `hold`: pictures each pose is held for;
 * `level`: whether the ground is.
 */
export function borneOut({ rate, loop, frames }: Clip, told: readonly ClipContact[], seen: readonly ClipContact[], hold: number, level: boolean): boolean {
  const pictures = 1.5 * hold;
  const less = level ? Math.max(pictures, SEEN_LESS_S * rate) : pictures;
  const more = Math.max(pictures, SEEN_MORE_S * rate);
  const past = (a: number, b: number) => (loop ? a - b - Math.round((a - b) / frames) * frames : a - b);
  const same = (c: ClipContact, s: ClipContact) => {
    const [before, after] = [past(c.from, s.from), past(s.to, c.to)];
    return c.foot === s.foot && before >= -less && before <= more && after >= -less && after <= more;
  };
  const brief = (c: ClipContact, most: number) => c.to - c.from < most;
  return (
    told.every((c) => brief(c, pictures) || seen.filter((s) => same(c, s)).length === 1) &&
    seen.every((s) => brief(s, more) || told.filter((c) => same(c, s)).length === 1)
  );
}

/** A pivot that is told is still (m from a picture to the next), or no higher than so much over the lowest point of its sole, but in so small a part of its pictures. */
const STILL_M = 1e-4;
const LOWEST_M = 0.004;
const BUT = 0.05;
const POINT: Readonly<Record<PivotPart, number>> = { heel: 0, flat: 1, ball: 1, tip: 2 };

/**
 * Contacts that a clip tells, each with its parts where it is told to stand exactly and its sole bears that out (what is told to
 * bear is lowest); with those that its soles show otherwise.
 */
export function withCheckedParts(trace: ClipTrace, feet: readonly FootModel[], told: readonly ClipContact[]): readonly ClipContact[] {
  if (told.every((c) => !c.parts || standsAsTold(trace, c))) return told;
  const exact = new Map(feet.map((foot) => [foot.name, createExactParts(trace.clip, foot, trace.ground)]));
  return told.map((c) => (standsAsTold(trace, c) ? c : { ...c, parts: exact.get(c.foot)!(c) }));
}

/** Whether a contact is told to stand exactly, with parts that its sole bears out. */
const standsAsTold = (trace: ClipTrace, c: ClipContact): boolean => c.sure === 1 && bornByParts(trace, c);

/** Whether a contact tells parts, which its sole bears out; of one that is dragged all through there are none. */
export function bornByParts({ clip, soles }: ClipTrace, c: ClipContact): boolean {
  return (
    c.parts !== undefined &&
    bears(
      clip,
      soles.find((s) => s.foot.name === c.foot)!,
      c,
    )
  );
}

function bears({ frames, loop }: Clip, sole: SoleTrace, { parts, from, to }: ClipContact): boolean {
  const { heights, lowest } = sole;
  let [all, high, last] = [0, 0, -Infinity];
  for (const part of parts!) {
    if (part.from > part.to || part.from < from - 1 || part.to > to + 1 || part.from < last - 1e-6) return false;
    last = part.to;
    for (let f = Math.ceil(part.from - 1e-6); f <= part.to; f++) {
      const own = loop ? ((f % frames) + frames) % frames : f;
      if (own < 0 || own >= frames) continue;
      const i = own + TRACE_MARGIN;
      all++;
      const still = f + 1 > part.to || pointMoves(sole, own, POINT[part.part]) < STILL_M;
      if (!still && heights[3 * i + POINT[part.part]]! > lowest[i]! + LOWEST_M) high++;
    }
  }
  return high <= BUT * all;
}

/** Of a contact that is told to stand exactly so much of its pivots' pictures must be still; of one that is seen so much must be told. */
const STILL_SHARE = 0.95;
const TOLD_SHARE = 0.5;
/** So many pictures in which a foot is still may be told of none: the turning points of a slow swing. */
const MOST_UNTOLD = 2;

/** Contacts a made clip tells, each with the parts in which it stands exactly, where its soles stand so and nothing else is seen to; else null. */
export function standsExactly(trace: ClipTrace, feet: readonly FootModel[], told: readonly ClipContact[], seen: readonly ClipContact[]): ClipContact[] | null {
  const exact = new Map(feet.map((foot) => [foot.name, createExactParts(trace.clip, foot, trace.ground)]));
  const parted = told.map((c): ClipContact => (c.parts ? c : { ...c, parts: exact.get(c.foot)!(c), sure: 1 }));
  return stillAsTold(trace, parted, seen) ? parted : null;
}

/** Whether contacts that are told to stand exactly do, and nothing else is seen to stand: what a lock tells of the feet it holds. */
export function stillAsTold({ clip: { frames, loop, rate }, soles }: ClipTrace, contacts: readonly ClipContact[], seen: readonly ClipContact[]): boolean {
  const exact = contacts.filter((c) => c.sure === 1);
  if (exact.length === 0 || contacts.some((c) => !c.parts || c.sure === undefined)) return false;
  let [all, still] = [0, 0];
  for (const c of exact) {
    const sole = soles.find((s) => s.foot.name === c.foot)!;
    for (const part of c.parts!)
      for (let f = Math.ceil(part.from - 1e-6); f < Math.floor(part.to + 1e-6); f++) {
        const own = loop ? ((f % frames) + frames) % frames : f;
        if (own < 0 || own >= frames) return false;
        all++;
        if (pointMoves(sole, own, POINT[part.part]) < STILL_M) still++;
      }
  }
  const told = (f: number, foot: ClipContact['foot']) => contacts.some((c) => c.foot === foot && f >= c.from - 1 && f + 1 <= c.to + 1);
  /** Pictures of what is seen in which a foot is still that is not told to stand. */
  const untold = ({ foot, from, to }: ClipContact): number => {
    const sole = soles.find((s) => s.foot.name === foot)!;
    let count = 0;
    for (let f = Math.max(0, Math.ceil(from)); f < Math.min(frames - 1, Math.floor(to)); f++)
      if (!told(f, foot) && [0, 1, 2].some((k) => pointMoves(sole, f, k) < STILL_M)) count++;
    return count;
  };
  const covered = (s: ClipContact) =>
    (s.to - s.from) / rate < SEEN_MORE_S ||
    contacts.reduce((sum, c) => sum + (c.foot === s.foot ? Math.max(0, Math.min(c.to, s.to) - Math.max(c.from, s.from)) : 0), 0) >=
      TOLD_SHARE * (s.to - s.from) ||
    (!loop && untold(s) <= MOST_UNTOLD);
  return still >= STILL_SHARE * all && seen.every(covered);
}
