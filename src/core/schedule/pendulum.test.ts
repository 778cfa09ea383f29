import { describe, expect, it } from 'vitest';
import {
  constantMotion,
  pendulumBetween,
  pendulumPeriodic,
  pendulumRestToRest,
  readPendulum,
  readSupport,
  type PendulumTrack,
  type SupportPath,
} from './pendulum';

// Source of the closed forms: Kajita et al. 2001 (linear inverted pendulum), Hof et al. 2005 and Pratt et al. 2006
// (extrapolated centre of mass, capture point). All exact.
const omega = Math.sqrt(9.81 / 0.9);

/** A path along x, with z twice as far the other way; ω on every piece unless told. */
const path = (times: number[], x: number[], omegas = times.slice(1).map(() => omega)): SupportPath => ({
  times: Float64Array.from(times),
  x: Float64Array.from(x),
  z: Float64Array.from(x, (v) => -2 * v),
  omegas: Float64Array.from(omegas),
});
const read = (track: PendulumTrack, t: number) => {
  const out = new Float64Array(5);
  out[4] = t;
  readPendulum(track, out, 4, out, 0);
  return { x: out[0]!, z: out[1]!, vx: out[2]!, vz: out[3]! };
};
const support = (track: PendulumTrack, t: number) => {
  const out = new Float64Array(2);
  readSupport(track, t, out, 0);
  return { x: out[0]!, z: out[1]! };
};

describe('linear inverted pendulum', () => {
  it('follows x₀ cosh ωt + (ẋ₀/ω) sinh ωt over a fixed support, in both axes at once', () => {
    const track = pendulumBetween(path([0, 0.6], [0, 0]), [-0.2, 0.1], [0.15, 0.3]);
    const { vx, vz } = read(track, 0);
    for (const t of [0, 0.1, 0.33, 0.6]) {
      const now = read(track, t);
      expect(now.x).toBeCloseTo(-0.2 * Math.cosh(omega * t) + (vx / omega) * Math.sinh(omega * t), 12);
      expect(now.z).toBeCloseTo(0.1 * Math.cosh(omega * t) + (vz / omega) * Math.sinh(omega * t), 12);
      expect(now.vx).toBeCloseTo(-0.2 * omega * Math.sinh(omega * t) + vx * Math.cosh(omega * t), 11);
    }
    expect(read(track, 0.6).x).toBeCloseTo(0.15, 12);
  });

  it('comes to rest over a step onto its extrapolated centre of mass', () => {
    const capture = 0.1 + 0.7 / omega; // x = 0.1 m, ẋ = 0.7 m/s
    const track = pendulumBetween(path([0, 12], [capture, capture]), [0.1, 0], [capture, 0]);
    expect(read(track, 0).vx).toBeCloseTo(0.7, 9);
    expect(read(track, 12).vx).toBeCloseTo(0, 9);
  });

  it('obeys ẍ = ω² (x − p) everywhere, also over a moving support and where ω changes, with continuous velocity at every knot', () => {
    const omegas = [omega, 0.7 * omega, 0, omega];
    const track = pendulumBetween(path([0, 0.3, 0.5, 0.7, 1], [0, 0.1, 0.4, 0.45, 0.4], omegas), [0, 0], [0.4, -0.8]);
    const d = 1e-4;
    for (const [t, w] of [
      [0.1, omega],
      [0.2, omega],
      [0.4, 0.7 * omega],
      [0.6, 0],
      [0.66, 0],
      [0.9, omega],
    ] as const) {
      const acceleration = (read(track, t + d).vx - read(track, t - d).vx) / (2 * d);
      expect(acceleration).toBeCloseTo(w * w * (read(track, t).x - support(track, t).x), 4);
    }
    for (const t of [0.3, 0.5, 0.7]) {
      expect(read(track, t + 1e-9).vx).toBeCloseTo(read(track, t - 1e-9).vx, 6);
      expect(read(track, t + 1e-9).x).toBeCloseTo(read(track, t - 1e-9).x, 6);
    }
  });

  it('sways periodically as d (1 − cosh ω(t − T/2) / cosh ωT/2) over alternate feet', () => {
    const d = 0.05;
    const T = 0.55;
    const eps = 1e-5;
    const track = pendulumPeriodic(path([0, T - eps, T, 2 * T - eps, 2 * T], [d, d, -d, -d, d]));
    for (const t of [0, 0.1, 0.275, 0.5]) expect(read(track, t).x).toBeCloseTo(d * (1 - Math.cosh(omega * (t - T / 2)) / Math.cosh((omega * T) / 2)), 5);
    // Closing is looked at over a support that moves as a walk's does: in a knot as short as above a rate rounds off.
    const walking = pendulumPeriodic(path([0, 0.12, T, T + 0.12, 2 * T], [0, d, 0, -d, 0]));
    expect(read(walking, 2 * T).x).toBeCloseTo(read(walking, 0).x, 12);
    expect(read(walking, 2 * T).vx).toBeCloseTo(read(walking, 0).vx, 10);
    // A ring of two pieces has rows too few and is cut finer.
    expect(read(pendulumPeriodic(path([0, 0.4, 1], [0.1, 0.1, 0.1])), 0.7).x).toBeCloseTo(0.1, 12);
  });

  it('starts and ends exactly at rest, bent only at the two standing knots', () => {
    const track = pendulumRestToRest(path([0, 0.5, 1, 1.5, 2, 2.5, 3], [0, 0, 0.06, -0.06, 0.06, 0, 0]), 1, 5);
    for (const t of [0, 3]) {
      expect(read(track, t).x).toBeCloseTo(0, 12);
      expect(read(track, t).vx).toBeCloseTo(0, 10);
      expect(read(track, t).vz).toBeCloseTo(0, 10);
    }
    // The body is pushed towards the first standing foot from the other side: the weight shift before a first step.
    expect(support(track, 0.5).x).toBeLessThan(0);
    expect(support(track, 1).x).toBeCloseTo(0.06, 12);
  });

  it('is stable at any length: a thousand steps end as exactly at rest as ten', () => {
    const knots = 1002;
    const times = Array.from({ length: knots }, (_, i) => i * 0.5);
    const along = Array.from({ length: knots }, (_, i) => Math.min(Math.max(0, i - 1), knots - 4) * 0.7);
    const track = pendulumRestToRest(path(times, along), 1, knots - 2);
    const end = read(track, times[knots - 1]!);
    expect(end.vx).toBeCloseTo(0, 9);
    expect(end.x).toBeCloseTo(along[knots - 1]!, 9);
    expect(read(track, 250).vx).toBeCloseTo(1.4, 9);
  });

  it('moves uniformly over a support that runs along, and says when it cannot start or times do not ascend', () => {
    expect(read(constantMotion(1.4, -0.5, 2), 1.5)).toMatchObject({ x: 1.4 * 1.5, z: -0.75, vx: 1.4, vz: -0.5 });
    expect(read(constantMotion(1.4, 0, 2), -3).x).toBeCloseTo(-4.2, 12);
    expect(() => pendulumRestToRest(path([0, 1], [0, 1]), 0, 0)).toThrow(RangeError);
    expect(() => pendulumBetween(path([0, 1, 1], [0, 1, 2]), [0, 0], [0, 0])).toThrow(/must ascend/);
  });
});
