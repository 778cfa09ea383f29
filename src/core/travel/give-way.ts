import { lowPass } from '../math/low-pass';
import { addRow, createBand, solveBand } from '../math/band';

/** What one leg asks of the hips: arrays by picture. Metres, world frame. */
export interface LegAsk {
  /** From the hip joint to the ankle as recorded, 3 a picture. */
  readonly reach: Float64Array;
  /** How the ankle is moved, 3 a picture. */
  readonly moved: (f: number, k: number) => number;
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
}

/** Weights: what the hips may move (m) and be accelerated (m/s²), how a knee may be bent anew (rad), and the least a leg's length counts (m). */
const MOVES_M = 0.01,
  ACCELERATES = 3,
  BENDS = 0.1,
  LEAST_M = 0.003;
/** A swinging leg asks this much of what a standing one does. */
const SWINGS = 0.15;
/** Rounds in which legs that are too far are pulled, each harder. */
const ROUNDS = 5;
/** Part of the body's shaking that is taken out. */
const SHAKES = 0.2;
const WIDTH = 9;
/** Hz above which a leg's length is taken for shaking; and the knee's angular acceleration (rad/s²) that counts as one. */
const STEADY_HZ = 8,
  SNAPS = 120,
  LEAST_PER_RAD = 0.03;

/**
 * How the hips move (3 numbers a picture, m, world) so that legs whose ankles are moved keep their bend as well as may be, gently,
 * and none that stands is stretched beyond its reach; `jitter`: what shakes in the body's own way (3 a picture, m). Least squares over the whole clip: linear in its length.
 */
export function giveWay(frames: number, legs: readonly LegAsk[], jitter: Float64Array, { reach, rate }: GiveWay): Float64Array {
  const given = new Float64Array(frames * 3);
  const pulls = legs.map(() => new Float64Array(frames));
  const lengths = legs.map((leg) => steadyLengths(leg, frames, rate));
  for (let round = 0; round < ROUNDS; round++) {
    const band = createBand(frames * 3, WIDTH, false);
    const row = new Float64Array(WIDTH);
    for (let f = 0; f < frames; f++)
      for (let k = 0; k < 3; k++) {
        row[0] = 1 / MOVES_M;
        addRow(band, f * 3 + k, 1, row, 0);
        if (f + 2 >= frames) continue;
        const w = (rate * rate) / ACCELERATES;
        row[0] = w;
        row[3] = -2 * w;
        row[6] = w;
        // While a foot is held, what shakes in the body's way is taken out of it rather than given to the knee.
        const shakes = legs.some((l) => l.held[f + 1]! > 0) ? jitter[f * 3 + k]! - 2 * jitter[f * 3 + 3 + k]! + jitter[f * 3 + 6 + k]! : 0;
        addRow(band, f * 3 + k, 7, row, w * SHAKES * shakes);
      }
    legs.forEach((leg, i) => {
      for (let f = 0; f < frames; f++) legRows(band, row, leg, f, given, pulls[i]!, reach, round);
      for (let f = 0; f + 2 < frames; f++) if (leg.held[f]! > 0.5 && leg.held[f + 2]! > 0.5) kneeRow(band, row, leg, lengths[i]!, f, rate);
    });
    given.set(band.right);
    solveBand(band, given);
    if (!stretched(legs, given, pulls, reach)) break;
  }
  return given;
}

/** Rows of one leg at one picture: its length as recorded, and within reach where it was found too long. */
function legRows(
  band: ReturnType<typeof createBand>,
  row: Float64Array,
  leg: LegAsk,
  f: number,
  given: Float64Array,
  pulls: Float64Array,
  reach: number,
  round: number,
): void {
  const u = [0, 1, 2].map((k) => leg.reach[f * 3 + k]!) as [number, number, number];
  const d = Math.hypot(...u);
  const along = [0, 1, 2].reduce((sum, k) => sum + (u[k]! / d) * leg.moved(f, k), 0);
  const held = leg.held[f]!;
  if (held > 0 || Math.abs(along) > 0 || f % 4 === 0) {
    // A straight knee minds each millimetre, a bent one few.
    const w = Math.sqrt(SWINGS + (1 - SWINGS) * held) / Math.max(LEAST_M, BENDS * perRadian(leg, d));
    for (let k = 0; k < 3; k++) row[k] = (w * u[k]!) / d;
    addRow(band, f * 3, 3, row, -w * along);
  }
  if (pulls[f]! === 0) return;
  // The leg as it is now; its length is brought to its limit.
  const now = [0, 1, 2].map((k) => u[k]! + leg.moved(f, k) - given[f * 3 + k]!);
  const length = Math.hypot(...now);
  const w = (2 ** round * 4) / LEAST_M;
  for (let k = 0; k < 3; k++) row[k] = (w * now[k]!) / length;
  const offset = [0, 1, 2].reduce((sum, k) => sum + (now[k]! / length) * given[f * 3 + k]!, 0);
  addRow(band, f * 3, 3, row, -w * (offset + length - limitOf(leg, d, reach)));
}

/** Length of a leg as recorded without its shaking. */
function steadyLengths({ reach }: LegAsk, frames: number, rate: number): Float64Array {
  const lengths = new Float64Array(frames);
  for (let f = 0; f < frames; f++) lengths[f] = Math.hypot(reach[f * 3]!, reach[f * 3 + 1]!, reach[f * 3 + 2]!);
  lowPass(lengths, 0, 1, frames, STEADY_HZ, rate);
  return lengths;
}

/** A held leg's knee goes as gently as the recorded one without its shaking. */
function kneeRow(band: ReturnType<typeof createBand>, row: Float64Array, leg: LegAsk, lengths: Float64Array, first: number, rate: number): void {
  let residual = 0;
  const d = Math.hypot(leg.reach[first * 3 + 3]!, leg.reach[first * 3 + 4]!, leg.reach[first * 3 + 5]!);
  const w = (rate * rate) / (SNAPS * Math.max(LEAST_PER_RAD, perRadian(leg, d)));
  for (let i = 0; i < 3; i++) {
    const f = first + i,
      share = i === 1 ? -2 : 1;
    const now = Math.hypot(...[0, 1, 2].map((k) => leg.reach[f * 3 + k]! + leg.moved(f, k)));
    residual += share * w * (now - lengths[f]!);
    for (let k = 0; k < 3; k++) row[i * 3 + k] = (-share * w * (leg.reach[f * 3 + k]! + leg.moved(f, k))) / now;
  }
  addRow(band, first * 3, WIDTH, row, residual);
}

/** How far (m) a leg of length d changes it per radian of its knee. */
function perRadian({ thigh, shank }: LegAsk, d: number): number {
  const cos = Math.min(1, Math.max(-1, (thigh * thigh + shank * shank - d * d) / (2 * thigh * shank)));
  return (thigh * shank * Math.sqrt(1 - cos * cos)) / d;
}

/** Length a held leg may have: its reach, or what the recording itself has, short of straight. */
const limitOf = ({ thigh, shank }: LegAsk, recorded: number, reach: number): number =>
  Math.min(0.9995 * (thigh + shank), Math.max(reach * (thigh + shank), recorded - 1e-4));

/** Marks legs that are too long, and no others; whether there are any. */
function stretched(legs: readonly LegAsk[], given: Float64Array, pulls: readonly Float64Array[], reach: number): boolean {
  let any = false;
  legs.forEach((leg, i) => {
    for (let f = 0; f < leg.held.length; f++) {
      if (leg.held[f] === 0) continue;
      let square = 0,
        before = 0;
      for (let k = 0; k < 3; k++) {
        square += (leg.reach[f * 3 + k]! + leg.moved(f, k) - given[f * 3 + k]!) ** 2;
        before += leg.reach[f * 3 + k]! ** 2;
      }
      // A leg that is pulled and has come short of its limit would be pushed: it is let go.
      const over = Math.sqrt(square) - limitOf(leg, Math.sqrt(before), reach);
      if (over > 1e-5) any = true;
      pulls[i]![f] = over > (pulls[i]![f] === 1 ? 0 : 1e-5) ? 1 : 0;
    }
  });
  return any;
}
