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
    const u = (time - a.time) / (b.time - a.time);
    return { time, x: a.x + (b.x - a.x) * u, z: a.z + (b.z - a.z) * u, flight: a.flight };
  };
  const inside = knots.filter((k) => k.time > from + SAME_TIME_S && k.time < to - SAME_TIME_S);
  const all = [at(from), ...inside, at(to)];
  return {
    times: Float64Array.from(all, (k) => k.time),
    x: Float64Array.from(all, (k) => k.x),
    z: Float64Array.from(all, (k) => k.z),
    omegas: Float64Array.from(all.slice(0, -1), (k) => (k.flight ? flightOmega : omega)),
  };
}

/** Knots at every landing and leaving. */
function sweep(supporters: readonly Supporter[]): Knot[] {
  const times = [...new Set(supporters.flatMap((s) => [s.hold.landing, s.hold.leaving]))].sort((a, b) => a - b);
  const byLanding = [...supporters].sort((a, b) => a.hold.landing - b.hold.landing);
  let standing: Supporter[] = [];
  let next = 0;
  const knots: Knot[] = [];
  for (const time of times) {
    // One foot may land just as another leaves: such moments are one knot, however they were rounded.
    if (knots.length > 0 && time - knots[knots.length - 1]!.time <= SAME_TIME_S) continue;
    while (next < byLanding.length && byLanding[next]!.hold.landing <= time + SAME_TIME_S) standing.push(byLanding[next++]!);
    standing = standing.filter((s) => time <= s.hold.leaving + SAME_TIME_S);
    // A foot carries nothing at its own landing or leaving as long as another stands.
    const loaded = standing.filter((s) => s.hold.landing < time - SAME_TIME_S && time < s.hold.leaving - SAME_TIME_S);
    const carrying = loaded.length > 0 ? loaded : standing;
    if (carrying.length === 0) continue;
    knots.push({
      time,
      x: carrying.reduce((sum, s) => sum + s.x, 0) / carrying.length,
      z: carrying.reduce((sum, s) => sum + s.z, 0) / carrying.length,
      flight: standing.every((s) => s.hold.leaving <= time + SAME_TIME_S),
    });
  }
  return knots;
}
