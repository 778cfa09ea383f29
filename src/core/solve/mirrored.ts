import type { HipsSamples } from './hips-samples';

/** Numbers (m, m², s; accelerations a thousand times so far apart) this close are the same. */
const SAME = 1e-9;
const SAME_PUSH = 1e-6;

/**
 * The first half of a ring whose second half mirrors it, left and right in each other's place; null where it does not.
 * `breaks` are the ring's, as many pieces in both halves.
 */
export function halfOf(ring: HipsSamples, breaks: Float64Array): HipsSamples | null {
  const { count, step, start, wish, straightest, weight, square, base, edges, flights } = ring;
  const pieces = breaks.length - 1;
  if (count % 2 !== 0 || pieces % 2 !== 0 || pieces < 8) return null;
  const n = count / 2,
    time = n * step;
  const same = (a: number, b: number, within = SAME) => Math.abs(a - b) <= within;
  for (let i = 0; i < pieces / 2; i++) if (!same(breaks[i]! + time, breaks[i + pieces / 2]!)) return null;
  for (let i = 0; i < n; i++) {
    if (!same(wish[i]!, wish[i + n]!) || !same(straightest[i]!, straightest[i + n]!)) return null;
    for (const side of [0, 1] as const) {
      const [own, other] = [i, i + n];
      if (!same(weight[side][own]!, weight[1 - side]![other]!)) return null;
      if (weight[side][own] === 0) continue;
      if (!same(square[side][own]!, square[1 - side]![other]!) || !same(base[side][own]!, base[1 - side]![other]!)) return null;
    }
  }
  const middle = start - step / 2 + time;
  const early = edges.filter((e) => e.time < middle - SAME);
  const mirrors = (a: (typeof edges)[number], b: (typeof edges)[number]) =>
    a.side !== b.side &&
    a.landing === b.landing &&
    same(a.time + time, b.time) &&
    [0, 1].every((k) => same(a.square[k]!, b.square[k]!) && same(a.base[k]!, b.base[k]!));
  if (2 * early.length !== edges.length || !early.every((a) => edges.some((b) => mirrors(a, b)))) return null;
  const flown = flights.filter((f) => f.from < middle - SAME);
  const flies = (a: (typeof flights)[number], b: (typeof flights)[number]) =>
    same(a.from + time, b.from) && same(a.to + time, b.to) && a.pushes.every((v, k) => same(v, b.pushes[k]!, SAME_PUSH));
  if (2 * flown.length !== flights.length || !flown.every((a) => flights.some((b) => flies(a, b)))) return null;
  const half = (v: Float64Array) => v.subarray(0, n);
  const halves = ([a, b]: readonly [Float64Array, Float64Array]) => [half(a), half(b)] as const;
  return {
    ...ring,
    count: n,
    wish: half(wish),
    straightest: half(straightest),
    square: halves(square),
    base: halves(base),
    weight: halves(weight),
    edges: early,
    flights: flown,
    swaps: true,
  };
}
