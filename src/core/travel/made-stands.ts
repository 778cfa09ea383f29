import type { Clip, ClipContact } from '../clip/clip';
import { eventAfter, SAMPLES } from './set-off';
import { pointsAt, TRACE_MARGIN, type SoleTrace } from './trace';

/** A planted point that stays within this (m) counts as exactly planted; made motions do, captured ones do not. */
export const EXACT_M = 5e-5;
/** Over ground that is not level a sole lies in a plane through it, up to so far (m) over or under. */
export const ROUGH_M = 3e-3;
/** Part of a contact's seen length for which its pivots must stand exactly for its ends to be sharpened by them. */
const EXACT_SHARE = 0.5;
/** The first and the last two frames of a contact are closer than this, m. */
const END_M = 2.5e-5;
/** A pivot that lies still for so many frames stands. */
const STANDS_FRAMES = 3;

/** A foot whose contacts are looked for: on a level (m), with the steady travel it lacks (m/s, x and z), planted within so far (m). */
export interface SeenFoot {
  readonly clip: Clip;
  readonly trace: SoleTrace;
  readonly ground: number;
  readonly missing: readonly [number, number];
  readonly planted: number;
}

/** A sole that rises so far (m) over the ground between two stands, and takes so long (s, and pictures) from one to the other, has made a step, however small. */
const LIFTED_M = 1e-3;
const STEP_S = 0.08;
const STEP_FRAMES = 3;
/** A foot off the ground that is seen to stand for less than this (s) does not. */
const HANGS_S = 0.1;

/**
 * Where a contact's pivots stand exactly, its ends are sharpened to the frames that do and, between frames, to when the pivot
 * set off or came to stand. A foot that stands, lifts and stands again has two of them. Null where it stands not so exactly.
 */
export function standsWithin({ clip, trace, ground, missing, planted: within }: SeenFoot, from: number, to: number): ClipContact[] | null {
  const [mx, mz] = missing;
  const n = clip.frames;
  const wrap = (f: number) => (clip.loop ? ((f % n) + n) % n : f);
  const exists = (f: number) => clip.loop || (f >= 0 && f < n);
  const heightAt = (f: number, k: number) => trace.heights[3 * (f + TRACE_MARGIN) + k]!;
  const still = (a: number, most = EXACT_M): boolean => {
    // Pivot of frame a moves on to frame a + 1 by no more than `most`.
    for (let k = 0; k < 3; k++) {
      const p = pointsAt(wrap(a)) + k * 3,
        q = pointsAt(wrap(a) + 1) + k * 3;
      const planted = heightAt(wrap(a), k) - ground < within && heightAt(wrap(a) + 1, k) - ground < within;
      if (planted && Math.hypot(trace.points[q]! - trace.points[p]! + mx / clip.rate, trace.points[q + 2]! - trace.points[p + 2]! + mz / clip.rate) < most)
        return true;
    }
    return false;
  };
  // A quick foot may leave its heel and be on its ball between two frames: no point stands in both, yet each stands.
  const onGround = (f: number) => trace.lowest[wrap(f) + TRACE_MARGIN]! - ground < EXACT_M;
  const handsOver = (a: number): boolean =>
    onGround(a) && onGround(a + 1) && trace.pivot[wrap(a) + TRACE_MARGIN] !== trace.pivot[wrap(a + 1) + TRACE_MARGIN] && exists(a + 2) && still(a + 1);
  const runs: [number, number][] = [];
  for (let a = from - 2; a <= to + 1; a++) {
    let b = a;
    while (b <= to + 1 && exists(b) && exists(b + 1) && (still(b) || handsOver(b))) b++;
    if (b > a) runs.push([a, b]);
    a = b;
  }
  const low = (f: number) => trace.lowest[wrap(f) + TRACE_MARGIN]! - ground <= Math.max(LIFTED_M, within);
  const stepped = (a: number, b: number): boolean => {
    if (b - a < Math.max(STEP_FRAMES, STEP_S * clip.rate)) return false;
    for (let f = a + 1; f < b; f++) if (exists(f) && !low(f)) return true;
    return false;
  };
  const standing = runs.filter((r) => r[1] - r[0] >= STANDS_FRAMES);
  const stands: [number, number][][] = [];
  for (const run of standing) {
    const before = stands.at(-1)?.at(-1);
    if (before && !stepped(before[1], run[0])) stands.at(-1)!.push(run);
    else stands.push([run]);
  }
  let onIt = 0;
  for (let f = from; f <= to; f++) if (low(f)) onIt++;
  // A foot that hangs low and slow over the ground for a moment, as in a turn on the spot, does not stand.
  if (onIt === 0 && runs.length === 0 && to - from < HANGS_S * clip.rate) return [];
  // Who moves slowly is seen to stand while the foot is a little off the ground as well.
  const exact = standing.reduce((sum, r) => sum + r[1] - r[0], 0) >= EXACT_SHARE * (onIt - 1);
  if (stands.length > 1 && exact)
    return stands.map((own) => (own.length === 1 ? sharpened(own[0]!) : { foot: trace.foot.name, from: own[0]![0], to: own.at(-1)![1] }));
  const best = runs.reduce<[number, number] | null>((most, r) => (!most || r[1] - r[0] > most[1] - most[0] ? r : most), null);
  // A foot that stands twice with a jump between has slid.
  if (!best || !exact || standing.some((r) => r !== best)) return null;
  return [sharpened(best)];

  function sharpened(run: [number, number]): ClipContact {
    let [first, last] = run;
    // At its ends a foot comes and goes so gently that a frame of the swing is all but still: it is none of the contact.
    if (last - first > STANDS_FRAMES) {
      if (!still(first, END_M) && !handsOver(first)) first++;
      if (!still(last - 1, END_M) && !handsOver(last - 1)) last--;
    }
    const outside = (edge: number, step: 1 | -1): number => {
      if (!exists(edge + SAMPLES * step)) return 0;
      const pivot = trace.pivot[wrap(edge) + TRACE_MARGIN]! * 3;
      // The pivot's way from where it stands, in each axis, 1, 2 and 3 frames on.
      const way = [0, 1, 2].map((axis) =>
        Float64Array.from({ length: SAMPLES }, (_, i) => {
          const f = edge + (i + 1) * step;
          const turn = clip.loop ? Math.floor(f / n) - Math.floor(edge / n) : 0;
          const missing = axis === 1 ? 0 : ((axis === 0 ? mx : mz) * (f - edge)) / clip.rate;
          return trace.points[pointsAt(wrap(f)) + pivot + axis]! + turn * clip.loopTravel[axis]! - trace.points[pointsAt(wrap(edge)) + pivot + axis]! + missing;
        }),
      );
      return eventAfter(way);
    };
    return { foot: trace.foot.name, from: first - outside(first, -1), to: last + outside(last, 1) };
  }
}
