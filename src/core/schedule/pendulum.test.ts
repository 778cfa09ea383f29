import { describe, expect, it } from 'vitest';
import { constantMotion, pendulumPeriodic, pendulumPosition, pendulumRestToRest, pendulumSupport, pendulumTo, pendulumVelocity } from './pendulum';

// Source of the closed forms: Kajita et al. 2001 (linear inverted pendulum), Hof et al. 2005 and Pratt et al. 2006
// (extrapolated centre of mass, capture point). All exact.
const omega = Math.sqrt(9.81 / 0.9);

describe('linear inverted pendulum', () => {
  it('follows x₀ cosh ωt + (ẋ₀/ω) sinh ωt over a fixed support', () => {
    const track = pendulumTo({ times: [0, 0.6], points: [0, 0] }, omega, -0.2, 0.35);
    const v0 = pendulumVelocity(track, 0);
    for (const t of [0, 0.1, 0.33, 0.6]) {
      expect(pendulumPosition(track, t)).toBeCloseTo(-0.2 * Math.cosh(omega * t) + (v0 / omega) * Math.sinh(omega * t), 12);
      expect(pendulumVelocity(track, t)).toBeCloseTo(-0.2 * omega * Math.sinh(omega * t) + v0 * Math.cosh(omega * t), 11);
    }
    expect(pendulumPosition(track, 0.6) + pendulumVelocity(track, 0.6) / omega).toBeCloseTo(0.35, 12);
  });

  it('comes to rest over a step onto its extrapolated centre of mass', () => {
    const capture = 0.1 + 0.7 / omega; // x = 0.1 m, ẋ = 0.7 m/s
    const track = pendulumTo({ times: [0, 12], points: [capture, capture] }, omega, 0.1, capture);
    expect(pendulumVelocity(track, 0)).toBeCloseTo(0.7, 12);
    expect(pendulumPosition(track, 12)).toBeCloseTo(capture, 12);
    expect(pendulumVelocity(track, 12)).toBeCloseTo(0, 12);
  });

  it('obeys ẍ = ω² (x − p) everywhere, also over a moving support', () => {
    const track = pendulumTo({ times: [0, 0.3, 0.5, 1], points: [0, 0.1, 0.4, 0.4] }, omega, 0, 0.4);
    const d = 1e-4;
    for (const t of [0.1, 0.2, 0.4, 0.45, 0.7, 0.9]) {
      const acceleration = (pendulumVelocity(track, t + d) - pendulumVelocity(track, t - d)) / (2 * d);
      expect(acceleration).toBeCloseTo(omega * omega * (pendulumPosition(track, t) - pendulumSupport(track, t)), 4);
    }
  });

  it('sways periodically as d (1 − cosh ω(t − T/2) / cosh ωT/2) over alternate feet', () => {
    const d = 0.05;
    const T = 0.55;
    const eps = 1e-5;
    const path = { times: [0, T - eps, T, 2 * T - eps, 2 * T], points: [d, d, -d, -d, d] };
    const track = pendulumPeriodic(path, omega);
    for (const t of [0, 0.1, 0.275, 0.5])
      expect(pendulumPosition(track, t)).toBeCloseTo(d * (1 - Math.cosh(omega * (t - T / 2)) / Math.cosh((omega * T) / 2)), 5);
    expect(pendulumPosition(track, 2 * T)).toBeCloseTo(pendulumPosition(track, 0), 12);
    expect(pendulumVelocity(track, 2 * T)).toBeCloseTo(pendulumVelocity(track, 0), 10);
  });

  it('starts and ends exactly at rest, bent only at the two standing knots', () => {
    const path = { times: [0, 0.5, 1, 1.5, 2, 2.5, 3], points: [0, 0, 0.06, -0.06, 0.06, 0, 0] };
    const track = pendulumRestToRest(path, omega, 1, 5);
    for (const t of [0, 3]) {
      expect(pendulumPosition(track, t)).toBeCloseTo(0, 10);
      expect(pendulumVelocity(track, t)).toBeCloseTo(0, 10);
    }
    // The body is pushed towards the first standing foot from the other side: the weight shift before a first step.
    expect(pendulumSupport(track, 0.5)).toBeLessThan(0);
    expect(pendulumSupport(track, 1)).toBeCloseTo(0.06, 12);
  });

  it('moves uniformly over a support that runs along, and says when it cannot start', () => {
    expect(pendulumPosition(constantMotion(1, 1.4, 2), 1.5)).toBeCloseTo(3.1, 12);
    expect(pendulumVelocity(constantMotion(1, 1.4, 2), -3)).toBe(1.4);
    expect(() => pendulumRestToRest({ times: [0, 1], points: [0, 1] }, omega, 0, 0)).toThrow(RangeError);
  });
});
