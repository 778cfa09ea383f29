import { multiply, rotateFrom } from '../math/quaternion';
import { fromRotationVector, toRotationVector } from '../math/rotation-vector';
import { clamp, lerp, smoothstep, toRadians } from '../math/scalar';
import { soleRotation } from '../body/foot-frame';
import { ANGLES, PLACES, RAW, type FootSeries } from './foot-series';
import type { Hold } from './names';

/** How a foot is held. Lengths in m, times in s, angles in rad. */
export interface FootLock {
  readonly hold: Hold;
  /** Longest time over which it is taken into a lock and out of it. */
  readonly blend: number;
  /** The floor's level, and what is within `near` of it stands on it. */
  readonly floor: number;
  readonly near: number;
}

/** A sole nearer to level than `flat` lies level; past `free` it goes as recorded. */
const FLAT = toRadians(2);
const FREE = toRadians(20);
/** A foot that stands steeper than this stands on its ball or its heel. */
const LEVEL = toRadians(5);
/** Slower than this (m/s), and nearer to level than this, heel and ball both bear. */
const STILL = 0.15;
const LYING = toRadians(10);
/** Least part of a contact, or time (s), that a foot must lie flat to have a flat place. */
const LEAST_S = 0.05;
/** With the heel up by so much, toes that turn by so much are leaving the ground. */
const HEEL_UP = toRadians(8);
const TOES_UP = toRadians(6);
/** A heel lower than the ball by this part of what counts as the same level hangs in the air. */
const HANGS = 0.45;
/** A bearing point quicker than this (m/s) at the end of a contact is leaving. */
const LEAVES = 0.13;
/** A bearing point farther (m) over its level is arriving or leaving. */
const OFF_LEVEL = 0.007;
const TURN_FREE = toRadians(15);
/** A sole that is made level by more than this (rad) while it is pitched quicker than this (rad/s) is still being put down, or already taken up. */
const LEVELLED = toRadians(1.5);
const PITCHES = 1;
/** From this pitch rate on (rad/s) a sole is made level less and less, up to that from which on it goes as recorded. */
const ROLLS = 0.6;
const ROLLS_ON = 2.5;

/** Numbers a picture of how a foot is moved by a lock: its ankle's place, turn of the ankle, turn of the toes (rotation vectors, world). */
export const SHIFT = 9;

/** Where a foot stands in a contact. */
interface Stand {
  /** The flat sole's angles, and the toes' heading and pitch. */
  readonly heading: number;
  readonly pitch: number;
  readonly roll: number;
  readonly toesHeading: number;
  readonly toesPitch: number;
  /** The toes' pitch as they are recorded to stand. */
  readonly toesRest: number;
  /** Height the bearing point is recorded to stand at, m. */
  readonly level: number;
  /** Fixed places: ball where the foot has a flat place or stands on its ball; heel where it stands on its heel alone. */
  readonly at: Float64Array;
  readonly bears: 'sole' | 'ball' | 'heel';
}

/**
 * Writes into `shift` (SHIFT a picture) how a foot must be moved in frames `from` to `to` so that it stands; returns the first and
 * last frame of that: what is still arriving or already leaving, its toes before it, is not held.
 */
export function holdFoot(series: FootSeries, from: number, to: number, lock: FootLock, rate: number, shift: Float64Array): [number, number] {
  const stand = standOf(series, from, to, lock, rate);
  const { frame, raw, angles } = series;
  const sole = new Float64Array(4),
    toes = new Float64Array(4),
    flat = new Float64Array(4),
    flatToes = new Float64Array(4),
    relation = new Float64Array(4),
    v = new Float64Array(3),
    hinge = new Float64Array(3),
    heel = new Float64Array(3),
    ankle = new Float64Array(3),
    q = new Float64Array(4);
  soleRotation(stand.heading, stand.pitch, stand.roll, flat, 0);
  soleRotation(stand.toesHeading, stand.toesPitch, stand.roll, flatToes, 0);
  if (stand.bears === 'heel') heel.set(stand.at);
  else {
    // The hinge over the standing ball, the heel behind it.
    rotateFrom(v, 0, flatToes, 0, frame.ball, 0);
    for (let k = 0; k < 3; k++) hinge[k] = stand.at[k]! - v[k]!;
    rotateFrom(v, 0, flat, 0, frame.hinge, 0);
    for (let k = 0; k < 3; k++) heel[k] = hinge[k]! - v[k]!;
    rotateFrom(v, 0, flat, 0, frame.heel, 0);
    for (let k = 0; k < 3; k++) heel[k] = heel[k]! + v[k]!;
  }
  conjugateTimes(relation, flat, flatToes);
  let [start, last] = [-1, from];
  for (let f = from; f <= to; f++) {
    const a = f * ANGLES;
    const pitched = angles[a + 1]! - stand.pitch;
    const rolls = pitchRate(series, f, rate);
    const lift = stand.bears === 'sole' ? lerp(flattened(pitched), pitched, smoothstep(ROLLS, ROLLS_ON, rolls)) : pitched;
    const free = stand.bears === 'sole' ? smoothstep(0, TURN_FREE, Math.abs(lift)) : 1;
    const turn = lock.hold === 'place' ? angles[a]! - stand.heading : stand.bears === 'sole' ? 0.5 * free * clamp(angles[a]! - stand.heading, -0.3, 0.3) : 0;
    soleRotation(stand.heading + turn, stand.pitch + lift, stand.roll + free * (angles[a + 2]! - stand.roll), sole, 0);
    const onHeel = stand.bears === 'heel' || (stand.bears === 'sole' && lift > 0);
    if (onHeel) {
      rotateFrom(v, 0, sole, 0, frame.heel, 0);
      for (let k = 0; k < 3; k++) ankle[k] = heel[k]! - v[k]!;
      multiply(toes, 0, sole, 0, relation, 0);
    } else {
      soleRotation(stand.toesHeading + (lock.hold === 'place' ? turn : 0), stand.toesPitch, stand.roll, toes, 0);
      rotateFrom(q, 0, sole, 0, frame.hinge, 0);
      for (let k = 0; k < 3; k++) ankle[k] = hinge[k]! - q[k]!;
    }
    const o = f * SHIFT;
    for (let k = 0; k < 3; k++) shift[o + k] = ankle[k]! - raw[f * RAW + k]!;
    // From the sole's frames to the joints', then what turns the recorded ones there.
    timesConjugate(q, sole, frame.sole);
    turnBetween(shift, o + 3, raw, f * RAW + 3, q);
    timesConjugate(q, toes, frame.toes);
    turnBetween(shift, o + 6, raw, f * RAW + 7, q);
    if (stand.bears === 'sole' && lift < -HEEL_UP && angles[a + 4]! - stand.toesRest < -TOES_UP) continue;
    if (Math.abs(lift - pitched) > LEVELLED && rolls > PITCHES) continue;
    if (!stays(series, f, onHeel ? 3 : 6, onHeel ? heel[1]! + stand.level - stand.at[1]! : stand.level, rate)) continue;
    if (start < 0) start = f;
    last = f;
  }
  if (start < 0) [start, last] = [(from + to) >> 1, (from + to) >> 1];
  shift.fill(0, from * SHIFT, start * SHIFT);
  shift.fill(0, (last + 1) * SHIFT, (to + 1) * SHIFT);
  return [start, last];
}

/** How quickly a sole is pitched at a frame, rad/s. */
function pitchRate({ angles }: FootSeries, f: number, rate: number): number {
  const a = Math.max(0, f - 1),
    b = Math.min(angles.length / ANGLES - 1, f + 1);
  return a === b ? 0 : (Math.abs(angles[b * ANGLES + 1]! - angles[a * ANGLES + 1]!) * rate) / (b - a);
}

/** Whether the point of the sole at offset `o` of a picture's places is still at a frame, and at its level. */
function stays({ places }: FootSeries, f: number, o: number, level: number, rate: number): boolean {
  const last = places.length / PLACES - 1;
  const a = Math.max(0, f - 1),
    b = Math.min(last, f + 1);
  const speed = (Math.hypot(...[0, 1, 2].map((k) => places[b * PLACES + o + k]! - places[a * PLACES + o + k]!)) * rate) / (b - a);
  return speed < LEAVES && Math.abs(places[f * PLACES + o + 1]! - level) < OFF_LEVEL;
}

/** out = conj(a) · b, and a · conj(b). */
function conjugateTimes(out: Float64Array, a: Float64Array, b: Float64Array): void {
  multiply(out, 0, [-a[0]!, -a[1]!, -a[2]!, a[3]!], 0, b, 0);
}
function timesConjugate(out: Float64Array, a: Float64Array, b: Float64Array): void {
  multiply(out, 0, a, 0, [-b[0]!, -b[1]!, -b[2]!, b[3]!], 0);
}
function turnBetween(out: Float64Array, o: number, from: Float64Array, i: number, to: Float64Array): void {
  multiply(D, 0, to, 0, [-from[i]!, -from[i + 1]!, -from[i + 2]!, from[i + 3]!], 0);
  toRotationVector(out, o, D, 0);
}
const D = new Float64Array(4);

/** 0 within FLAT, the angle itself past FREE, twice smooth between. */
function flattened(angle: number): number {
  const size = Math.abs(angle);
  if (size <= FLAT) return 0;
  if (size >= FREE) return angle;
  // The quintic from (0, slope 0) to (FREE, slope 1), both without curvature.
  const span = FREE - FLAT;
  const u = (size - FLAT) / span,
    u3 = u * u * u;
  return Math.sign(angle) * (FREE * u3 * (10 - 15 * u + 6 * u * u) + span * u3 * (-4 + 7 * u - 3 * u * u));
}

function standOf({ places, angles }: FootSeries, from: number, to: number, { floor, near }: FootLock, rate: number): Stand {
  const frames = Array.from({ length: to - from + 1 }, (_, i) => from + i);
  const speed = (f: number, o: number) => {
    const a = Math.max(from, f - 1),
      b = Math.min(to, f + 1);
    return a === b ? 0 : (Math.hypot(...[0, 1, 2].map((k) => places[b * PLACES + o + k]! - places[a * PLACES + o + k]!)) * rate) / (b - a);
  };
  const mean = (o: number) => frames.reduce((sum, f) => sum + speed(f, o), 0) / frames.length;
  const lying = frames.filter((f) => speed(f, 3) < STILL && speed(f, 6) < STILL && Math.abs(angles[f * ANGLES + 1]!) < LYING);
  const flat = lying.length >= Math.max(2, LEAST_S * rate) && Math.abs(middle(lying.map((f) => angles[f * ANGLES + 1]!))) < LEVEL;
  // On a rung the heel hangs: lower than the ball that bears.
  const heels = frames.map((f) => places[f * PLACES + 4]!).sort((a, b) => a - b);
  const balls = middle(lying.map((f) => places[f * PLACES + 7]!));
  const hangs = flat && Math.abs(balls - floor) > near && heels[Math.floor(0.15 * heels.length)]! < balls - HANGS * near;
  const bears = flat && !hangs ? 'sole' : mean(3) < mean(6) ? 'heel' : 'ball';
  const of = bears === 'sole' ? lying : frames;
  const angle = (k: number) => middle(of.map((f) => angles[f * ANGLES + k]!));
  const o = bears === 'heel' ? 3 : 6;
  const at = Float64Array.from([0, 1, 2], (k) => middle(of.map((f) => places[f * PLACES + o + k]!)));
  const level = at[1]!;
  if (Math.abs(level - floor) < near) at[1] = floor;
  const [heading, pitch, roll, toesHeading, toesRest] = [0, 1, 2, 3, 4].map(angle) as [number, number, number, number, number];
  // What lies flat lies level; toes lie flat on a floor, on a rung as they do.
  const toesPitch = bears === 'sole' || at[1] === floor ? 0 : toesRest;
  return {
    heading,
    pitch: bears === 'sole' ? 0 : pitch,
    roll: bears === 'sole' && Math.abs(roll) < LEVEL ? 0 : roll,
    toesHeading,
    toesPitch,
    toesRest,
    level,
    at,
    bears,
  };
}

const middle = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]!;

/** Most the shift goes past its edge's value on its way to nothing, as a part of it. */
const STEEP = 1.5;

/** Takes the shift from 0 up to that of frame `edge` over `count` frames before it (step −1) or after it (step 1), without a kick. */
export function blendShift(shift: Float64Array, edge: number, count: number, step: 1 | -1, inside: number): void {
  const last = shift.length / SHIFT - 1;
  const within = clamp(edge - step * inside, 0, last);
  const span = Math.abs(edge - within);
  for (let k = 0; k < SHIFT; k++) {
    const value = shift[edge * SHIFT + k]!;
    const free = span > 0 ? ((shift[within * SHIFT + k]! - value) / span) * count : 0;
    const slope = clamp(free, -STEEP * Math.abs(value), STEEP * Math.abs(value));
    for (let i = 1; i < count; i++) {
      const f = edge + step * i;
      if (f < 0 || f > last) break;
      // From the edge's value and slope to nothing: the quintic without curvature at its ends.
      const u = i / count,
        u3 = u * u * u;
      shift[f * SHIFT + k] = value * (1 - u3 * (10 - 15 * u + 6 * u * u)) - slope * (u - 6 * u3 + 8 * u3 * u - 3 * u3 * u * u);
    }
  }
}

/** Turns the rotation at q[i..] by the rotation vector at shift[o..]. */
export function turnBy(out: Float64Array, at: number, q: Float64Array, i: number, shift: Float64Array, o: number): void {
  fromRotationVector(D, 0, shift, o);
  multiply(out, at, D, 0, q, i);
}
