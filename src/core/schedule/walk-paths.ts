import { clamp, GRAVITY } from '../math/scalar';
import { constantTrack, lineTrack, monotoneTrack, splineTrack, type TimeTrack } from './along';
import type { Interval } from './flight';
import type { LaidWalk } from './laid';
import type { SupportPath } from './pendulum';
import type { Program } from './program';
import { beatsAt, phaseOf } from './step-gait';
import type { WalkContact } from './walk-contacts';

/** Knots closer than this (s) are one. */
const SAME_TIME_S = 1e-6;
/** Numbers this close are the same. */
const SAME = 1e-12;

/** When the body passes over which place of the course, and the ground's height there. */
export interface PassKnot {
  readonly time: number;
  readonly s: number;
  readonly level: number;
  /** The contact passed; null where a standing foot is passed as a stretch begins. */
  readonly contact: WalkContact | null;
}

export function passKnots({ first, stretches }: LaidWalk, contacts: readonly WalkContact[], standing: number): PassKnot[] {
  const knots = contacts.filter((c) => c.step > 0).map((c): PassKnot => ({ time: c.pass, s: c.print.s, level: c.print.level, contact: c }));
  let level = contacts[0]!.print.level;
  let passed = 0;
  for (const { steps, s } of stretches) {
    // The foot stood on at first is passed, too, as if it had landed in its turn.
    const { gait, index, landing, phase, strideTime } = steps[0]!;
    const before = beatsAt(gait, index - 1)[0]!;
    const virtual = landing + (phaseOf(gait, index - 1, first) - phase) * strideTime + before.aheadShare * before.duration * strideTime;
    if (virtual > passed + SAME_TIME_S) knots.push({ time: virtual, s, level, contact: null });
    const last = contacts.findLast((c) => c.step > 0 && c.step <= steps[steps.length - 1]!.number)!;
    passed = last.pass;
    level = last.print.level;
  }
  knots.sort((a, b) => a.time - b.time);
  return knots.filter((k, i) => k.time > standing / 2 + SAME_TIME_S && (i === 0 || k.time - knots[i - 1]!.time > SAME_TIME_S));
}

/** The support point of the travel: it runs along the course from foot to foot at the times the body passes them. */
export function travelPath(
  { course }: Program,
  standing: number,
  begin: number,
  knots: readonly PassKnot[],
  duration: number,
  omega: number,
  flying: number,
): SupportPath {
  const end = knots[knots.length - 1]!.s;
  const all = [{ time: 0, s: begin }, { time: standing * 0.5, s: begin }, ...knots, { time: duration - standing * 0.5, s: end }, { time: duration, s: end }];
  const at = [0, 0, 0, 0];
  const x = new Float64Array(all.length),
    z = new Float64Array(all.length);
  all.forEach((k, i) => {
    course.at(k.s, at, 0);
    x[i] = at[0]!;
    z[i] = at[1]!;
  });
  // A run's body keeps over its feet while it gains and loses speed.
  const opening = knots.find((k) => k.contact)!.contact!.gait.flies;
  let flies = opening;
  const omegas = Float64Array.from(all.slice(1), (k) => {
    if ('contact' in k && k.contact) flies = k.contact.gait.flies;
    return flies ? flying : omega;
  });
  return { times: Float64Array.from(all, (k) => k.time), x, z, omegas };
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

/** Time (s) in which a resting body comes between its feet, and in which it goes over the one that stays. */
const INTO_REST_S = 0.4;

/** Rests within a walk: from when both feet stand, till the first one leaves, with a knot in the middle of the feet after and before. */
export function restsBetween(holds: readonly { readonly landing: number; readonly leaving: number; readonly stretch: number }[]): Interval[] {
  const rests: Interval[] = [];
  for (let i = 1; i < holds.length; i++) {
    if (holds[i]!.stretch === holds[i - 1]!.stretch) continue;
    // The two that stand: the last ones landed.
    const off = Math.min(
      ...holds
        .slice(Math.max(0, i - 3), i)
        .map((h) => h.leaving)
        .filter((t) => t > holds[i - 1]!.landing),
    );
    rests.push({ from: holds[i - 1]!.landing + INTO_REST_S, to: off - INTO_REST_S });
  }
  return rests.filter((r) => r.to - r.from > SAME_TIME_S);
}

/** The same path with the support in the middle of the feet while the walk rests. */
export function withRests(path: SupportPath, rests: readonly Interval[]): SupportPath {
  if (rests.length === 0) return path;
  const knots = [...path.times].map((time, i) => ({ time, x: path.x[i]!, z: path.z[i]! }));
  for (const { from, to } of rests) {
    const i = knots.findIndex((k) => k.time > from);
    const [a, b] = [knots[i - 1]!, knots[i]!];
    if (!a || !b || b.time < to) continue;
    const middle = { x: (a.x + b.x) / 2, z: (a.z + b.z) / 2 };
    knots.splice(i, 0, { time: from, ...middle }, { time: to, ...middle });
  }
  return {
    times: Float64Array.from(knots, (k) => k.time),
    x: Float64Array.from(knots, (k) => k.x),
    z: Float64Array.from(knots, (k) => k.z),
    omegas: new Float64Array(knots.length - 1).fill(path.omegas[0]!),
  };
}

/** What changes from one pass to the next, level at both ends; one number where nothing changes. */
export function passTrack(knots: readonly PassKnot[], duration: number, value: (knot: PassKnot, i: number) => number, smooth = false): TimeTrack {
  const values = knots.map(value);
  if (values.every((v) => Math.abs(v - values[0]!) < SAME)) return constantTrack(values[0]!);
  const times = Float64Array.of(0, ...knots.map((k) => k.time), duration);
  const all = Float64Array.of(values[0]!, ...values, values[values.length - 1]!);
  return smooth ? splineTrack(times, all) : monotoneTrack(times, all);
}

/** Strides walked over time, through every landing; a line where the cadence is one. */
export function strideTrack({ stretches }: LaidWalk, duration: number): TimeTrack {
  const steps = stretches.flatMap((s) => s.steps);
  const opening = steps[0]!;
  const T = opening.strideTime;
  const start = opening.phase - opening.landing / T;
  if (steps.every((k) => Math.abs(start + k.landing / T - k.phase) < 1e-9)) return lineTrack(start, T);
  const last = steps[steps.length - 1]!;
  const end = last.phase + (duration - last.landing) / last.strideTime;
  return monotoneTrack(Float64Array.of(0, ...steps.map((k) => k.landing), duration), Float64Array.of(start, ...steps.map((k) => k.phase), end), [
    1 / T,
    1 / last.strideTime,
  ]);
}

/** A course that bends more at a place than so many times what it does over the steps there, and by so much (1/m) more, is passed as it bends over them. */
const TIMES_BENT = 1.5;
const MORE_BENT = 0.3;

/** Speed (m/s) and curvature (1/m) with which the body passes a foot; 0 where it rests or turns on the spot. */
function bendAt(course: Program['course'], knots: readonly PassKnot[], i: number): { v: number; curvature: number; step: number } {
  const { contact, s } = knots[i]!;
  const at = [0, 0, 0, 0];
  course.at(s, at, 0);
  if (!contact || contact.laid!.wide > 0) return { v: 0, curvature: 0, step: 0 };
  const before = knots[Math.max(0, i - 1)]!,
    after = knots[Math.min(knots.length - 1, i + 1)]!;
  const way = after.s - before.s;
  const place = at[3]!;
  course.at(before.s, at, 0);
  const enters = at[2]!;
  course.at(after.s, at, 0);
  // No body follows what a rope does within a step.
  const over = way > 0 ? Math.abs(at[2]! - enters) / way : 0;
  const curvature = clamp(place, -(TIMES_BENT * over + MORE_BENT), TIMES_BENT * over + MORE_BENT);
  return { v: after.time > before.time ? way / (after.time - before.time) : 0, curvature, step: way / 2 };
}

/** Centripetal lean (rad, to the left) the course asks for at a pass of a body `height` m high: tan α = v² κ / g on the body's own circle. */
export function bankAt(course: Program['course'], knots: readonly PassKnot[], i: number, height: number): number {
  const { v, curvature } = bendAt(course, knots, i);
  const asked = (v * v * curvature) / GRAVITY;
  // The body inside goes a smaller circle, the more slowly.
  return Math.atan(asked / (1 + asked * height * curvature));
}

/** Up to this q the way inside grows with the curvature; and most of a radius that straight ways between supports cut off. */
const GENTLE = 0.1;
const MOST_CHORD = 0.3;

/** How far (m, to the left) the travel goes inside the course there anyway: by its pendulum, and by the straight ways between its supports. */
export function cutAt(course: Program['course'], knots: readonly PassKnot[], i: number, omega: number, flying: number): number {
  const { v, curvature, step } = bendAt(course, knots, i);
  const w = knots[i]!.contact?.gait.flies ? flying : omega;
  // A pendulum on a circle goes inside by r q / (1 + q), q = (v κ / ω)²: never beyond the middle, however tight the bend.
  const tight = Math.max(0, ((v * curvature) / w) ** 2 - GENTLE);
  const chord = Math.min((step * step) / 12, MOST_CHORD / Math.max(1e-12, curvature * curvature));
  return curvature * ((v * v) / (w * w) / (1 + tight) + chord);
}

/** How steeply (rad) the body goes up at a pass, over a step before and after. */
export function climbAt(knots: readonly PassKnot[], i: number): number {
  const before = knots[Math.max(0, i - 2)]!,
    after = knots[Math.min(knots.length - 1, i + 2)]!;
  const way = after.s - before.s;
  return way > 0.05 ? Math.atan((after.level - before.level) / way) : 0;
}
