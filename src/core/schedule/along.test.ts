import { describe, expect, it } from 'vitest';
import { constantTrack, monotoneTrack, readTrack, splineTrack, type TimeTrack } from './along';

const at = (track: TimeTrack, t: number) => {
  const out = Float64Array.of(t, 0);
  readTrack(track, out, 0, out, 1);
  return out[1]!;
};
const times = Float64Array.of(0, 0.4, 1, 1.5, 2.6);

describe('numbers over time', () => {
  it('monotone: through its knots, C1, and never past them', () => {
    const track = monotoneTrack(times, Float64Array.of(0, 0, 0.8, 0.9, 0.3));
    times.forEach((t, i) => expect(at(track, t)).toBeCloseTo([0, 0, 0.8, 0.9, 0.3][i]!, 12));
    const d = 1e-6;
    for (const t of [0.4, 1, 1.5]) expect((at(track, t + d) - at(track, t)) / d).toBeCloseTo((at(track, t) - at(track, t - d)) / d, 4);
    for (let t = 0.4; t <= 1.5; t += 0.01) expect(at(track, t)).toBeGreaterThanOrEqual(at(track, t - 0.01) - 1e-12);
    for (let t = -1; t < 4; t += 0.05) {
      expect(at(track, t)).toBeGreaterThanOrEqual(-1e-12);
      expect(at(track, t)).toBeLessThanOrEqual(0.9 + 1e-12);
    }
  });

  it('spline: through its knots with continuous first and second derivatives; a line stays a line', () => {
    const values = Float64Array.of(0, 0.17, 0.34, 0.34, 0.2);
    const track = splineTrack(times, values);
    values.forEach((v, i) => expect(at(track, times[i]!)).toBeCloseTo(v, 12));
    const d = 1e-4;
    const second = (t: number) => (at(track, t + d) - 2 * at(track, t) + at(track, t - d)) / d ** 2;
    for (const t of [0.4, 1, 1.5]) expect(second(t + 2 * d)).toBeCloseTo(second(t - 2 * d), 1);
    const line = splineTrack(
      times,
      times.map((t) => 0.3 * t),
    );
    expect(at(line, 1.23)).toBeCloseTo(0.369, 12);
  });

  it('stand still beyond their ends, and a constant everywhere', () => {
    expect([at(monotoneTrack(times, times), -3), at(splineTrack(times, times), 9), at(constantTrack(0.7), 2)]).toEqual([0, 2.6, 0.7]);
  });
});
