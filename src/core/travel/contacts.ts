import { finish } from '../math/finish';
import type { Clip, ClipContact } from '../clip/clip';
import { GRAVITY } from '../math/scalar';
import { EXACT_M, ROUGH_M, standsWithin, type SeenFoot } from './made-stands';
import { pivotVelocity, TRACE_MARGIN, type ClipTrace, type SoleTrace } from './trace';

/** Thresholds relative to the body: heights as parts of leg length ℓ, speeds as parts of √(g ℓ). Hysteresis: on below, off above. */
const HEIGHT_ON = 0.02;
const HEIGHT_OFF = 0.03;
const SPEED_ON = 0.15;
const SPEED_OFF = 0.25;

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
  const ground = known ? 0 : floorUnder(lowest, legLength);
  yield undefined;
  const [missingX, missingZ] = missingTravel(clip, traces, ground, legLength);
  const contacts: ClipContact[] = [];
  for (const trace of traces)
    contacts.push(...(yield* footContacts({ clip, trace, ground, missing: [missingX, missingZ], planted: known ? ROUGH_M : EXACT_M }, legLength)));
  return { contacts, ground, missingX, missingZ };
}

/** The same at once. */
export function detectContacts(trace: ClipTrace, legLength: number): DetectedMotion {
  return finish(detectingContacts(trace, legLength));
}

/** The lowest heights are the floor's, but for few. */
const SUNK_SHARE = 0.02;
/** So many soles at one height (m) to so much tell the floor, where swinging feet come at most so far (parts of ℓ) under it. */
const LEVEL_SHARE = 0.2;
const LEVEL_M = 5e-4;
const SUNK_PART = 0.06;

/** Height (m) of the floor under soles whose lowest points lie at these heights: where they stay, else where they are lowest. */
function floorUnder(heights: Float64Array, legLength: number): number {
  const sorted = heights.slice().sort();
  const low = sorted[Math.min(sorted.length - 1, Math.floor(SUNK_SHARE * sorted.length))]!;
  const { from, width } = densest(sorted, LEVEL_SHARE);
  return width < LEVEL_M && from > low && from - low < SUNK_PART * legLength ? from + width / 2 : low;
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
const closest = (values: Float64Array): number => densest(Float64Array.from(values).sort(), STANDING_SHARE).middle;

/** Where a share of sorted values lies closest together. */
function densest(sorted: Float64Array, share: number): { from: number; middle: number; width: number } {
  const n = Math.max(1, Math.ceil(share * sorted.length));
  const width = (i: number) => sorted[i + n - 1]! - sorted[i]!;
  let first = 0;
  for (let i = 0; i + n <= sorted.length; i++) if (width(i) < width(first)) first = i;
  return { from: sorted[first]!, middle: sorted[first + (n >> 1)]!, width: width(first) };
}

/** Mean velocity (m/s) of the first moving joint over the clip. */
function netTravel(clip: Clip): [number, number] {
  if (clip.loop) return [(clip.loopTravel[0] * clip.rate) / clip.frames, (clip.loopTravel[2] * clip.rate) / clip.frames];
  const size = clip.poses.length / clip.frames;
  const last = (clip.frames - 1) * size;
  const seconds = Math.max(1, clip.frames - 1) / clip.rate;
  return [(clip.poses[last]! - clip.poses[0]!) / seconds, (clip.poses[last + 2]! - clip.poses[2]!) / seconds];
}

function* footContacts(foot: SeenFoot, legLength: number): Generator<undefined, ClipContact[]> {
  const { clip, trace, ground, missing } = foot;
  const [mx, mz] = missing;
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
      // Over uneven ground a sole lies in a plane of its own; level treads are told as exactly as a level floor.
      const exact = standsWithin({ ...foot, planted: EXACT_M }, from, f - 1) ?? (foot.planted > EXACT_M ? standsWithin(foot, from, f - 1) : null);
      found.push(...(exact ?? [{ foot: trace.foot.name, from, to: f - 1 }]));
      from = -1;
      yield undefined;
    }
  }
  return found.map((c) => (clip.loop && Math.ceil(c.from) >= n ? { ...c, from: c.from - n, to: c.to - n } : c)).sort((a, b) => a.from - b.from);
}
