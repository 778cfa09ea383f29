import type { ClipContact } from '../clip/clip';
import type { ClipFigure } from '../clip/figure';
import { createPlacement } from '../math/placement';
import { wrapAngle } from '../math/scalar';
import { bodyWay } from './body-way';
import { ANGLES, CALM_HZ, footSeries, PLACES } from './foot-series';
import type { Track } from './track';

/**
 * What standing feet say of the travel a clip lacks, from each picture to the next: velocity (m/s, the clip's world) and turn
 * rate (rad/s). A loop's last step leads to its first picture.
 */
export interface LackingTravel {
  /** vx, vz, turn; 3 numbers a step; even through flight. */
  readonly rates: Float64Array;
  /** How much feet that stand say so, 0 to 1. */
  readonly weights: Float64Array;
}

/** Points of the sole that may be the one a foot stands on: offsets in a picture's places. */
const POINTS = [3, 6, 9] as const;
const POINT_NUMBERS = POINTS.length * 2;
/** Time (s) on either side over which what points usually ask for is taken, and over which the point that bears is told. */
const USUAL_S = 0.35;
const PIVOT_S = 0.05;
/** A sole pitched less than this (rad) tells the turn. */
const FLAT = 0.1;

/** Steps of standing feet from a picture to the next, contact by contact. */
interface Steps {
  readonly count: number;
  readonly at: Int32Array;
  readonly contact: Int32Array;
  readonly weight: Float64Array;
  /** Turn rate the foot asks for; NaN where it does not lie flat enough to be asked. */
  readonly turn: Float64Array;
  /** Which of its points is the lowest. */
  readonly lowest: Uint8Array;
  /** Velocity of each point, and where it is from the body: x, z; POINT_NUMBERS a step. */
  readonly moves: Float64Array;
  readonly arms: Float64Array;
}

/**
 * While a foot stands, the body must move against it: the travel that is lacking is minus the velocity of the point it stands on,
 * over both feet in double support, carried evenly through flight. Which point that is, is told by what most of them say: a point
 * that rolls moves otherwise. The turn is about the vertical through the middle of the body.
 */
export function lackingTravel(
  figure: ClipFigure,
  contacts: readonly ClipContact[],
  { first = 0, calm = CALM_HZ }: { readonly first?: number; readonly calm?: number } = {},
): LackingTravel {
  const { frames, rate, loop } = figure.clip;
  const steps = readSteps(figure, contacts, bodyWay(figure, first).places, first, calm);
  const { at, weight, moves, arms, lowest } = steps;
  const order = byFrame(at, frames);
  const window = Math.ceil(USUAL_S * rate);
  const turns = turning(steps) ? usualValues(steps.turn, at, order, frames, window, loop) : new Float64Array(frames);
  // Of a point's velocity the part that is the turn about the body is told by the turn.
  const asks = new Float64Array(moves.length);
  const asked = [new Float64Array(steps.count), new Float64Array(steps.count)] as const;
  for (let i = 0; i < steps.count; i++) {
    const turn = turns[at[i]!]!;
    for (let o = i * POINT_NUMBERS; o < (i + 1) * POINT_NUMBERS; o += 2) {
      asks[o] = -moves[o]! - turn * arms[o + 1]!;
      asks[o + 1] = -moves[o + 1]! + turn * arms[o]!;
    }
    for (const axis of [0, 1] as const) asked[axis][i] = asks[i * POINT_NUMBERS + lowest[i]! * 2 + axis]!;
  }
  const usual = asked.map((values) => usualValues(values, at, order, frames, window, loop)) as [Float64Array, Float64Array];
  const bearing = bearingPoints(steps, asks, usual, calm === Infinity ? 0 : Math.ceil(PIVOT_S * rate));
  const rates = new Float64Array(frames * 3),
    weights = new Float64Array(frames);
  for (let i = 0; i < steps.count; i++) {
    const f = at[i]!,
      o = i * POINT_NUMBERS + bearing[i]! * 2;
    weights[f] = weights[f]! + weight[i]!;
    rates[f * 3] = rates[f * 3]! + weight[i]! * asks[o]!;
    rates[f * 3 + 1] = rates[f * 3 + 1]! + weight[i]! * asks[o + 1]!;
  }
  for (let f = 0; f < frames; f++) {
    if (weights[f]! > 0) for (let k = 0; k < 2; k++) rates[f * 3 + k] = rates[f * 3 + k]! / weights[f]!;
    rates[f * 3 + 2] = turns[f]!;
  }
  fillGaps(rates, weights, frames, loop);
  return { rates, weights: weights.map((w) => Math.min(1, w)) };
}

function readSteps({ clip, feet }: ClipFigure, contacts: readonly ClipContact[], way: Float64Array, first: number, calm: number): Steps {
  const { frames, rate, loop, loopTravel: round } = clip;
  const series = new Map(feet.map((foot) => [foot.name, footSeries(clip, foot, first, calm)]));
  const most = contacts.reduce((sum, c) => sum + Math.max(0, Math.ceil(c.to - c.from)), 0);
  const steps = {
    count: 0,
    at: new Int32Array(most),
    contact: new Int32Array(most),
    weight: new Float64Array(most),
    turn: new Float64Array(most),
    lowest: new Uint8Array(most),
    moves: new Float64Array(most * POINT_NUMBERS),
    arms: new Float64Array(most * POINT_NUMBERS),
  };
  const index = (g: number) => ((g % frames) + frames) % frames;
  contacts.forEach(({ foot, from, to }, contact) => {
    const { places, angles } = series.get(foot)!;
    for (let f = Math.ceil(from); f + 1 <= to; f++) {
      if (!loop && (f < first || f + 1 >= frames)) continue;
      const i = steps.count++;
      const [a, b] = [index(f), index(f + 1)];
      const gone = Math.floor((f + 1) / frames) - Math.floor(f / frames);
      const u = (f + 0.5 - from) / (to - from);
      steps.at[i] = a;
      steps.contact[i] = contact;
      // The weights with which steps make the straight line of least squares; a foot that arrives or leaves says least.
      steps.weight[i] = calm === Infinity ? 1 : (4 * u * (1 - u)) ** 2;
      steps.turn[i] = Math.abs(angles[a * ANGLES + 1]!) < FLAT ? -wrapAngle(angles[b * ANGLES]! - angles[a * ANGLES]!) * rate : NaN;
      let lowest = Infinity;
      for (let p = 0; p < POINTS.length; p++) {
        const [p0, p1] = [a * PLACES + POINTS[p]!, b * PLACES + POINTS[p]!];
        const o = i * POINT_NUMBERS + p * 2;
        for (const [axis, k] of [0, 2].entries()) {
          steps.moves[o + axis] = (places[p1 + k]! + gone * round[k]! - places[p0 + k]!) * rate;
          steps.arms[o + axis] = (places[p0 + k]! + places[p1 + k]! - way[a * 4 + k]! - way[b * 4 + k]!) / 2;
        }
        const height = places[p0 + 1]! + places[p1 + 1]!;
        if (height >= lowest) continue;
        lowest = height;
        steps.lowest[i] = p;
      }
    }
  });
  return { ...steps, at: steps.at.subarray(0, steps.count), moves: steps.moves.subarray(0, steps.count * POINT_NUMBERS) };
}

/** A body whose flat feet turn less than this (rad/s), or not nearly all the same way, does not turn: they twist, swivel and shake. */
const TURNS_RAD_S = 0.12;
const SAME_WAY = 0.8;
/** Contacts it takes to tell so. */
const TURN_CONTACTS = 3;

/** Whether the flat feet ask the body to turn. */
function turning({ count, contact, weight, turn }: Steps): boolean {
  const means: number[] = [];
  for (let i = 0; i < count;) {
    let [sum, all] = [0, 0];
    const own = contact[i]!;
    for (; i < count && contact[i] === own; i++) {
      if (Number.isNaN(turn[i])) continue;
      sum += weight[i]! * turn[i]!;
      all += weight[i]!;
    }
    if (all > 0) means.push(sum / all);
  }
  const mean = means.reduce((s, m) => s + m, 0) / Math.max(1, means.length);
  return Math.abs(mean) > TURNS_RAD_S && means.length >= TURN_CONTACTS && means.filter((m) => m * mean > 0).length >= SAME_WAY * means.length;
}

/** Which point bears in each step: over a moment the one nearest to what is usual, as of one step alone shaking would choose. */
function bearingPoints({ count, at, contact }: Steps, asks: Float64Array, usual: readonly [Float64Array, Float64Array], around: number): Uint8Array {
  const misses = POINTS.map((_, p) => {
    const sums = new Float64Array(count + 1);
    for (let i = 0; i < count; i++) {
      const o = i * POINT_NUMBERS + p * 2;
      sums[i + 1] = sums[i]! + (asks[o]! - usual[0][at[i]!]!) ** 2 + (asks[o + 1]! - usual[1][at[i]!]!) ** 2;
    }
    return sums;
  });
  const bearing = new Uint8Array(count);
  for (let i = 0, own = 0; i < count; i++) {
    if (i > 0 && contact[i] !== contact[i - 1]) own = i;
    let to = i;
    while (to < i + around && to + 1 < count && contact[to + 1] === contact[i]) to++;
    const from = Math.max(own, i - around);
    for (let p = 1; p < misses.length; p++) {
      const best = misses[bearing[i]!]!;
      if (misses[p]![to + 1]! - misses[p]![from]! < best[to + 1]! - best[from]!) bearing[i] = p;
    }
  }
  return bearing;
}

/** Steps in the order of their pictures, and where each picture's begin. */
function byFrame(at: Int32Array, frames: number): { readonly steps: Int32Array; readonly first: Int32Array } {
  const first = new Int32Array(frames + 1);
  for (let i = 0; i < at.length; i++) first[at[i]! + 1] = first[at[i]! + 1]! + 1;
  for (let f = 0; f < frames; f++) first[f + 1] = first[f + 1]! + first[f]!;
  const next = first.slice();
  const steps = new Int32Array(at.length);
  for (let i = 0; i < at.length; i++) {
    const o = at[i]!;
    steps[next[o]!] = i;
    next[o] = next[o]! + 1;
  }
  return { steps, first };
}

/** What steps say around each picture: the middle of those values in a window that lie closest together; 0 where none says any. */
function usualValues(
  values: Float64Array,
  at: Int32Array,
  { steps, first }: ReturnType<typeof byFrame>,
  frames: number,
  window: number,
  loop: boolean,
): Float64Array {
  const usual = new Float64Array(frames);
  const stride = Math.max(1, window >> 2);
  const found = new Float64Array(at.length * 3);
  for (let f = 0; f < frames; f += stride) {
    let n = 0;
    for (let g = f - window; g <= f + window && n < found.length; g++) {
      const frame = loop ? ((g % frames) + frames) % frames : g;
      if (frame < 0 || frame >= frames) continue;
      for (let i = first[frame]!; i < first[frame + 1]! && n < found.length; i++) {
        const v = values[steps[i]!]!;
        if (!Number.isNaN(v)) found[n++] = v;
      }
    }
    usual.fill(n > 0 ? closest(found.subarray(0, n)) : 0, f, Math.min(frames, f + stride));
  }
  return usual;
}

/** Part of the asks that surely stand. */
const STANDING_SHARE = 0.4;

/** Middle of the values that lie closest together: points that stand all ask alike, points that roll do not. */
function closest(values: Float64Array): number {
  const sorted = values.slice().sort();
  const n = Math.max(1, Math.ceil(STANDING_SHARE * sorted.length));
  let first = 0;
  for (let i = 0; i + n <= sorted.length; i++) if (sorted[i + n - 1]! - sorted[i]! < sorted[first + n - 1]! - sorted[first]!) first = i;
  return sorted[first + (n >> 1)]!;
}

/** Steps in which no foot stands get what lies evenly between those in which one does. */
function fillGaps(rates: Float64Array, weights: Float64Array, frames: number, loop: boolean): void {
  const known: number[] = [];
  for (let f = 0; f < frames; f++) if (weights[f]! > 0) known.push(f);
  if (known.length === 0) return;
  for (let f = 0, i = 0; f < frames; f++) {
    while (i < known.length && known[i]! < f) i++;
    if (known[i] === f) continue;
    const before = i > 0 ? known[i - 1]! : loop ? known[known.length - 1]! - frames : known[0]!,
      after = i < known.length ? known[i]! : loop ? known[0]! + frames : known[known.length - 1]!;
    const u = after === before ? 0 : (f - before) / (after - before);
    const [p, q] = [((before % frames) + frames) % frames, after % frames];
    for (let k = 0; k < 3; k++) rates[f * 3 + k] = rates[p * 3 + k]! * (1 - u) + rates[q * 3 + k]! * u;
  }
}

/** The clip's own way with what is lacking added: the travel with which feet stand. `own`: the way that is taken out. */
export function contactTravel({ clip: { frames, rate, loop } }: ClipFigure, own: Track, { rates }: LackingTravel, first = 0): Track {
  const places = own.places.slice();
  // What is added so far: the body's own step is seen turned by it.
  let [x, z, yaw] = [0, 0, 0];
  for (let f = first; f < frames - (loop ? 0 : 1); f++) {
    const turn = rates[f * 3 + 2]! / rate;
    const half = yaw + turn / 2;
    const [s, c] = [Math.sin(half), Math.cos(half)];
    const [ox, oz] = f + 1 < frames ? [0, 2].map((k) => own.places[f * 4 + 4 + k]! - own.places[f * 4 + k]!) : [0, 0];
    const dx = rates[f * 3]! / rate + ox!,
      dz = rates[f * 3 + 1]! / rate + oz!;
    x += c * dx + s * dz - ox!;
    z += -s * dx + c * dz - oz!;
    yaw += turn;
    if (f + 1 === frames) break;
    const at = (f + 1) * 4;
    places[at] = own.places[at]! + x;
    places[at + 2] = own.places[at + 2]! + z;
    places[at + 3] = own.places[at + 3]! + yaw;
  }
  return { places, round: loop ? addedRound(own, x, z, yaw) : createPlacement() };
}

/** What a round adds once (x, z) and a turn are added to where it ends. */
function addedRound({ places, round }: Track, x: number, z: number, yaw: number): Float64Array {
  // Where the body ends, and its start turned there by the whole of the round: the rest is the round's way.
  const turn = round[3]! + yaw;
  const [s, c] = [Math.sin(turn), Math.cos(turn)];
  const [sr, cr] = [Math.sin(round[3]!), Math.cos(round[3]!)];
  const endX = round[0]! + cr * places[0]! + sr * places[2]! + x,
    endZ = round[2]! - sr * places[0]! + cr * places[2]! + z;
  return createPlacement(endX - (c * places[0]! + s * places[2]!), round[1], endZ - (-s * places[0]! + c * places[2]!), turn);
}
