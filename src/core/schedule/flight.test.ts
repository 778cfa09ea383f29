import { describe, expect, it } from 'vitest';
import { createFlightTrack, inFlight, mergeIntervals, readFlight, type FlightTrack } from './flight';

const g = 9.81;
const flightHeight = (of: FlightTrack, t: number): number => {
  const out = Float64Array.of(t, 0);
  readFlight(of, out, 0, out, 1);
  return out[1]!;
};
// Three contacts of unequal length with unequal flights between.
const track = createFlightTrack(
  [
    { from: 0, to: 1 },
    { from: 1.1, to: 1.35 },
    { from: 1.5, to: 3 },
  ],
  g,
);
const velocity = (t: number, d = 1e-6) => (flightHeight(track, t + d) - flightHeight(track, t - d)) / (2 * d);

describe('height through flights', () => {
  it('is a thrown body in flight: y″ = −g, rise g t²/8 (exact)', () => {
    const d = 1e-3;
    for (const t of [1.03, 1.05, 1.08, 1.42]) {
      expect(inFlight(track, t)).toBe(true);
      expect((flightHeight(track, t + d) - 2 * flightHeight(track, t) + flightHeight(track, t - d)) / d ** 2).toBeCloseTo(-g, 6);
    }
    expect(flightHeight(track, 1.05)).toBeCloseTo((g * 0.1 ** 2) / 8, 12);
    expect(flightHeight(track, 1.425)).toBeCloseTo((g * 0.15 ** 2) / 8, 12);
  });

  it('joins contacts with continuous velocity, also where flights differ and at the first and last', () => {
    for (const t of [0.55, 1, 1.1, 1.35, 1.5, 1.95]) expect(velocity(t - 2e-6)).toBeCloseTo(velocity(t + 2e-6), 3);
    expect(velocity(1)).toBeCloseTo((g * 0.1) / 2, 3);
    expect(velocity(1.1)).toBeCloseTo((-g * 0.1) / 2, 3);
  });

  it('dips by (g t_f / 2)(t_c / π) between equal flights', () => {
    const even = createFlightTrack(
      [
        { from: 0, to: 0.2 },
        { from: 0.3, to: 0.5 },
        { from: 0.6, to: 0.8 },
      ],
      g,
    );
    expect(flightHeight(even, 0.4)).toBeCloseTo((-(g * 0.1) / 2) * (0.2 / Math.PI), 12);
  });

  it('is level where a foot always stands', () => {
    const walking = createFlightTrack(
      mergeIntervals([
        { from: 0, to: 0.6 },
        { from: 1, to: 1.6 },
        { from: 0.5, to: 1.1 },
      ]),
      g,
    );
    expect(walking.count).toBe(0);
    expect(flightHeight(walking, 0.7)).toBe(0);
  });
});
