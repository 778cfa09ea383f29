import { addRow, createBand, solveBand } from '../math/band';
import { lowPass } from '../math/low-pass';
import { acosClamped, clamp, lerp } from '../math/scalar';

/** What one leg asks of the hips: arrays by picture. Metres, world frame. */
export interface LegAsk {
  /** From the hip joint to the ankle without shaking, 3 a picture. */
  readonly reach: Float64Array;
  /** How the ankle is moved from there, 3 a picture. */
  readonly moved: Float64Array;
  /** How far they are apart as recorded, m a picture. */
  readonly recorded: Float64Array;
  /** Whether the foot is held at a picture, 0 to 1. */
  readonly held: Float64Array;
  /** Lengths of thigh and shank. */
  readonly thigh: number;
  readonly shank: number;
}

/** How the hips give way. */
export interface GiveWay {
  /** Farthest a held leg is stretched, part of its length. */
  readonly reach: number;
  readonly rate: number;
  /** First frame that belongs to the motion. */
  readonly first: number;
  /** Whether the recorded knees shake. */
  readonly shakes: boolean;
}

/** What counts alike: hips moved (m; those moved far more and more) and accelerated (m/s²), a knee bent anew (rad), a knee's angular acceleration (rad/s²) that is not as recorded. */
const MOVES_M = 0.012,
  FAR_M = 0.02,
  ACCELERATES = 2,
  BENDS = 0.1,
  SNAPS = 40;
/** A swinging knee that is bent anew counts so much of a standing one; in one that stands the recorded bend counts without what is quicker than this (Hz). */
const SWINGS = 4;
const STEADY_HZ = 7;
/** Rounds: the knees' bend is found anew in each, and legs that are too long are pulled harder. */
const ROUNDS = 6;
const STEP_M = 0.004;
/** From this acceleration on (rad/s²) a knee's counts more, in each round in which it stays so, so many times at most. */
const SUDDEN = 230;
const HEAVIEST = 5;
/** A leg nearer to straight changes its knee by more than can be told: so far (m) a radian at least. */
const LEAST_PER_RAD = 0.04;
const WIDTH = 9;

interface Knee {
  readonly leg: LegAsk;
  /** The bend (rad) that is asked for, and its weight from round to round, by picture. */
  readonly asked: Float64Array;
  readonly weights: Float64Array;
  readonly pulls: Uint8Array;
  /** So much (m) shorter than the longest recorded a leg that shakes is kept. */
  readonly short: number;
  /** As it is now: bend (rad), its change with the hips' place (rad/m, 3 a picture). */
  readonly bend: Float64Array;
  readonly slope: Float64Array;
}

/**
 * How the hips move (3 numbers a picture, m, world) so that legs whose ankles are moved keep their bend as well as may be, their
 * knees are bent as gently as recorded, and none that stands is stretched beyond its reach. Least squares over the whole clip,
 * a few rounds (Gauss–Newton), linear in its length.
 */
export function giveWay(frames: number, legs: readonly LegAsk[], { reach, rate, first, shakes }: GiveWay): Float64Array {
  const given = new Float64Array(frames * 3);
  const knees = legs.map((leg) => kneeOf(leg, frames, rate, first, shakes));
  for (let round = 0; round < ROUNDS; round++) {
    const band = createBand(frames * 3, WIDTH, false);
    hipRows(band, given, frames, rate);
    for (const knee of knees) {
      look(knee, given);
      bendRows(band, knee, given);
      gentleRows(band, knee, given, rate, first);
      pullRows(band, knee, given, reach, round);
    }
    given.set(band.right);
    solveBand(band, given);
    for (const knee of knees) markLong(knee, given, reach);
  }
  return given;
}

function kneeOf(leg: LegAsk, frames: number, rate: number, first: number, shakes: boolean): Knee {
  const bend = new Float64Array(frames);
  for (let f = 0; f < frames; f++) bend[f] = bendOf(leg, Math.hypot(leg.reach[f * 3]!, leg.reach[f * 3 + 1]!, leg.reach[f * 3 + 2]!));
  const steady = bend.slice();
  if (shakes) lowPass(steady, first, 1, frames - first, STEADY_HZ, rate);
  return {
    leg,
    asked: bend.map((b, f) => lerp(b, steady[f]!, leg.held[f]!)),
    weights: new Float64Array(frames).fill(1),
    pulls: new Uint8Array(frames),
    short: shakes ? SHORT_M : 0,
    bend: new Float64Array(frames),
    slope: new Float64Array(frames * 3),
  };
}

/** Bend (rad) of a knee whose hip and ankle are d apart; nearly straight, and beyond, it goes on evenly. */
function bendOf({ thigh, shank }: LegAsk, d: number): number {
  // Where the bend changes by a radian on LEAST_PER_RAD.
  const least = LEAST_PER_RAD * (1 / thigh + 1 / shank);
  const far = Math.sqrt(thigh * thigh + shank * shank + 2 * thigh * shank * Math.sqrt(1 - least * least));
  if (d > far) return Math.asin(least) - (d - far) / perRadian(Math.asin(least), thigh, shank, far);
  return Math.PI - acosClamped((thigh * thigh + shank * shank - d * d) / (2 * thigh * shank));
}

/** How far (m) a leg of length d changes it per radian of its knee. */
const perRadian = (bend: number, thigh: number, shank: number, d: number): number => (thigh * shank * Math.sin(bend)) / d;

/** Bend and slope of a knee with the hips where they are. */
function look({ leg, bend, slope }: Knee, given: Float64Array): void {
  const { thigh, shank, reach, moved, held } = leg;
  for (let f = 0; f < held.length; f++) {
    let square = 0;
    for (let k = f * 3; k < f * 3 + 3; k++) {
      slope[k] = reach[k]! + moved[k]! - given[k]!;
      square += slope[k]! * slope[k]!;
    }
    const d = Math.sqrt(square);
    bend[f] = bendOf(leg, d);
    const least = Math.asin(LEAST_PER_RAD * (1 / thigh + 1 / shank));
    const perRad = perRadian(Math.max(least, bend[f]!), thigh, shank, d);
    // Hips that go towards the ankle bend the knee.
    for (let k = f * 3; k < f * 3 + 3; k++) slope[k] = slope[k]! / d / perRad;
  }
}

/** Hips that hardly move, gently, and in a round not far from where they were. */
function hipRows(band: ReturnType<typeof createBand>, given: Float64Array, frames: number, rate: number): void {
  const row = new Float64Array(7);
  const w = (rate * rate) / ACCELERATES;
  for (let f = 0; f < frames; f++) {
    const far = Math.hypot(given[f * 3]!, given[f * 3 + 1]!, given[f * 3 + 2]!) / FAR_M;
    for (let k = 0; k < 3; k++) {
      row[0] = (1 + far * far) / MOVES_M;
      addRow(band, f * 3 + k, 1, row, 0);
      row[0] = 1 / STEP_M;
      addRow(band, f * 3 + k, 1, row, -given[f * 3 + k]! / STEP_M);
      if (f + 2 >= frames) continue;
      row[0] = row[6] = w;
      row[3] = -2 * w;
      addRow(band, f * 3 + k, 7, row, 0);
    }
  }
}

/** Each knee as it is asked to be bent. */
function bendRows(band: ReturnType<typeof createBand>, { leg, asked, bend, slope }: Knee, given: Float64Array): void {
  const row = new Float64Array(3);
  for (let f = 0; f < asked.length; f++) {
    const w = lerp(SWINGS, 1, leg.held[f]!) / BENDS;
    let now = bend[f]! - asked[f]!;
    for (let k = 0; k < 3; k++) {
      row[k] = w * slope[f * 3 + k]!;
      now -= slope[f * 3 + k]! * given[f * 3 + k]!;
    }
    addRow(band, f * 3, 3, row, w * now);
  }
}

/** Each knee as gently bent as it is asked to be; what stays sudden counts more and more. */
function gentleRows(band: ReturnType<typeof createBand>, { leg, asked, bend, slope, weights }: Knee, given: Float64Array, rate: number, first: number): void {
  const row = new Float64Array(WIDTH);
  const perS2 = rate * rate;
  for (let f = first + 1; f + 1 < asked.length; f++) {
    // Of a leg that swings hips that go gently change the knee gently.
    const held = Math.min(leg.held[f - 1]!, leg.held[f + 1]!);
    if (held === 0) continue;
    const second = (v: Float64Array) => v[f - 1]! - 2 * v[f]! + v[f + 1]!;
    const own = Math.abs(second(bend)) * perS2,
      was = Math.abs(second(asked)) * perS2;
    if (own > Math.max(SUDDEN, was)) weights[f] = Math.min(HEAVIEST, weights[f]! * clamp(own / Math.max(SUDDEN, was), 1, 1.6));
    const w = (held * weights[f]! * perS2) / SNAPS;
    let now = second(bend) - second(asked);
    for (let i = 0; i < 3; i++) {
      const share = i === 1 ? -2 : 1;
      const o = (f - 1 + i) * 3;
      for (let k = 0; k < 3; k++) {
        row[i * 3 + k] = w * share * slope[o + k]!;
        now -= share * slope[o + k]! * given[o + k]!;
      }
    }
    addRow(band, (f - 1) * 3, WIDTH, row, w * now);
  }
}

/** A recorded leg is kept so much shorter than it was, m. */
const SHORT_M = 1e-4;

/** Weight of a leg that is too long, per m. */
const PULLS = 1300;

/** Legs that were found too long are brought to their limit. */
function pullRows(band: ReturnType<typeof createBand>, { leg, pulls, short }: Knee, given: Float64Array, reach: number, round: number): void {
  const row = new Float64Array(3);
  const w = PULLS * 2 ** round;
  for (let f = 0; f < pulls.length; f++) {
    if (pulls[f] === 0) continue;
    const [length, recorded] = lengthsOf(leg, given, f);
    let now = length - limitOf(leg, recorded - short, reach);
    for (let k = 0; k < 3; k++) {
      const along = (leg.reach[f * 3 + k]! + leg.moved[f * 3 + k]! - given[f * 3 + k]!) / length;
      row[k] = -w * along;
      now += along * given[f * 3 + k]!;
    }
    addRow(band, f * 3, 3, row, w * now);
  }
}

/** How long a leg is with the hips where they are, and as recorded. */
function lengthsOf({ reach, moved }: LegAsk, given: Float64Array, f: number): [number, number] {
  let [square, before] = [0, 0];
  for (let k = f * 3; k < f * 3 + 3; k++) {
    square += (reach[k]! + moved[k]! - given[k]!) ** 2;
    before += reach[k]! ** 2;
  }
  return [Math.sqrt(square), Math.sqrt(before)];
}

/** Length a held leg may have: its reach, or what the recording itself has, short of straight. */
const limitOf = ({ thigh, shank }: LegAsk, recorded: number, reach: number): number =>
  Math.min(0.9995 * (thigh + shank), Math.max(reach * (thigh + shank), recorded));

/** Marks legs that are too long, and no others. */
function markLong({ leg, pulls, short }: Knee, given: Float64Array, reach: number): void {
  for (let f = 0; f < pulls.length; f++) {
    if (leg.held[f] === 0) continue;
    const [length, recorded] = lengthsOf(leg, given, f);
    // A leg that is pulled and has come short of its limit would be pushed: it is let go.
    const over = length - limitOf(leg, recorded - short, reach);
    pulls[f] = over > (pulls[f] === 1 ? -1e-4 : 1e-5) ? 1 : 0;
  }
}
