import { constantTrack, monotoneTrack, readTrack, type TimeTrack } from './along';
import type { ChannelAmount } from './program';

/** Looks a second at what changes in time. */
const LOOKS_PER_S = 20;

/**
 * Shares of the gaits of a walk whose channels have amounts of their own over time: a gait's rows are linear in each amount,
 * so that it with all its channels and it without one each, weighed, is it with as much of each as asked. First the gaits
 * themselves, then for each channel the gaits without it.
 */
export function channelShares(shares: readonly TimeTrack[], channels: readonly ChannelAmount[], duration: number): readonly TimeTrack[] {
  if (channels.length === 0) return shares;
  const less = channels.map(
    ({ amount }) =>
      (t: number) =>
        1 - valueAt(amount, t),
  );
  const times = (share: TimeTrack, factor: (t: number) => number) => product(share, factor, duration);
  return [
    ...shares.map((share) => times(share, (t) => 1 - less.reduce((sum, of) => sum + of(t), 0))),
    ...less.flatMap((of) => shares.map((share) => times(share, of))),
  ];
}

function valueAt(track: TimeTrack, t: number): number {
  const out = Float64Array.of(t, 0);
  readTrack(track, out, 0, out, 1);
  return out[1]!;
}

function product(share: TimeTrack, factor: (t: number) => number, duration: number): TimeTrack {
  const n = Math.max(1, Math.ceil(duration * LOOKS_PER_S));
  const times = Float64Array.from({ length: n + 1 }, (_, i) => (duration * i) / n);
  const values = times.map((t) => valueAt(share, t) * factor(t));
  return values.every((v) => v === values[0]) ? constantTrack(values[0]!) : monotoneTrack(times, values);
}
