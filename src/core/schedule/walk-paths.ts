import { monotoneTrack, type TimeTrack } from './along';
import type { Interval } from './flight';
import type { SupportPath } from './pendulum';
import { beatsIn, phaseOf, type Walk, type WalkContact } from './walk-contacts';

/** Knots closer than this (s) are one. */
const SAME_TIME_S = 1e-6;

/** When the body passes over which place of the course, and the ground's height there. */
export interface PassKnot {
  readonly time: number;
  readonly s: number;
  readonly level: number;
}

export function passKnots(walk: Walk, contacts: readonly WalkContact[], start: number): PassKnot[] {
  const { standing } = walk;
  const T = walk.sided.gait.timing.strideTime;
  // The foot stood on at first is passed, too, as if it had landed in its turn.
  const before = beatsIn(walk, 0)[0]!;
  const virtual = start + (phaseOf(walk, 0) - phaseOf(walk, 1)) * T + before.aheadShare * before.duration * T;
  const at = contacts.filter((c) => c.step > 0).map((c): PassKnot => ({ time: c.pass, s: c.print.s, level: c.print.level }));
  const resting = contacts.find((c) => c.step === 0)!.print;
  const knots = [{ time: virtual, s: 0, level: resting.level }, ...at].sort((a, b) => a.time - b.time);
  return knots.filter((k, i) => k.time > standing / 2 + SAME_TIME_S && (i === 0 || k.time - knots[i - 1]!.time > SAME_TIME_S));
}

/** The support point of the travel: it runs along the course from foot to foot at the times the body passes them. */
export function travelPath({ program, standing }: Walk, knots: readonly PassKnot[], duration: number, omega: number): SupportPath {
  const end = knots[knots.length - 1]!.s;
  const all = [{ time: 0, s: 0 }, { time: standing * 0.5, s: 0 }, ...knots, { time: duration - standing * 0.5, s: end }, { time: duration, s: end }];
  const at = [0, 0, 0, 0];
  const x = new Float64Array(all.length),
    z = new Float64Array(all.length);
  all.forEach((k, i) => {
    program.course.at(k.s, at, 0);
    x[i] = at[0]!;
    z[i] = at[1]!;
  });
  return { times: Float64Array.from(all, (k) => k.time), x, z, omegas: new Float64Array(all.length - 1).fill(omega) };
}

/** The same path with knots where flights begin and end; in flight nothing pushes. */
export function markFlights(path: SupportPath, flights: readonly Interval[]): SupportPath {
  if (flights.length === 0) return path;
  const times = [...path.times, ...flights.flatMap((f) => [f.from, f.to])]
    .sort((a, b) => a - b)
    .filter((t, i, all) => i === 0 || t - all[i - 1]! > SAME_TIME_S);
  let span = 0,
    flight = 0;
  const points = times.map((t) => {
    while (span < path.times.length - 2 && path.times[span + 1]! <= t) span++;
    const u = (t - path.times[span]!) / (path.times[span + 1]! - path.times[span]!);
    return [path.x[span]! + (path.x[span + 1]! - path.x[span]!) * u, path.z[span]! + (path.z[span + 1]! - path.z[span]!) * u, path.omegas[span]!] as const;
  });
  const omegas = times.slice(0, -1).map((t, i) => {
    const middle = (t + times[i + 1]!) / 2;
    while (flight < flights.length - 1 && flights[flight]!.to <= middle) flight++;
    return middle > flights[flight]!.from && middle < flights[flight]!.to ? 0 : points[i]![2];
  });
  return {
    times: Float64Array.from(times),
    x: Float64Array.from(points, (p) => p[0]),
    z: Float64Array.from(points, (p) => p[1]),
    omegas: Float64Array.from(omegas),
  };
}

/** Adds the knots in mid-standing that the weight shift needs, with the support between the feet there. */
export function withStanding(path: SupportPath, standing: number, duration: number): SupportPath {
  const { times } = path;
  let first = 0,
    end = times.length;
  while (times[first]! <= standing * 0.5) first++;
  while (times[end - 1]! >= duration - standing * 0.5) end--;
  const n = end - first + 4;
  const padded = { times: new Float64Array(n), x: new Float64Array(n), z: new Float64Array(n), omegas: new Float64Array(n - 1).fill(path.omegas[0]!) };
  padded.times.set(times.subarray(first, end), 2);
  padded.x.set(path.x.subarray(first, end), 2);
  padded.z.set(path.z.subarray(first, end), 2);
  padded.omegas.set(path.omegas.subarray(first, Math.min(end, path.omegas.length)), 2);
  padded.times[1] = standing * 0.5;
  padded.times[n - 2] = duration - standing * 0.5;
  padded.times[n - 1] = duration;
  return padded;
}

/** The root turns with the course between the times the body passes its feet, without overshoot. */
export function headingTrack({ program }: Walk, knots: readonly PassKnot[], duration: number): TimeTrack {
  const at = [0, 0, 0, 0];
  const headings = [{ s: 0 }, ...knots, { s: knots[knots.length - 1]!.s }].map(({ s }) => {
    program.course.at(s, at, 0);
    return at[2]!;
  });
  return monotoneTrack(Float64Array.of(0, ...knots.map((k) => k.time), duration), Float64Array.from(headings));
}
