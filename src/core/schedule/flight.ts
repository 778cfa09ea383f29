import { seekIndex } from '../math/seek';

/**
 * Height of the hips against their level while standing, from the times of support alone: y″ = −g in flight, and between
 * flights a half sine (plus a cubic that joins values and velocities) so that nothing kicks. Rise of a flight g t²/8, depth
 * of a contact (g t_f / 2)(t_c / π): exact, the motion of a thrown body.
 */
export interface FlightTrack {
  readonly gravity: number;
  /** What is thrown: 0 the hips, 1 the whole body's centre of mass. */
  readonly whole: number;
  /** Per piece: start (s), length (s), and height, rate at its start, depth of the half sine, height and rate at its end. */
  readonly pieces: Float64Array;
  readonly count: number;
}

const FIELDS = 7;
/** A flight has this in the place of its depth; its two rates are those of a thrown body. */
const FLYING = -1;

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

/**
 * Builds the track for merged, ascending support intervals; a first or last one stays level at its outer end. No flight, no
 * pieces. A support longer than `longest` s, and than two pushes, is no contact that springs: who walks or rests between two
 * flights lands, goes level, and pushes off.
 */
export function createFlightTrack(support: readonly Interval[], gravity: number, whole = 0, longest = Infinity): FlightTrack {
  const found: number[] = [];
  const flight = (i: number) => (i < 0 || i + 1 >= support.length ? 0 : support[i + 1]!.from - support[i]!.to);
  /** A contact between flights of `before` and `after` s; level where there is none. */
  const contact = (from: number, to: number, before: number, after: number) =>
    found.push(
      from,
      to - from,
      0,
      before > 0 ? (-gravity * before) / 2 : 0,
      ((gravity * (before + after)) / 4) * ((to - from) / Math.PI),
      0,
      after > 0 ? (gravity * after) / 2 : 0,
    );
  for (let i = 0; i < support.length && support.length > 1; i++) {
    const { from, to } = support[i]!;
    const before = flight(i - 1),
      after = flight(i);
    const apart = to - from > Math.max(longest, 2 * LONGEST_PUSH_S);
    const push = LONGEST_PUSH_S;
    if (apart && before > 0) contact(from, from + push, before, 0);
    if (apart && after > 0) contact(to - push, to, 0, after);
    if (!apart) contact(before === 0 ? Math.max(from, to - push) : from, after === 0 ? Math.min(to, from + push) : to, before, after);
    if (after > 0) found.push(to, after, 0, (gravity * after) / 2, FLYING, 0, (-gravity * after) / 2);
  }
  return { gravity, whole, pieces: Float64Array.from(found), count: found.length / FIELDS };
}

/** Height (m) at time clock[c] (s) above the standing level, into out[o]; 0 outside the pieces. Allocates nothing. */
export function readFlight({ pieces, count, gravity }: FlightTrack, clock: Float64Array, c: number, out: Float64Array, o: number): void {
  out[o] = 0;
  if (count === 0) return;
  const t = clock[c]!;
  const i = seekIndex(pieces, count, t, FIELDS) * FIELDS;
  const length = pieces[i + 1]!;
  const dt = t - pieces[i]!;
  if (dt < 0 || dt > length) return;
  const h0 = pieces[i + 2]!,
    depth = pieces[i + 4]!;
  if (depth === FLYING) {
    out[o] = h0 + dt * (pieces[i + 3]! - (gravity * dt) / 2);
    return;
  }
  const u = dt / length;
  // What the half sine leaves over: a cubic with the right heights and rates at both ends.
  const m0 = pieces[i + 3]! * length + depth * Math.PI,
    m1 = pieces[i + 6]! * length - depth * Math.PI;
  const d = pieces[i + 5]! - h0;
  out[o] = -depth * Math.sin(Math.PI * u) + h0 + u * (m0 + u * (3 * d - 2 * m0 - m1 + u * (m0 + m1 - 2 * d)));
}

/** Whether t (s) lies in a flight. */
export function inFlight(track: FlightTrack, t: number): boolean {
  if (track.count === 0) return false;
  const i = seekIndex(track.pieces, track.count, t, FIELDS) * FIELDS;
  const dt = t - track.pieces[i]!;
  return track.pieces[i + 4] === FLYING && dt > 0 && dt < track.pieces[i + 1]!;
}

/** Part of `duration` (s) that is spent in flight. */
export function flightShare({ pieces, count }: FlightTrack, duration: number): number {
  let air = 0;
  for (let i = 0; i < count; i++)
    if (pieces[i * FIELDS + 4] === FLYING)
      air += Math.max(0, Math.min(duration, pieces[i * FIELDS]! + pieces[i * FIELDS + 1]!) - Math.max(0, pieces[i * FIELDS]!));
  return air / duration;
}
