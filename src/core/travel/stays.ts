import type { ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { footSeries, PLACES, type FootSeries } from './foot-series';

/** A foot whose bearing point is quicker than this (m/s) is arriving, leaving or dragged on; where all shakes, than so many times its usual speed. */
const QUICK = 0.13;
const TIMES_USUAL = 1.5;
/** Drags that are shorter (s) or less far (m) do not part two stays, and shorter stays (s) are none. */
const DRAG_S = 0.1;
const DRAG_M = 0.03;
const LEAST_S = 0.07;

/** What a recorded contact is made of. */
export interface Stays {
  /** Stretches in which the foot stands, from landing to lift-off, parted where it is dragged on; none where it is dragged all through. */
  readonly stretches: readonly (readonly [from: number, to: number])[];
  /** Part of the contact in which a point of its sole surely stands. */
  readonly sure: number;
  /** Farthest the foot goes from one stretch to the next, m. */
  readonly dragged: number;
}

/** Tells in which stretches of contacts feet stand still. `first`: the first frame that belongs to the motion; `among`: all contacts of the clip. */
export function staysOf({ clip, feet }: ClipFigure, contacts: readonly ClipContact[], first = 0, among = contacts): Stays[] {
  const { frames, rate } = clip;
  const series = new Map(feet.map((foot) => [foot.name, footSeries(clip, foot, first)]));
  const wayOf = (contact: ClipContact) => {
    const from = Math.ceil(contact.from - 1e-6);
    const count = Math.max(0, Math.floor(contact.to + 1e-6) - from + 1);
    const own = series.get(contact.foot)!;
    const at = (i: number) => (from + i + frames) % frames;
    const speeds = Array.from({ length: count }, (_, i) => stiller(own, Math.max(0, at(i) - 1), Math.min(frames - 1, at(i) + 1)) * rate);
    return { contact, from, speeds, moved: (i: number, j: number) => stiller(own, at(i), at(j), 1) };
  };
  const ways = contacts.map(wayOf);
  const all = Float64Array.from((among === contacts ? ways : among.map(wayOf)).flatMap((w) => w.speeds)).sort();
  const limit = Math.max(QUICK, TIMES_USUAL * (all[all.length >> 1] ?? 0));
  return ways.map(({ contact, from, speeds, moved }): Stays => {
    const still = stillRuns(speeds, moved, limit, rate);
    return {
      // A foot that lands comes to its first stay and rolls out of its last.
      stretches: still.map(([a, b], i) => [i === 0 ? contact.from : from + a, i === still.length - 1 ? contact.to : from + b] as const),
      sure: speeds.length === 0 ? 0 : speeds.filter((s) => s <= limit).length / speeds.length,
      dragged: still.length === 0 ? moved(0, speeds.length - 1) : Math.max(0, ...still.slice(1).map(([a], i) => moved(still[i]![1], a))),
    };
  });
}

/** Runs of pictures in which a foot is no quicker than a limit, over short drags. `moved`: how far it is from one picture to another, m. */
function stillRuns(speeds: readonly number[], moved: (i: number, j: number) => number, limit: number, rate: number): [number, number][] {
  const found: [number, number][] = [];
  speeds.forEach((speed, i) => {
    if (speed > limit) return;
    const last = found[found.length - 1];
    if (last && (i - last[1] <= DRAG_S * rate || moved(last[1], i) < DRAG_M)) last[1] = i;
    else found.push([i, i]);
  });
  return found.filter(([a, b]) => (b - a + 1) / rate >= LEAST_S);
}

/** How far (m) the stiller of heel and ball goes from one frame to another, by default a frame. */
function stiller({ places }: FootSeries, a: number, b: number, frames = b - a): number {
  if (a === b) return 0;
  let least = Infinity;
  for (let o = 3; o <= 6; o += 3) {
    const x = places[b * PLACES + o]! - places[a * PLACES + o]!,
      y = places[b * PLACES + o + 1]! - places[a * PLACES + o + 1]!,
      z = places[b * PLACES + o + 2]! - places[a * PLACES + o + 2]!;
    least = Math.min(least, x * x + y * y + z * z);
  }
  return Math.sqrt(least) / frames;
}
