import { clamp, GRAVITY } from '../math/scalar';
import { PARAMETERS, type Range } from './parameters';
import type { GaitSpec, Held } from './spec';

type Timing = GaitSpec['timing'];

/** Sets `which` from the other two of v = S / T. */
export function follow(timing: Timing, which: Held): void {
  if (which === 'speed') timing.speed = timing.strideLength / timing.strideTime;
  else if (which === 'strideLength') timing.strideLength = timing.speed * timing.strideTime;
  else if (timing.speed !== 0) timing.strideTime = timing.strideLength / timing.speed;
  else timing.strideLength = 0; // On the spot any stride time will do.
}

/** Lets the speed follow stride length and time; where it would leave its range the stride gets shorter instead. */
export function followWithin(timing: Timing): void {
  follow(timing, 'speed');
  const [slowest, fastest] = PARAMETERS.timing.speed.range;
  const speed = clamp(timing.speed, slowest, fastest);
  if (speed === timing.speed) return;
  timing.speed = speed;
  follow(timing, 'strideLength');
}

/** Which value moves when `edited` is set and `held` is to stay. Editing the held one itself moves speed, or stride length for speed. */
export function follower(edited: Held, held: Held): Held {
  if (edited === held) return edited === 'speed' ? 'strideLength' : 'speed';
  return (['strideLength', 'speed', 'strideTime'] as const).find((k) => k !== edited && k !== held)!;
}

/** A copy of the gait with one timing value set and the free one of the other two following. */
export function setTiming(gait: GaitSpec, edited: Held, value: number): GaitSpec {
  const next = structuredCloneGait(gait);
  next.timing[edited] = value;
  follow(next.timing, follower(edited, gait.held));
  return next;
}

/** What a timing value can be set to while another is held. */
export interface TimingReach {
  readonly range: Range;
  /** The value held, and the one that follows and so sets the ends, where it is not the value's own range. */
  readonly held: Held;
  readonly bound: readonly [boolean, boolean];
}

/**
 * Values of `which` (its own unit) at which what follows stays in its range too: v = S / T with one of them kept. At a stride
 * or speed of 0 the stride time follows nothing and only the value's own range counts.
 */
export function reachableTiming({ timing, held }: GaitSpec, which: Held): TimingReach {
  const free = follower(which, held);
  const kept = (['strideLength', 'speed', 'strideTime'] as const).find((k) => k !== which && k !== free)!;
  const own = PARAMETERS.timing[which].range;
  const ends = PARAMETERS.timing[free].range.map((end) => {
    if (which === 'strideTime') return free === 'speed' ? timing.strideLength / end : end / timing.speed;
    if (which === 'strideLength') return free === 'speed' ? end * timing.strideTime : end * timing.speed;
    return free === 'strideLength' ? end / timing.strideTime : timing.strideLength / end;
  });
  // A time follows with the sign of what is kept: of the two ends of a range through 0 only the one ahead counts.
  let [low, high] = [Math.min(...ends), Math.max(...ends)];
  if (which === 'strideTime') [low, high] = free === 'speed' ? [Math.max(low, high), Infinity] : [-Infinity, Math.max(low, high)];
  // Standing on the spot: no time can make a stride or speed of 0 another, and any time fits it.
  if (timing[kept] === 0) [low, high] = free === 'strideTime' ? [0, 0] : [-Infinity, Infinity];
  const range: Range = [Math.max(own[0], low), Math.min(own[1], high)];
  return { range, held: kept, bound: [low > own[0], high < own[1]] };
}

/** Gaits are plain JSON; this copies one without depending on a platform's structuredClone. */
export const structuredCloneGait = (gait: GaitSpec): GaitSpec => JSON.parse(JSON.stringify(gait)) as GaitSpec;

/** Froude number v² / (g ℓ). Source: R. McN. Alexander; dimensionless. */
export const froude = (speed: number, legLength: number): number => (speed * speed) / (GRAVITY * legLength);

/** Speed (m/s) at which people change between walking and running: Fr = 0.5. Arithmetic. */
export const walkRunSpeed = (legLength: number): number => Math.sqrt(0.5 * GRAVITY * legLength);

/** Steps a minute for a stride time in seconds (two steps a stride). */
export const cadence = (strideTime: number): number => 120 / strideTime;

/** A loop as whole frames, or whole held pictures of `hold` frames: the nearest frame count and what it makes of stride time and speed, stride length kept. */
export function wholeFrames(
  timing: Pick<Timing, 'strideTime' | 'strideLength'>,
  rate: number,
  hold = 1,
): { frames: number; strideTime: number; speed: number } {
  const frames = Math.max(2, Math.round((timing.strideTime * rate) / hold)) * hold;
  const strideTime = frames / rate;
  return { frames, strideTime, speed: timing.strideLength / strideTime };
}

/** The gait with its stride time moved to the nearest whole number of (held) frames; the same object where it already is. */
export function fitToFrames(gait: GaitSpec, rate: number, hold = 1): GaitSpec {
  const { strideTime, speed } = wholeFrames(gait.timing, rate, hold);
  if (strideTime === gait.timing.strideTime) return gait;
  const next = structuredCloneGait(gait);
  next.timing.strideTime = strideTime;
  next.timing.speed = speed;
  return next;
}

/** A whole number of frames near a stride time, and what using it means. */
export interface FrameOffer {
  readonly frames: number;
  readonly strideTime: number;
  /** Change of speed (stride length kept), or of stride length (speed kept), as a part of it: −1/12 for 24 frames made 26. */
  readonly change: number;
}

/** The whole frame counts on both sides of a stride time at `rate` fps; one where the stride time already is whole. */
export function nearbyFrames({ strideTime }: Pick<Timing, 'strideTime'>, rate: number): FrameOffer[] {
  const exact = strideTime * rate;
  const counts = [...new Set([Math.floor(exact + 1e-9), Math.ceil(exact - 1e-9)])].filter((n) => n >= 2);
  return counts.map((frames) => ({ frames, strideTime: frames / rate, change: exact / frames - 1 }));
}
