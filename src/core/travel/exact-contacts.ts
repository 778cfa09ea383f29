import { inOrder, movedContact, type ClipContact, type ContactPart, type PivotPart } from '../clip/clip';
import { partOf, runsOf } from './contact-parts';
import { pointMoves, pointsAt, type ClipTrace, type SoleTrace } from './trace';

/** A point of the sole that moves no more than this (m) from a picture to the next stands exactly, as a lock makes it. */
const STILL_M = 4e-5;
/** Pictures a contact takes at least, and so many in which no point is still may lie between two of a foot's pivots. */
const LEAST = 5;
const HAND_OVER = 1;

/**
 * Contacts in which feet stand exactly, by their stillness alone: stretches of pictures in which a point of the sole, one after
 * the other, does not move; with what the foot turns about. For clips whose feet were locked, on whatever they stand.
 */
export function exactContacts({ clip, soles }: ClipTrace, first = 0): ClipContact[] {
  return soles.flatMap((sole) => stillRuns(sole, clip.frames, first).map((run) => exactContact(sole, run)));
}

/** Of several points that stay, those that hardly move at all (m) bear. */
const BEARS_M = 4e-6;

/** Whether point k of a sole stays from picture f to the next. */
const stays = (sole: SoleTrace, f: number, k: number, most = STILL_M): boolean => pointMoves(sole, f, k) < most;

/** First and last pictures of stretches in which some point stays from each picture to the next. */
function stillRuns(sole: SoleTrace, frames: number, first: number): [number, number][] {
  const runs: [number, number][] = [];
  for (let f = first; f + 1 < frames; f++) {
    if (!stays(sole, f, 0) && !stays(sole, f, 1) && !stays(sole, f, 2)) continue;
    const last = runs[runs.length - 1];
    if (last && f - last[1] <= HAND_OVER) last[1] = f + 1;
    else runs.push([f, f + 1]);
  }
  return runs.filter(([a, b]) => b - a + 1 >= LEAST);
}

function exactContact(sole: SoleTrace, [from, to]: [number, number]): ClipContact {
  const still = (f: number, k: number, most: number) => (f < to && stays(sole, f, k, most)) || (f > from && stays(sole, f - 1, k, most));
  const runs = runsOf(from, to, (f) => {
    const most = [0, 1, 2].some((k) => still(f, k, BEARS_M)) ? BEARS_M : STILL_M;
    return partOf(still(f, 0, most), still(f, 1, most), still(f, 2, most));
  });
  // A tip that stays while the ball does is none: toes lie flat. Where it takes over it is still already.
  const parts = runs.map((p, i): ContactPart => (p.part === 'tip' && runs[i - 1]?.part === 'ball' ? { ...p, from: p.from - 1 } : p));
  return { foot: sole.foot.name, from, to, parts, manner: 'stands', sure: 1 };
}

/** A contact of which this part stands exactly was locked. */
const LOCKED_SHARE = 0.35;
/** Shorter stretches (s) in which a foot does not move at all are chance. */
const EXACT_LEAST_S = 0.05;

/**
 * Contacts, and in place of those of which most stands exactly the stretches in which it does, from where the foot comes down to
 * where it has left: locked feet are told by their stillness, also where they would not be seen to stand otherwise. Others of which
 * less stands exactly are dragged, and turn about nothing but there. `trace`: of the clip as it is with these contacts; a loop's
 * is of one round.
 */
export function exactWhere(trace: ClipTrace, contacts: readonly ClipContact[], exact: readonly ClipContact[], first = 0): ClipContact[] {
  const { rate, loop, frames } = trace.clip;
  const long = exact.filter((e) => (e.to - e.from) / rate > EXACT_LEAST_S);
  const rounds = loop ? [-frames, 0, frames] : [0];
  const common = (c: ClipContact, e: ClipContact) =>
    e.foot === c.foot ? rounds.reduce((sum, by) => sum + Math.max(0, Math.min(e.to + by, c.to) - Math.max(e.from + by, c.from)), 0) : 0;
  const held = (c: ClipContact) => long.reduce((sum, e) => sum + common(c, e), 0) / (c.to - c.from);
  const loose = contacts.filter((c) => held(c) < LOCKED_SHARE);
  const locked = long.filter((e) => !loose.some((c) => common(c, e) > 0));
  const dragged = loose.map((c): ClipContact => {
    const pieces = rounds.flatMap((by) => long.map((e) => movedContact(e, by)).filter((e) => e.foot === c.foot && e.to > c.from && e.from < c.to));
    return pieces.length === 0 ? c : { ...c, parts: pieces.flatMap((e) => e.parts!), manner: 'dragged', sure: held(c) };
  });
  return inOrder([...dragged, ...whole(trace, locked, first)]);
}

/** A foot is landing, or leaving, while it is no higher over where it stands, and no farther from there (m), for so long (s) at most. */
const LOW_M = 0.01;
const NEAR_M = 0.045;
const LONGEST_S = 0.075;

/** Exact contacts with the pictures in which their feet come down before and leave after them. */
function whole({ clip, soles }: ClipTrace, contacts: readonly ClipContact[], first: number): ClipContact[] {
  const { frames, loop, rate } = clip;
  const most = Math.round(LONGEST_S * rate);
  return contacts.map((c) => {
    const own = contacts.filter((o) => o.foot === c.foot && o !== c);
    const { points } = soles.find((s) => s.foot.name === c.foot)!;
    const at = (f: number) => pointsAt(loop ? ((f % frames) + frames) % frames : f);
    const edge = (from: number, part: PivotPart, step: 1 | -1): number => {
      const k = (part === 'heel' ? 0 : part === 'tip' ? 2 : 1) * 3;
      const anchor = at(from) + k;
      let f = from;
      while (Math.abs(f + step - from) <= most) {
        const next = f + step;
        if (!loop && (next < first || next >= frames)) break;
        // Half of the way to the next is the next one's.
        if (own.some((o) => (step > 0 ? o.from > from && 2 * next >= from + o.from : o.to < from && 2 * next <= from + o.to))) break;
        // Across a loop's seam places are another round's.
        if (loop && Math.floor(next / frames) !== Math.floor(from / frames)) break;
        const p = at(next) + k;
        const away = Math.hypot(points[p]! - points[anchor]!, points[p + 2]! - points[anchor + 2]!);
        if (points[p + 1]! - points[anchor + 1]! > LOW_M || away > NEAR_M) break;
        f = next;
      }
      return f;
    };
    const parts = c.parts!;
    return { ...c, from: edge(c.from, parts[0]!.part, -1), to: edge(c.to, parts.at(-1)!.part, 1) };
  });
}
