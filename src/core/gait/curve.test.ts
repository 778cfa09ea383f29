import { describe, expect, it } from 'vitest';
import { seeded } from '../math/random';
import { compileCurve, curveValue, defaultKeys, flipKeys, KEY_GAP, repeatFirstHalf, reverseKeys, shiftKeys, TANGENTS, type CurveKey } from './curve';
import { curveSchema } from './schema';

const rand = seeded(77);

/** Random keys in order, apart from each other also over the seam. */
function randomKeys(): CurveKey[] {
  const count = 1 + Math.floor(rand() * 8);
  const keys = Array.from({ length: count }, (_, i) => ({
    at: (i + 0.1 + 0.7 * rand()) / count,
    value: 2 * rand() - 1,
    tangent: TANGENTS[Math.floor(rand() * TANGENTS.length)]!,
  }));
  return keys;
}

describe('a channel’s curve', () => {
  it('goes through every key that no corner rounds, and is the same one stride on', () => {
    for (let n = 0; n < 200; n++) {
      const keys = randomKeys();
      expect(curveSchema.safeParse(keys).success).toBe(true);
      const pieces = compileCurve(keys);
      for (const k of keys) {
        const before = keys[(keys.indexOf(k) + keys.length - 1) % keys.length]!;
        if (k.tangent !== 'linear' && before.tangent !== 'linear') expect(curveValue(pieces, k.at)).toBeCloseTo(k.value, 9);
      }
      for (const p of [0, 0.3, 0.77]) expect(curveValue(pieces, p - 1)).toBeCloseTo(curveValue(pieces, p), 12);
      expect(curveValue(pieces, 1)).toBe(curveValue(pieces, 0));
    }
  });

  it('is C1 everywhere, the seam included, whatever tangents are mixed', () => {
    const d = 1e-7;
    for (let n = 0; n < 200; n++) {
      const pieces = compileCurve(randomKeys());
      // Joints between pieces are where a kick would be.
      for (let i = 0; i < pieces.count; i++) {
        const p = pieces.data[i * 5]!;
        const f = (x: number) => curveValue(pieces, x);
        expect(Math.abs(f(p + d) - f(p - d))).toBeLessThan(1e-3);
        expect(Math.abs((f(p + 2 * d) - f(p + d)) / d - (f(p - d) - f(p - 2 * d)) / d)).toBeLessThan(1e-2);
      }
    }
  });

  it('never passes its keys by more than a thousandth, and that only at rounded corners', () => {
    for (let n = 0; n < 200; n++) {
      const keys = randomKeys();
      const pieces = compileCurve(keys);
      const values = keys.map((k) => k.value);
      for (let p = 0; p < 1; p += 0.005) {
        expect(curveValue(pieces, p)).toBeLessThanOrEqual(Math.max(...values) + (keys.some((k) => k.tangent === 'linear') ? 1e-3 : 1e-9));
        expect(curveValue(pieces, p)).toBeGreaterThanOrEqual(Math.min(...values) - (keys.some((k) => k.tangent === 'linear') ? 1e-3 : 1e-9));
      }
    }
  });

  it('holds, goes straight and lies level as its tangents say', () => {
    const keys = (tangent: CurveKey['tangent']): CurveKey[] => [
      { at: 0.1, value: -1, tangent },
      { at: 0.6, value: 1, tangent },
    ];
    const held = compileCurve(keys('held'));
    for (const p of [0.1, 0.3, 0.55]) expect(curveValue(held, p)).toBe(-1);
    expect(curveValue(held, 0.6)).toBeCloseTo(1, 12);
    const straight = compileCurve(keys('linear'));
    for (const u of [0.2, 0.5, 0.8]) expect(curveValue(straight, 0.1 + 0.5 * u)).toBeCloseTo(-1 + 2 * u, 9);
    const level = compileCurve(keys('flat'));
    expect((curveValue(level, 0.1 + 1e-5) + 1) / 1e-5).toBeLessThan(1e-2);
  });

  it('stands within 2.1 % of the cosine it takes the place of', () => {
    for (const waves of [1, 2] as const) {
      const pieces = compileCurve(defaultKeys(waves));
      const sign = waves === 1 ? 1 : -1;
      for (let p = 0; p < 1; p += 0.01) expect(Math.abs(curveValue(pieces, p) - sign * Math.cos(2 * Math.PI * waves * p))).toBeLessThan(0.021);
    }
  });

  it('is moved, turned over, run backwards and repeated as its names say', () => {
    const keys: CurveKey[] = [
      { at: 0.05, value: 0.2, tangent: 'smooth' },
      { at: 0.2, value: 1, tangent: 'flat' },
      { at: 0.42, value: -0.6, tangent: 'smooth' },
      { at: 0.8, value: 0.1, tangent: 'smooth' },
    ];
    const f = (k: readonly CurveKey[]) => {
      const pieces = compileCurve(k);
      return (p: number) => curveValue(pieces, p);
    };
    for (let p = 0; p < 1; p += 0.03) {
      expect(f(shiftKeys(keys, 0.3))(p)).toBeCloseTo(f(keys)(p - 0.3), 9);
      expect(f(flipKeys(keys))(p)).toBeCloseTo(-f(keys)(p), 12);
      expect(f(reverseKeys(keys))(p)).toBeCloseTo(f(keys)(-p), 9);
      expect(f(repeatFirstHalf(keys, false))(p)).toBeCloseTo(f(repeatFirstHalf(keys, false))(p + 0.5), 9);
      expect(f(repeatFirstHalf(keys, true))(p)).toBeCloseTo(-f(repeatFirstHalf(keys, true))(p + 0.5), 9);
    }
  });

  it('refuses keys out of order, too close, too many or none', () => {
    const key = (at: number): CurveKey => ({ at, value: 0, tangent: 'smooth' });
    for (const bad of [
      [],
      [key(0.5), key(0.2)],
      [key(0.5), key(0.5 + KEY_GAP / 2)],
      [key(0), key(0.999)],
      Array.from({ length: 40 }, (_, i) => key(i / 40)),
      [{ ...key(0), at: NaN }],
    ])
      expect(curveSchema.safeParse(bad).success).toBe(false);
    expect(() => compileCurve([])).toThrow(RangeError);
  });
});
