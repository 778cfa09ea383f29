import type { Foothold } from './schedule';
import type { SupportPath } from './pendulum';

/** Times closer than this are the same, s. */
const SAME_TIME_S = 1e-9;

/**
 * Sideways support path for the pendulum: on the standing foot in single support, moving linearly from the old foot to
 * the new one during double support and across flight. `sideways(f)` gives a foothold's place on the sway axis, m.
 */
export function supportPath(footholds: readonly Foothold[], sideways: (f: Foothold) => number, from: number, to: number): SupportPath {
  // One foot may land just as another leaves: such moments are one knot, however they were rounded.
  const knots = footholds
    .flatMap((f) => [f.landing, f.leaving])
    .sort((a, b) => a - b)
    .filter((t, i, all) => i === 0 || t - all[i - 1]! > SAME_TIME_S);
  const all: { time: number; point: number }[] = [];
  for (const time of knots) {
    const standing = footholds.filter((f) => f.landing <= time + SAME_TIME_S && time <= f.leaving + SAME_TIME_S);
    // A foot carries nothing at its own landing or leaving as long as another stands.
    const loaded = standing.filter((f) => f.landing < time - SAME_TIME_S && time < f.leaving - SAME_TIME_S);
    const carrying = loaded.length > 0 ? loaded : standing;
    if (carrying.length > 0) all.push({ time, point: carrying.reduce((sum, f) => sum + sideways(f), 0) / carrying.length });
  }
  const at = (time: number): number => {
    const i = all.findIndex((k) => k.time >= time);
    if (i < 0) return all[all.length - 1]!.point;
    if (i === 0) return all[0]!.point;
    const a = all[i - 1]!,
      b = all[i]!;
    return a.point + ((b.point - a.point) * (time - a.time)) / (b.time - a.time);
  };
  const inside = all.filter((k) => k.time > from + 1e-9 && k.time < to - 1e-9);
  return {
    times: [from, ...inside.map((k) => k.time), to],
    points: [at(from), ...inside.map((k) => k.point), at(to)],
  };
}
