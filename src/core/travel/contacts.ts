import { finish } from '../math/finish';
import type { Clip, ClipContact } from '../clip/clip';
import { GRAVITY } from '../math/scalar';
import { pivotVelocity, pointsAt, TRACE_MARGIN, type ClipTrace, type SoleTrace } from './trace';

/** Thresholds relative to the body: heights as parts of leg length ℓ, speeds as parts of √(g ℓ). Hysteresis: on below, off above. */
const HEIGHT_ON = 0.02;
const HEIGHT_OFF = 0.03;
const SPEED_ON = 0.15;
const SPEED_OFF = 0.25;
/** A planted point that stays within this (m) counts as exactly planted; made motions do, captured ones do not. */
const EXACT_M = 5e-5;
/** Part of a contact's seen length for which its pivots must stand exactly for its ends to be sharpened by them. */
const EXACT_SHARE = 0.5;
/** The first and the last two frames of a contact are closer than this, m. */
const END_M = 2.5e-5;
/** A pivot that lies still for so many frames stands. */
const STANDS_FRAMES = 3;

export interface DetectedMotion {
  readonly contacts: readonly ClipContact[];
  /** Height of the ground the soles meet, m. */
  readonly ground: number;
  /** Steady travel (m/s) that an in-place clip lacks; zero for one that travels. */
  readonly missingX: number;
  readonly missingZ: number;
}

/** Finds ground, travel and contacts of a clip from its soles alone, bit by bit. `legLength` in metres. */
export function* detectingContacts({ clip, soles: traces, ground: known }: ClipTrace, legLength: number): Generator<undefined, DetectedMotion> {
  const lowest = new Float64Array(traces.length * clip.frames);
  traces.forEach((t, i) => lowest.set(t.lowest.subarray(TRACE_MARGIN, clip.frames + TRACE_MARGIN), i * clip.frames));
  const ground = known ? 0 : percentile(lowest, 0.02);
  yield undefined;
  const [missingX, missingZ] = missingTravel(clip, traces, ground, legLength);
  const contacts: ClipContact[] = [];
  for (const trace of traces) contacts.push(...(yield* footContacts(clip, trace, ground, legLength, missingX, missingZ)));
  return { contacts, ground, missingX, missingZ };
}

/** The same at once. */
export function detectContacts(trace: ClipTrace, legLength: number): DetectedMotion {
  return finish(detectingContacts(trace, legLength));
}

/** Velocity the body must have so that the low soles stand, where the clip itself goes nowhere. */
function missingTravel(clip: Clip, traces: readonly SoleTrace[], ground: number, legLength: number): [number, number] {
  const vx = new Float64Array(traces.length * clip.frames),
    vz = new Float64Array(traces.length * clip.frames);
  let count = 0;
  const v = new Float64Array(2);
  for (const trace of traces)
    for (let f = 0; f < clip.frames; f++) {
      if (trace.lowest[f + TRACE_MARGIN]! - ground > HEIGHT_ON * 0.5 * legLength) continue;
      pivotVelocity(trace, clip.frames, clip.rate, f, v);
      vx[count] = v[0]!;
      vz[count++] = v[1]!;
    }
  if (count === 0) return [0, 0];
  const x = closest(vx.subarray(0, count)),
    z = closest(vz.subarray(0, count));
  const base = netTravel(clip);
  const stays = Math.hypot(base[0], base[1]) < 0.2 * Math.hypot(x, z);
  return stays && Math.hypot(x, z) > 0.02 * Math.sqrt(GRAVITY * legLength) ? [-x, -z] : [0, 0];
}

/** Part of the low moments that surely stand. */
const STANDING_SHARE = 0.4;

/** Middle of the values that lie closest together: feet that stand all move alike, feet that come and go do not. */
function closest(values: Float64Array): number {
  const sorted = Float64Array.from(values).sort();
  const n = Math.max(1, Math.ceil(STANDING_SHARE * sorted.length));
  let first = 0;
  for (let i = 0; i + n <= sorted.length; i++) if (sorted[i + n - 1]! - sorted[i]! < sorted[first + n - 1]! - sorted[first]!) first = i;
  return sorted[first + (n >> 1)]!;
}

/** Mean velocity (m/s) of the first moving joint over the clip. */
function netTravel(clip: Clip): [number, number] {
  if (clip.loop) return [(clip.loopTravel[0] * clip.rate) / clip.frames, (clip.loopTravel[2] * clip.rate) / clip.frames];
  const size = clip.poses.length / clip.frames;
  const last = (clip.frames - 1) * size;
  const seconds = Math.max(1, clip.frames - 1) / clip.rate;
  return [(clip.poses[last]! - clip.poses[0]!) / seconds, (clip.poses[last + 2]! - clip.poses[2]!) / seconds];
}

function* footContacts(clip: Clip, trace: SoleTrace, ground: number, legLength: number, mx: number, mz: number): Generator<undefined, ClipContact[]> {
  const n = clip.frames;
  const pace = Math.sqrt(GRAVITY * legLength);
  const v = new Float64Array(2);
  const level = (f: number): 'on' | 'off' | 'between' => {
    const h = (trace.lowest[f + TRACE_MARGIN]! - ground) / legLength;
    pivotVelocity(trace, clip.frames, clip.rate, f, v);
    const s = Math.hypot(v[0]! + mx, v[1]! + mz) / pace;
    return h < HEIGHT_ON && s < SPEED_ON ? 'on' : h > HEIGHT_OFF || s > SPEED_OFF ? 'off' : 'between';
  };
  const levels = Array.from({ length: n }, (_, f) => level(f));
  const start = clip.loop ? levels.indexOf('off') : 0;
  if (start < 0) return [{ foot: trace.foot.name, from: 0, to: n - 1 }];
  const found: ClipContact[] = [];
  let from = -1;
  for (let i = 0; i <= n; i++) {
    const f = start + i;
    const on = i < n && (levels[f % n] === 'on' || (from >= 0 && levels[f % n] !== 'off'));
    if (on && from < 0) from = f;
    if (!on && from >= 0) {
      found.push(refine(clip, trace, ground, from, f - 1, mx, mz));
      from = -1;
      yield undefined;
    }
  }
  return found.map((c) => (clip.loop && Math.ceil(c.from) >= n ? { ...c, from: c.from - n, to: c.to - n } : c)).sort((a, b) => a.from - b.from);
}

/**
 * Where a contact's pivots stand exactly, its ends are sharpened to the frames that do and, between frames, to when the pivot
 * set off or came to stand.
 */
function refine(clip: Clip, trace: SoleTrace, ground: number, from: number, to: number, mx: number, mz: number): ClipContact {
  const n = clip.frames;
  const wrap = (f: number) => (clip.loop ? ((f % n) + n) % n : f);
  const exists = (f: number) => clip.loop || (f >= 0 && f < n);
  const heightAt = (f: number, k: number) => trace.heights[3 * (f + TRACE_MARGIN) + k]!;
  const still = (a: number, most = EXACT_M): boolean => {
    // Pivot of frame a moves on to frame a + 1 by no more than `most`.
    for (let k = 0; k < 3; k++) {
      const p = pointsAt(wrap(a)) + k * 3,
        q = pointsAt(wrap(a) + 1) + k * 3;
      const planted = heightAt(wrap(a), k) - ground < EXACT_M && heightAt(wrap(a) + 1, k) - ground < EXACT_M;
      if (planted && Math.hypot(trace.points[q]! - trace.points[p]! + mx / clip.rate, trace.points[q + 2]! - trace.points[p + 2]! + mz / clip.rate) < most)
        return true;
    }
    return false;
  };
  // A quick foot may leave its heel and be on its ball between two frames: no point stands in both, yet each stands.
  const onGround = (f: number) => trace.lowest[wrap(f) + TRACE_MARGIN]! - ground < EXACT_M;
  const handsOver = (a: number): boolean =>
    onGround(a) && onGround(a + 1) && trace.pivot[wrap(a) + TRACE_MARGIN] !== trace.pivot[wrap(a + 1) + TRACE_MARGIN] && exists(a + 2) && still(a + 1);
  let best: [number, number] | null = null;
  const runs: [number, number][] = [];
  for (let a = from - 2; a <= to + 1; a++) {
    let b = a;
    while (b <= to + 1 && exists(b) && exists(b + 1) && (still(b) || handsOver(b))) b++;
    if (b > a) {
      const run: [number, number] = [a, b];
      runs.push(run);
      if (!best || b - a > best[1] - best[0]) best = run;
    }
    a = b;
  }
  // At its ends a foot comes and goes so gently that a frame of the swing is all but still: it is none of the contact.
  if (best && best[1] - best[0] > STANDS_FRAMES) {
    if (!still(best[0], END_M) && !handsOver(best[0])) best[0]++;
    if (!still(best[1] - 1, END_M) && !handsOver(best[1] - 1)) best[1]--;
  }
  // A foot that stands twice with a jump between has slid.
  if (!best || best[1] - best[0] < EXACT_SHARE * (to - from) || runs.some((r) => r !== best && r[1] - r[0] >= STANDS_FRAMES))
    return { foot: trace.foot.name, from, to };
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
  return { foot: trace.foot.name, from: best[0] - outside(best[0], -1), to: best[1] + outside(best[1], 1) };
}

/** Frames of the swing that the time of lift-off or landing is read from. */
const SAMPLES = 3;
/** Trial times per frame. */
const TRIALS = 200;
const COARSE = 10;

/**
 * When, as a part of a frame after the last one on the ground, a point set off, from its way along each axis 1, 2, 3 … frames on:
 * the start that a τ² + b τ³ (a point that leaves without a kick) fits best, axes weighed alike.
 */
function eventAfter(way: readonly Float64Array[]): number {
  let best = 0,
    least = Infinity;
  const look = (trial: number) => {
    if (trial < 0 || trial >= TRIALS) return;
    let miss = 0;
    for (const d of way) {
      let size = 0;
      for (let i = 0; i < SAMPLES; i++) size += d[i]! * d[i]!;
      if (size > 1e-8) miss += quadraticCubicMiss(d, trial / TRIALS) / size;
    }
    if (miss < least) {
      least = miss;
      best = trial;
    }
  };
  // Every COARSE-th trial first, then all around the best of them.
  for (let trial = 0; trial < TRIALS; trial += COARSE) look(trial);
  const near = best;
  for (let trial = near - COARSE + 1; trial < near + COARSE; trial++) look(trial);
  return best / TRIALS;
}

/** Squared distance of the values d_i at times i + 1 − start from their best a τ² + b τ³. */
function quadraticCubicMiss(d: Float64Array, start: number): number {
  let s44 = 0,
    s55 = 0,
    s66 = 0,
    r2 = 0,
    r3 = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const t = i + 1 - start,
      t2 = t * t,
      t3 = t2 * t;
    s44 += t2 * t2;
    s55 += t2 * t3;
    s66 += t3 * t3;
    r2 += d[i]! * t2;
    r3 += d[i]! * t3;
  }
  const det = s44 * s66 - s55 * s55;
  const a = (r2 * s66 - r3 * s55) / det,
    b = (s44 * r3 - s55 * r2) / det;
  let sum = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const t = i + 1 - start;
    sum += (d[i]! - t * t * (a + b * t)) ** 2;
  }
  return sum;
}

function percentile(values: Float64Array, share: number): number {
  const sorted = values.slice().sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}
