import { seekIndex } from '../math/seek';

/**
 * Height of the hips against their level at take-off, from the times of support alone: y'' = −g in flight, and between
 * flights a half sine (plus a cubic where the flights before and after differ) that joins with continuous velocity.
 * Rise of a flight g t²/8, depth of a contact (g t_f / 2)(t_c / π): exact, see motion of a thrown body.
 */
export interface FlightTrack {
  readonly gravity: number;
  /** Per piece: start (s), length (s), flight before (s), flight after (s); a flight has −1 in the last two places. */
  readonly pieces: Float64Array;
  readonly count: number;
}

const FIELDS = 4;

export interface Interval {
  readonly from: number;
  readonly to: number;
}

/** Times with at least one foot on the ground, merged; input in any order. */
export function mergeIntervals(intervals: readonly Interval[]): Interval[] {
  const merged: { from: number; to: number }[] = [];
  for (const { from, to } of [...intervals].sort((a, b) => a.from - b.from)) {
    const last = merged[merged.length - 1];
    if (last && from <= last.to + 1e-9) last.to = Math.max(last.to, to);
    else merged.push({ from, to });
  }
  return merged;
}

/** Longest time (s) over which a first push-off or last landing is spread; standing before and after is level. */
const LONGEST_PUSH_S = 0.45;

/** Builds the track for merged, ascending support intervals. No flight, no pieces. */
export function createFlightTrack(support: readonly Interval[], gravity: number): FlightTrack {
  const pieces: number[] = [];
  if (support.length > 1)
    support.forEach(({ from, to }, i) => {
      const before = i > 0 ? from - support[i - 1]!.to : 0;
      const after = i < support.length - 1 ? support[i + 1]!.from - to : 0;
      const start = before === 0 ? Math.max(from, to - LONGEST_PUSH_S) : from;
      const end = after === 0 ? Math.min(to, from + LONGEST_PUSH_S) : to;
      pieces.push(start, end - start, before, after);
      if (after > 0) pieces.push(to, after, -1, -1);
    });
  return { gravity, pieces: Float64Array.from(pieces), count: pieces.length / FIELDS };
}

/** Height in metres at time t (s) above the take-off level; 0 outside the pieces. */
export function flightHeight(track: FlightTrack, t: number): number {
  if (track.count === 0) return 0;
  const { pieces, gravity } = track;
  const i = seekIndex(pieces, track.count, t, FIELDS) * FIELDS;
  const length = pieces[i + 1]!;
  const dt = t - pieces[i]!;
  if (dt < 0 || dt > length) return 0;
  const before = pieces[i + 2]!,
    after = pieces[i + 3]!;
  if (before < 0) return (gravity * dt * (length - dt)) / 2;
  const u = dt / length;
  const depth = ((gravity * (before + after)) / 4) * (length / Math.PI);
  const tilt = ((gravity * (after - before)) / 4) * length;
  return -depth * Math.sin(Math.PI * u) + tilt * u * (1 + u * (2 * u - 3));
}

/** Whether t (s) lies in a flight. */
export function inFlight(track: FlightTrack, t: number): boolean {
  if (track.count === 0) return false;
  const i = seekIndex(track.pieces, track.count, t, FIELDS) * FIELDS;
  const dt = t - track.pieces[i]!;
  return track.pieces[i + 2]! < 0 && dt > 0 && dt < track.pieces[i + 1]!;
}

/** Part of `duration` (s) that is spent in flight. */
export function flightShare({ pieces, count }: FlightTrack, duration: number): number {
  let air = 0;
  for (let i = 0; i < count; i++)
    if (pieces[i * FIELDS + 2]! < 0) air += Math.max(0, Math.min(duration, pieces[i * FIELDS]! + pieces[i * FIELDS + 1]!) - Math.max(0, pieces[i * FIELDS]!));
  return air / duration;
}
