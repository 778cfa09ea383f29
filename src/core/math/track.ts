import { smoothstep } from './scalar';

/** A value from `at` (s or m) on; `next` says how it goes over to the key that follows: held till there, evenly, or smoothly. */
interface TrackKey {
  readonly at: number;
  readonly value: number;
  readonly next: 'held' | 'linear' | 'smooth';
}

/** What changes in the course of a walk, over its time or over the distance walked. Beyond its keys it stays. */
export interface Track {
  readonly over: 'time' | 'distance';
  /** Ascending by `at`, one or more. */
  readonly keys: readonly TrackKey[];
}

/** Value at `time` s, `distance` m into the walk. */
export function trackValue({ over, keys }: Track, time: number, distance: number): number {
  const at = over === 'time' ? time : distance;
  let i = keys.length - 1;
  while (i > 0 && keys[i]!.at > at) i--;
  const a = keys[i]!,
    b = keys[i + 1];
  if (!b || at <= a.at || a.next === 'held') return a.value;
  const u = (at - a.at) / (b.at - a.at);
  return a.value + (b.value - a.value) * (a.next === 'smooth' ? smoothstep(0, 1, u) : u);
}
