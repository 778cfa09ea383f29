import type { Foothold } from './foothold';
import type { SupportPath } from './pendulum';

/** Times closer than this are the same, s. */
const SAME_TIME_S = 1e-9;

/** A foothold with where it puts the body's support against the travel: [x, z], m. */
export interface Supporter {
  readonly hold: Pick<Foothold, 'landing' | 'leaving'>;
  readonly x: number;
  readonly z: number;
}

interface Knot {
  readonly time: number;
  readonly x: number;
  readonly z: number;
  /** Whether nothing stands between this knot and the next. */
  readonly flight: boolean;
}

/**
 * Support path for the pendulum from the times of standing: on the standing foot in single support, moving linearly from
 * the old foot to the new one in double support and across flight. Swept once through the events, in O(n log n). `omega`
 * (1/s) holds while something stands, `flightOmega` in flight.
 */
export function supportPath(supporters: readonly Supporter[], from: number, to: number, omega: number, flightOmega: number): SupportPath {
  const knots = sweep(supporters);
  const at = (time: number): Knot => {
    const i = knots.findIndex((k) => k.time >= time);
    if (i <= 0) return { ...(i < 0 ? knots[knots.length - 1]! : knots[0]!), time };
    const a = knots[i - 1]!,
      b = knots[i]!;
    if (b.time - time <= SAME_TIME_S) return { ...b, time };
    const u = (time - a.time) / (b.time - a.time);
    return { time, x: a.x + (b.x - a.x) * u, z: a.z + (b.z - a.z) * u, flight: a.flight };
  };
  const all = [at(from), ...knots.filter((k) => k.time > from + SAME_TIME_S && k.time < to - SAME_TIME_S), at(to)];
  const n = all.length;
  const path = { times: new Float64Array(n), x: new Float64Array(n), z: new Float64Array(n), omegas: new Float64Array(n - 1) };
  for (let i = 0; i < n; i++) {
    const k = all[i]!;
    path.times[i] = k.time;
    path.x[i] = k.x;
    path.z[i] = k.z;
    if (i + 1 < n) path.omegas[i] = k.flight ? flightOmega : omega;
  }
  return path;
}

/** Knots at every landing and leaving. */
function sweep(supporters: readonly Supporter[]): Knot[] {
  const times = new Float64Array(2 * supporters.length);
  supporters.forEach((s, i) => {
    times[2 * i] = s.hold.landing;
    times[2 * i + 1] = s.hold.leaving;
  });
  times.sort();
  const byLanding = [...supporters].sort((a, b) => a.hold.landing - b.hold.landing);
  let standing: Supporter[] = [];
  let next = 0;
  const knots: Knot[] = [];
  for (const time of times) {
    // One foot may land just as another leaves: such moments are one knot, however they were rounded.
    if (knots.length > 0 && time - knots[knots.length - 1]!.time <= SAME_TIME_S) continue;
    standing = standing.filter((s) => time <= s.hold.leaving + SAME_TIME_S);
    while (next < byLanding.length && byLanding[next]!.hold.landing <= time + SAME_TIME_S) {
      const s = byLanding[next++]!;
      if (time <= s.hold.leaving + SAME_TIME_S) standing.push(s);
    }
    // A foot carries nothing at its own landing or leaving as long as another stands.
    let x = 0,
      z = 0,
      loaded = 0,
      flight = true;
    for (const inside of [true, false]) {
      if (loaded > 0) break;
      for (const s of standing) {
        if (s.hold.leaving > time + SAME_TIME_S) flight = false;
        if (inside && !(s.hold.landing < time - SAME_TIME_S && time < s.hold.leaving - SAME_TIME_S)) continue;
        x += s.x;
        z += s.z;
        loaded++;
      }
    }
    if (loaded > 0) knots.push({ time, x: x / loaded, z: z / loaded, flight });
  }
  return knots;
}
