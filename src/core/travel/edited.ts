import { heldOn, retimed, reversed, trimmed } from '../clip/edits';
import type { ClipFigure } from '../clip/figure';
import { mirrored } from '../clip/mirrored';
import { unrolled } from '../clip/unroll';
import type { Clip } from '../clip/clip';
import { composePlacement, createPlacement, repeatPlacement } from '../math/placement';
import { closedLoop } from './close-loop';
import type { EditSpec } from './spec';
import type { Track } from './track';

/** A figure's clip cut, closed to a loop, mirrored, turned round in time and retimed, as a spec has it, before its feet are looked at. */
export function edited(figure: ClipFigure, edits: EditSpec): ClipFigure {
  const { clip } = figure;
  const last = clip.frames - 1;
  const { loop, trim } = edits;
  let next = figure;
  if (loop && loop.to <= last && loop.to - loop.from >= 4) next = { ...next, clip: closedLoop(figure, loop.from, loop.to, loop.span * clip.rate) };
  else if (trim && trim.from <= Math.min(last, trim.to)) next = { ...next, clip: trimmed(clip, trim.from, trim.to) };
  if (edits.mirror) next = { ...next, clip: mirrored(next) };
  if (edits.reverse) next = { ...next, clip: reversed(next.clip) };
  if (edits.speed !== 1) next = { ...next, clip: retimed(next.clip, edits.speed) };
  return next;
}

/** A finished clip as it goes out: a loop so many rounds long, its poses held. */
export function finished(clip: Clip, { repeat, hold }: EditSpec): Clip {
  return heldOn(clip.loop && repeat > 1 ? unrolled(clip, repeat) : clip, hold);
}

/** Whether anything is cut, closed, turned or retimed. */
export const isEdited = ({ trim, loop, mirror, reverse, speed }: EditSpec): boolean => trim !== null || loop !== null || mirror || reverse || speed !== 1;

/** Which row of the file each picture comes from, where one is as it was; `skipped` rows at its beginning were cut off before. */
export function rowsOf({ trim, loop, mirror, reverse, speed, repeat }: EditSpec, skipped = 0): (frame: number) => number | null {
  if (mirror || reverse || speed !== 1 || repeat > 1) return () => null;
  const first = skipped + (loop?.from ?? trim?.from ?? 0);
  return (frame) => frame + first;
}

/** The places of a travel over so many rounds. */
export function repeatedPlaces({ places, round }: Track, rounds: number): Float64Array {
  const out = new Float64Array(places.length * rounds);
  const by = createPlacement();
  for (let r = 0; r < rounds; r++) {
    repeatPlacement(by, 0, round, 0, r);
    for (let at = 0; at < places.length; at += 4) composePlacement(out, r * places.length + at, by, 0, places, at);
  }
  return out;
}
