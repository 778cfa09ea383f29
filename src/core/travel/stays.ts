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

/**
 * Stretches of contacts in which feet stand still, from landing to lift-off, parted where the foot is dragged to another place; one list a contact, empty where it is dragged all through. `first`: the first frame that belongs to the motion.
 */
export function staysOf({ clip, feet }: ClipFigure, contacts: readonly ClipContact[], first = 0): ClipContact[][] {
  const { frames, rate } = clip;
  const series = new Map(feet.map((foot) => [foot.name, footSeries(clip, foot, first)]));
  const ways = contacts.map((contact) => {
    const from = Math.ceil(contact.from - 1e-6);
    const count = Math.max(0, Math.floor(contact.to + 1e-6) - from + 1);
    const own = series.get(contact.foot)!;
    const at = (i: number) => (from + i + frames) % frames;
    const speeds = Array.from({ length: count }, (_, i) => stiller(own, Math.max(0, at(i) - 1), Math.min(frames - 1, at(i) + 1)) * rate);
    return { contact, from, speeds, moved: (i: number, j: number) => stiller(own, at(i), at(j), 1) };
  });
  const all = Float64Array.from(ways.flatMap((w) => w.speeds)).sort();
  const limit = Math.max(QUICK, TIMES_USUAL * (all[all.length >> 1] ?? 0));
  return ways.map(({ contact, from, speeds, moved }) => {
    const stays = still(speeds, moved, limit, rate).map(([a, b]) => ({ ...contact, from: from + a, to: from + b }));
    // A foot that lands comes to its first stay and rolls out of its last.
    return stays.map((s, i) => ({ ...s, from: i === 0 ? contact.from : s.from, to: i === stays.length - 1 ? contact.to : s.to }));
  });
}

/** Runs of pictures in which a foot is no quicker than a limit, over short drags. `moved`: how far it is from one picture to another, m. */
function still(speeds: readonly number[], moved: (i: number, j: number) => number, limit: number, rate: number): [number, number][] {
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

/** A contact without what is arriving and leaving: from its first stay to its last, drags between them with it; whole where it has none. */
export const standingOf = (contact: ClipContact, stays: readonly ClipContact[]): ClipContact =>
  stays.length === 0 ? contact : { ...contact, from: stays[0]!.from, to: stays[stays.length - 1]!.to };
