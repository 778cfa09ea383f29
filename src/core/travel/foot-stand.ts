import { toRadians } from '../math/scalar';
import { ANGLES, PLACES, type FootSeries } from './foot-series';
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

/** Where a foot stands in a contact. */
export interface Stand {
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

/** A foot that stands steeper than this stands on its ball or its heel. */
const LEVEL = toRadians(5);
/** Slower than this (m/s), and nearer to level than this, heel and ball both bear. */
const STILL = 0.15;
const TIMES_USUAL = 1.5;
const LYING = toRadians(10);
/** Least part of a contact, or time (s), that a foot must lie flat to have a flat place. */
const LEAST_S = 0.05;
/** A heel lower than the ball by this part of what counts as the same level hangs in the air. */
const HANGS = 0.45;

/** Where a foot stands from one picture to another. */
export function standOf({ places, angles }: FootSeries, from: number, to: number, { floor, near }: FootLock, rate: number): Stand {
  const frames = Array.from({ length: to - from + 1 }, (_, i) => from + i);
  const speed = (f: number, o: number) => {
    const a = Math.max(from, f - 1),
      b = Math.min(to, f + 1);
    return a === b ? 0 : (Math.hypot(...[0, 1, 2].map((k) => places[b * PLACES + o + k]! - places[a * PLACES + o + k]!)) * rate) / (b - a);
  };
  const mean = (o: number) => frames.reduce((sum, f) => sum + speed(f, o), 0) / frames.length;
  // Where all shakes, what is slow is told by what is usual.
  const still = Math.max(STILL, TIMES_USUAL * middle(frames.map((f) => Math.max(speed(f, 3), speed(f, 6)))));
  const lying = frames.filter((f) => speed(f, 3) < still && speed(f, 6) < still && Math.abs(angles[f * ANGLES + 1]!) < LYING);
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
