import { describe, expect, it } from 'vitest';
import { seeded } from '../math/random';
import { supportPath, type Supporter } from './support';

/** The same by looking at every foot at every event. */
function plain(all: readonly Supporter[], time: number): { x: number; z: number } | null {
  const standing = all.filter(({ hold: h }) => h.landing <= time && time <= h.leaving);
  const loaded = standing.filter(({ hold: h }) => h.landing < time && time < h.leaving);
  const carrying = loaded.length > 0 ? loaded : standing;
  if (carrying.length === 0) return null;
  const mean = (k: 'x' | 'z') => carrying.reduce((sum, s) => sum + s[k], 0) / carrying.length;
  return { x: mean('x'), z: mean('z') };
}

describe('the support path', () => {
  it('swept once is what looking at every foot gives; seeded walks and runs', () => {
    const rand = seeded(77);
    for (let n = 0; n < 40; n++) {
      const duty = 0.3 + 0.5 * rand();
      const all = Array.from({ length: 40 }, (_, i): Supporter => {
        const landing = (i - 4) * 0.5 + 0.1 * rand();
        return { hold: { landing, leaving: landing + duty }, x: (i % 2 ? -1 : 1) * rand(), z: rand() };
      });
      const path = supportPath(all, 0, 15, 3, 0);
      for (let i = 1; i < path.times.length - 1; i++) {
        const want = plain(all, path.times[i]!)!;
        expect(path.x[i]).toBeCloseTo(want.x, 12);
        expect(path.z[i]).toBeCloseTo(want.z, 12);
        // A piece in which nothing stands is flight.
        const middle = (path.times[i]! + path.times[i + 1]!) / 2;
        expect(path.omegas[i]).toBe(plain(all, middle) ? 3 : 0);
      }
      const events = all.flatMap(({ hold: h }) => [h.landing, h.leaving]).filter((t) => t > 1e-6 && t < 15 - 1e-6);
      expect(path.times.length).toBe(events.length + 2);
    }
  });

  it('takes a landing and a leaving at the same moment for one knot', () => {
    const feet: Supporter[] = [
      { hold: { landing: -1, leaving: 1 }, x: 0.1, z: 0 },
      { hold: { landing: 1 + 1e-12, leaving: 3 }, x: -0.1, z: 0 },
    ];
    const { times, x } = supportPath(feet, 0, 2, 3, 0);
    expect([...times]).toEqual([0, 1, 2]);
    expect(x[1]).toBeCloseTo(0, 12);
  });
});
