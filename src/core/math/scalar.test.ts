import { describe, expect, it } from 'vitest';
import { cubicHermite, monotoneTangents, quinticHermite } from './hermite';
import { acosClamped, smoothMax, smoothMin3, softRamp, wrapAngle, wrapPhase } from './scalar';
import { seekIndex } from './seek';

describe('scalars', () => {
  it('wrap phases to [0, 1), never to 1', () => {
    expect(wrapPhase(-0.25)).toBe(0.75);
    expect(wrapPhase(1)).toBe(0);
    expect(wrapPhase(-1e-17)).toBe(0);
    expect(wrapAngle(Math.PI * 3)).toBeCloseTo(Math.PI, 12);
    expect(wrapAngle(-Math.PI)).toBeCloseTo(Math.PI, 12);
  });

  it('smooth minimum never exceeds any of its values and is close to the smallest', () => {
    for (const [a, b, c] of [
      [1, 2, 3],
      [0.5, 0.5, 0.5],
      [-1, Infinity, 4],
    ] as const) {
      const m = smoothMin3(a, b, c, 100);
      expect(m).toBeLessThanOrEqual(Math.min(a, b, c));
      expect(m).toBeGreaterThan(Math.min(a, b, c) - Math.log(3) / 100 - 1e-12);
    }
    expect(smoothMax(1, 1, 50)).toBeGreaterThanOrEqual(1);
  });

  it('soft ramp is C1: value and slope meet at both ends', () => {
    const slope = (x: number) => (softRamp(x + 1e-7, 0.1) - softRamp(x - 1e-7, 0.1)) / 2e-7;
    expect(softRamp(-0.1, 0.1)).toBe(0);
    expect(softRamp(0.1, 0.1)).toBeCloseTo(0.1, 12);
    expect(slope(-0.1)).toBeCloseTo(0, 5);
    expect(slope(0.1)).toBeCloseTo(1, 5);
  });

  it('clamped arc cosine takes rounding past the ends', () => {
    expect(acosClamped(1 + 1e-15)).toBe(0);
    expect(acosClamped(-1.1)).toBe(Math.PI);
  });

  it('finds the span of a time at its edges and outside', () => {
    const times = Float64Array.of(0, 1, 2, 4);
    expect([-1, 0, 0.5, 1, 3.9, 4, 9].map((t) => seekIndex(times, 4, t))).toEqual([0, 0, 0, 1, 2, 3, 3]);
  });
});

describe('Hermite curves', () => {
  it('quintic meets positions and velocities, with zero acceleration at both ends', () => {
    const f = (t: number) => quinticHermite(1, 2, -3, 0.5, 0.4, t / 0.4);
    const d = 1e-5;
    expect(f(0)).toBe(1);
    expect(f(0.4)).toBeCloseTo(-3, 12);
    expect((f(d) - f(0)) / d).toBeCloseTo(2, 4);
    expect((f(0.4) - f(0.4 - d)) / d).toBeCloseTo(0.5, 4);
    expect((f(2 * d) - 2 * f(d) + f(0)) / d ** 2).toBeCloseTo(0, 0);
  });

  it('monotone tangents never overshoot their values and keep flat stretches flat', () => {
    const values = Float64Array.of(0, 0, 0, -0.1, -0.6, -1, -1);
    const tangents = new Float64Array(7);
    monotoneTangents(values, 0, 7, tangents);
    for (let i = 0; i < 6; i++)
      for (let u = 0; u <= 1; u += 0.05) {
        const v = cubicHermite(values[i]!, tangents[i]!, values[i + 1]!, tangents[i + 1]!, u);
        expect(v).toBeLessThanOrEqual(Math.max(values[i]!, values[i + 1]!) + 1e-12);
        expect(v).toBeGreaterThanOrEqual(Math.min(values[i]!, values[i + 1]!) - 1e-12);
      }
  });
});
