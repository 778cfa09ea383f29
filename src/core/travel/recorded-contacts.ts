import { CONTACT_NUMBERS } from '../body/foot-model';
import type { ClipContact } from '../clip/clip';
import { lowPass } from '../math/low-pass';
import { clamp, GRAVITY } from '../math/scalar';
import { pointsAt, type ClipTrace, type SoleTrace } from './trace';

/** How contacts are told in recordings. Speeds as parts of √(g ℓ), lengths as parts of ℓ, times in s. */
export const RECORDED = {
  /** A foot stands once a point of its sole is slower than `on`, and until all are faster than `off`. */
  on: 0.1,
  off: 0.2,
  /** Markers shake; what is quicker than this (Hz) is not looked at. */
  cutoff: 10,
  /** Shorter contacts are none; shorter gaps in which the foot stays within `stays` are none either. */
  least: 0.07,
  gap: 0.06,
  stays: 0.03,
  /** Within this of the floor's level a slow foot stands on the floor. */
  floor: 0.05,
  /** What stands elsewhere has come down to there by `drop` within `before`, and is no summit of its way. */
  drop: 0.012,
  before: 0.35,
  beside: 0.1,
} as const;

/** Sole points of a foot with the markers' shaking taken out, and the speed of each; index of frame f: f × 9, f × 3. */
export interface CalmSole {
  readonly points: Float64Array;
  readonly speeds: Float64Array;
}

/** Smooths a foot's sole points and tells their speeds (m/s). `first`: the first frame that belongs to the motion. */
export function calmSole(trace: SoleTrace, frames: number, rate: number, first = 0, cutoff: number = RECORDED.cutoff): CalmSole {
  const points = trace.points.slice(pointsAt(0), pointsAt(frames));
  for (let c = 0; c < CONTACT_NUMBERS; c++) lowPass(points, first * CONTACT_NUMBERS + c, CONTACT_NUMBERS, frames - first, cutoff, rate);
  const speeds = new Float64Array(frames * 3);
  for (let f = first; f < frames; f++) {
    const a = clamp(f - 1, first, frames - 1),
      b = clamp(f + 1, first, frames - 1);
    if (a === b) continue;
    for (let k = 0; k < 3; k++) {
      let square = 0;
      for (let c = 0; c < 3; c++) square += (points[b * 9 + k * 3 + c]! - points[a * 9 + k * 3 + c]!) ** 2;
      speeds[f * 3 + k] = (Math.sqrt(square) * rate) / (b - a);
    }
  }
  return { points, speeds };
}

/** How much a recording shakes, and what is looked at then: cut-off (Hz), and speeds (parts of √(g ℓ)) between which a foot stands. */
export interface Shaking {
  readonly cutoff: number;
  readonly on: number;
  readonly off: number;
  /** Feet that shake so much stand on the floor alone. */
  readonly floorOnly: boolean;
}

const CALM: Shaking = { cutoff: RECORDED.cutoff, on: RECORDED.on, off: RECORDED.off, floorOnly: false };
const SHAKINGS: readonly Shaking[] = [
  CALM,
  { ...CALM, cutoff: 6 },
  { cutoff: 6, on: 0.25, off: 0.4, floorOnly: true },
  { cutoff: 3.5, on: 0.3, off: 0.45, floorOnly: true },
];
/** Part of `on` that low feet may have. */
const QUIET = 0.55;
/** The lowest part of a foot's pictures: it surely stands in them. */
const LOW_SHARE = 0.25;

/** How much a recording shakes: the first answer with which low feet are slow enough to be told from swinging ones. */
export function shakingOf({ clip, soles }: ClipTrace, legLength: number, first = 0): Shaking {
  const pace = Math.sqrt(GRAVITY * legLength);
  let [cutoff, middle] = [0, 0];
  for (const shaking of SHAKINGS) {
    if (shaking.cutoff !== cutoff) {
      cutoff = shaking.cutoff;
      const speeds = soles.flatMap((s) => lowSpeeds(calmSole(s, clip.frames, clip.rate, first, cutoff), clip.frames, first));
      middle = Float64Array.from(speeds).sort()[speeds.length >> 1]!;
    }
    if (middle < QUIET * shaking.on * pace) return shaking;
  }
  return SHAKINGS[SHAKINGS.length - 1]!;
}

/** Speeds (m/s) of the slowest point in the lowest pictures of a foot. */
function lowSpeeds(calm: CalmSole, frames: number, first: number): number[] {
  const heights = new Float64Array(frames - first);
  for (let f = first; f < frames; f++) heights[f - first] = height(calm, f, 1);
  const most = heights.slice().sort()[Math.floor(LOW_SHARE * heights.length)]!;
  const speeds: number[] = [];
  for (let f = first; f < frames; f++) if (heights[f - first]! <= most) speeds.push(calm.speeds[f * 3 + slowest(calm, f)]!);
  return speeds;
}

/** Contacts of a recording, and the level (m) of its floor. */
export interface RecordedContacts {
  readonly contacts: readonly ClipContact[];
  readonly floor: number;
}

/**
 * Contacts of a clip whose feet shake, slide and stand on more than a floor: by speed with hysteresis; whatever lies above the
 * floor must have come down to where it stands. `first`: the first frame that belongs to the motion.
 */
export function recordedContacts({ clip, soles }: ClipTrace, legLength: number, first = 0, shaking: Shaking = CALM): RecordedContacts {
  const { frames, rate } = clip;
  const pace = Math.sqrt(GRAVITY * legLength);
  const feet = soles.map((s) => ({ name: s.foot.name, ...calmSole(s, frames, rate, first, shaking.cutoff) }));
  const slow = feet.map((foot) =>
    joinGaps(slowStretches(foot, frames, first, pace, shaking), foot, rate, legLength).filter(([a, b]) => (b - a + 1) / rate >= RECORDED.least),
  );
  const floor = floorLevel(feet, slow, legLength);
  const contacts = feet.flatMap((foot, i) =>
    slow[i]!.filter(([a, b]) => standsAt(foot, a, b, floor, frames, rate, legLength, first, shaking.floorOnly)).map(([from, to]): ClipContact => ({
      foot: foot.name,
      from,
      to,
    })),
  );
  return { contacts, floor };
}

/** The slowest of the sole's points at a frame. */
function slowest({ speeds }: CalmSole, f: number): number {
  let k = 0;
  for (let i = 1; i < 3; i++) if (speeds[f * 3 + i]! < speeds[f * 3 + k]!) k = i;
  return k;
}

function slowStretches(foot: CalmSole, frames: number, first: number, pace: number, { on, off }: Shaking): [number, number][] {
  const found: [number, number][] = [];
  let from = -1;
  for (let f = first; f <= frames; f++) {
    const speed = f < frames ? foot.speeds[f * 3 + slowest(foot, f)]! / pace : Infinity;
    if (from < 0 && speed < on) from = f;
    if (from >= 0 && speed > off) {
      found.push([from, f - 1]);
      from = -1;
    }
  }
  return found;
}

/** Takes two stretches for one where the foot hardly moves between them. */
function joinGaps(stretches: readonly [number, number][], { points }: CalmSole, rate: number, legLength: number): [number, number][] {
  const joined: [number, number][] = [];
  for (const [a, b] of stretches) {
    const last = joined[joined.length - 1];
    const stays = (k: number) =>
      Math.hypot(...[0, 1, 2].map((c) => points[a * 9 + k * 3 + c]! - points[last![1] * 9 + k * 3 + c]!)) < RECORDED.stays * legLength;
    if (last && (a - last[1]) / rate < RECORDED.gap && (stays(0) || stays(1))) last[1] = b;
    else joined.push([a, b]);
  }
  return joined;
}

/** Height of a point of the sole at a frame. */
const height = ({ points }: CalmSole, f: number, k: number): number => points[f * 9 + k * 3 + 1]!;

/** Part of the time feet are slow that the lowest level must have to be the floor; and how far over it the densest may lie. */
const FLOOR_SHARE = 0.08;
const FLOOR_SPREAD = 0.06;

/** The level on which feet are slow for most of the time, of those about the lowest. */
function floorLevel(feet: readonly CalmSole[], slow: readonly (readonly [number, number][])[], legLength: number): number {
  const levels: number[] = [];
  feet.forEach((foot, i) => {
    for (const [a, b] of slow[i]!) for (let f = a; f <= b; f++) levels.push(Math.min(height(foot, f, 0), height(foot, f, 1), height(foot, f, 2)));
  });
  if (levels.length === 0) return 0;
  const sorted = Float64Array.from(levels).sort();
  const least = Math.max(1, FLOOR_SHARE * sorted.length);
  // Windows as wide as a foot's unevenness: the first that holds enough, then the fullest not far above it.
  let end = 0,
    lowest = NaN,
    most = 0,
    floor = sorted[0]!;
  for (let i = 0; i < sorted.length; i++) {
    while (end < sorted.length && sorted[end]! - sorted[i]! < 0.02 * legLength) end++;
    if (Number.isNaN(lowest) && end - i >= least) lowest = sorted[i]!;
    if (Number.isNaN(lowest)) continue;
    if (sorted[i]! - lowest > FLOOR_SPREAD * legLength) break;
    if (end - i > most) {
      most = end - i;
      floor = sorted[(i + end) >> 1]!;
    }
  }
  return floor;
}

/** Whether a slow foot stands: on the floor, or on something it came down to. */
function standsAt(
  foot: CalmSole,
  a: number,
  b: number,
  floor: number,
  frames: number,
  rate: number,
  legLength: number,
  first: number,
  floorOnly: boolean,
): boolean {
  // The point that bears: the slowest over the stretch.
  const mean = [0, 1, 2].map((k) => {
    let sum = 0;
    for (let f = a; f <= b; f++) sum += foot.speeds[f * 3 + k]!;
    return sum;
  });
  const k = mean.indexOf(Math.min(...mean));
  let level = 0,
    low = Infinity;
  for (let f = a; f <= b; f++) {
    level += height(foot, f, k) / (b - a + 1);
    for (let i = 0; i < 3; i++) low = Math.min(low, height(foot, f, i));
  }
  if (low - floor < RECORDED.floor * legLength) return true;
  if (floorOnly) return false;
  const beside = Math.round(RECORDED.beside * rate);
  const before = a - beside >= first ? height(foot, a - beside, k) : Infinity,
    after = b + beside < frames ? height(foot, b + beside, k) : Infinity;
  if (before < level && after < level) return false;
  if (a === first) return true;
  let highest = -Infinity;
  for (let f = Math.max(first, a - Math.round(RECORDED.before * rate)); f <= a; f++) highest = Math.max(highest, height(foot, f, k));
  return highest - level >= RECORDED.drop * legLength;
}
