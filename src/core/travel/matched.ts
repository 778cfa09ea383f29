import type { Clip, ClipContact } from '../clip/clip';
import { clipPhase } from './clip-phase';
import type { TravelFacts } from './kinds';

/** What a number of cycles of a clip takes: distance (m, along its way), time (s) and turn (rad). */
export interface Matched {
  readonly way: number;
  readonly seconds: number;
  readonly turn: number;
}

/**
 * The way that belongs to so many cycles (strides of the left foot), at the clip's speed as its feet have it. Null where the clip
 * has no strides.
 */
export function matchedDistance(
  clip: Pick<Clip, 'rate' | 'frames' | 'loop'>,
  contacts: readonly ClipContact[],
  facts: TravelFacts,
  cycles: number,
): Matched | null {
  const phase = clipPhase(clip, contacts);
  if (!phase) return null;
  const whole = (clip.loop ? clip.frames : clip.frames - 1) / clip.rate;
  const strides = phase(whole) - phase(0);
  const seconds = (cycles * whole) / strides;
  return { way: facts.speed * seconds, seconds, turn: (facts.turn * cycles) / strides };
}
