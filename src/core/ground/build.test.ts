import { describe, expect, it } from 'vitest';
import { seeded } from '../math/random';
import { buildGround, distanceTo } from './build';
import { fieldOfGrid, fieldOfTriangles } from './field';
import { levelGround, type Ground } from './ground';
import { groundSpecSchema, levelSpec, type GroundFeature } from './spec';

const at = (x = 0, z = 0, headingDeg = 0) => ({ id: `${x} ${z} ${headingDeg}`, name: 'f', x, z, headingDeg });
const ground = (...features: GroundFeature[]): Ground => buildGround({ format: 'nimbret.ground', version: 1, features });
const slope: GroundFeature = { kind: 'slope', ...at(0, 2), length: 4, breadth: 6, angleDeg: 10 };
const stairs: GroundFeature = { kind: 'stairs', ...at(0, 1), riser: 0.17, tread: 0.29, count: 5, breadth: 2 };
const rough: GroundFeature = { kind: 'rough', ...at(0, -5, 20), length: 12, breadth: 10, amount: 0.05, wave: 2, seed: 4 };
const TAN = Math.tan((10 * Math.PI) / 180);

describe('a ground of features', () => {
  it('is level without any', () => {
    expect(buildGround(levelSpec())).toBe(levelGround);
  });

  it('leads from level to level over a slope and a flight, and is level beside them', () => {
    const land = ground(slope);
    expect([land.height(0, 0), land.height(0, 4), land.height(0, 9), land.height(5, 4)]).toEqual([
      0,
      expect.closeTo(2 * TAN, 12),
      expect.closeTo(4 * TAN, 12),
      0,
    ]);
    const flight = ground(stairs);
    expect([0.99, 1.01, 1.3, 3].map((z) => flight.height(0, z))).toEqual([0, 0.17, 0.34, 0.85].map((h) => expect.closeTo(h, 9) as number));
    const down = ground({ ...stairs, riser: -0.17 });
    expect(down.height(0, 9)).toBeCloseTo(-0.85, 9);
  });

  it('lays features on each other whatever their order', () => {
    const all = [slope, stairs, rough];
    const random = seeded(1);
    const [a, b] = [ground(...all), ground(...[...all].reverse())];
    for (let i = 0; i < 200; i++) {
      const [x, z] = [(random() - 0.5) * 8, (random() - 0.3) * 12];
      expect(b.height(x, z)).toBeCloseTo(a.height(x, z), 12);
    }
    expect(a.height(0, 8)).toBeCloseTo(4 * TAN + 0.85 + ground(rough).height(0, 8), 9);
  });

  it.each([
    ['rough ground', rough],
    ['a slope', { ...slope, headingDeg: 40 } as GroundFeature],
    ['a field', { kind: 'field', ...at(0, -5, 15), ...shape() } as GroundFeature],
  ])('tells the normal of %s as its heights rise', (_, feature) => {
    const land = ground(feature);
    const random = seeded(2);
    const n = [0, 0, 0];
    const h = 1e-5;
    for (let i = 0; i < 100; i++) {
      const [x, z] = [(random() - 0.5) * 3, (random() - 0.5) * 3];
      land.normal(x, z, n, 0);
      expect(Math.hypot(...n)).toBeCloseTo(1, 12);
      expect(-n[0]! / n[1]!).toBeCloseTo((land.height(x + h, z) - land.height(x - h, z)) / (2 * h), 4);
      expect(-n[2]! / n[1]!).toBeCloseTo((land.height(x, z + h) - land.height(x, z - h)) / (2 * h), 4);
    }
  });

  it('keeps rough ground within its height, and is another with another seed', () => {
    const [land, other] = [ground(rough), ground({ ...rough, seed: 5 })];
    let differs = 0;
    for (let i = 0; i < 400; i++) {
      const [x, z] = [((i % 20) - 10) * 0.4, Math.floor(i / 20) * 0.4];
      expect(Math.abs(land.height(x, z))).toBeLessThanOrEqual(0.05);
      differs = Math.max(differs, Math.abs(land.height(x, z) - other.height(x, z)));
    }
    expect(differs).toBeGreaterThan(0.01);
  });

  it('gives no footing in water and in what stands there, and some on stones', () => {
    const land = ground(
      { kind: 'stones', ...at(0, 1), length: 3, breadth: 3, depth: 0.4, stones: [{ x: 0, z: 1.5, radius: 0.25, height: 0.05 }] },
      { kind: 'obstacle', ...at(2, 0), shape: 'box', length: 1, breadth: 0.4, height: 1 },
      { kind: 'bystander', ...at(-2, 0), body: 'bosun' },
    );
    expect([land.footing(0, 0), land.footing(0, 2), land.footing(0, 2.5), land.footing(0, 2.8)]).toEqual([true, false, true, false]);
    expect([land.height(0, 2), land.height(0, 2.5)]).toEqual([expect.closeTo(-0.4, 12), expect.closeTo(0.05, 12)]);
    expect([land.footing(2, 0.3), land.footing(2.3, 0), land.footing(-2, 0.1), land.footing(-2, 0.5)]).toEqual([false, true, false, true]);
    expect(distanceTo(land.obstacles![0]!, 2, 1.5)).toBeCloseTo(1, 9);
    expect(land.pieces!.map((p) => p.kind)).toEqual(['stone']);
  });
});

function shape() {
  const columns = 21,
    rows = 31;
  const grid = Float64Array.from({ length: columns * rows }, (_, k) => 0.2 * Math.sin((k % columns) * 0.5) + 0.1 * Math.cos(Math.floor(k / columns) * 0.4));
  return fieldOfGrid(grid, columns, rows, { x: 0, z: -5, length: 9, breadth: 6 });
}

describe('a height field', () => {
  it('goes through its grid to a 65535th of its height', () => {
    const made = shape();
    const land = ground({ kind: 'field', ...at(0, -5), ...made });
    for (const [c, r] of [
      [3, 4],
      [10, 15],
      [20, 30],
    ] as const) {
      const wanted = 0.2 * Math.sin(c * 0.5) + 0.1 * Math.cos(r * 0.4);
      expect(land.height(3 - (c * 6) / 20, -5 + (r * 9) / 30)).toBeCloseTo(wanted, 4);
    }
    expect(land.height(20, 0)).toBe(0);
  });

  it('is made of triangles seen from above, the highest counting', () => {
    // A roof over a floor: ridge along z at x = 0, 1 m high, 2 m broad.
    const points = [-1, 0, 0, 1, 0, 0, -1, 0, 4, 1, 0, 4, 0, 1, 0, 0, 1, 4];
    const made = fieldOfTriangles(points, [0, 1, 2, 1, 3, 2, 0, 4, 5, 0, 5, 2, 4, 1, 3, 4, 3, 5]);
    const land = ground({ kind: 'field', ...at(), ...made });
    expect(land.height(0, 2)).toBeCloseTo(1, 2);
    expect(land.height(0.5, 2)).toBeCloseTo(0.5, 2);
    expect(() => fieldOfTriangles([0, 0, 0, 0, 1, 0, 0, 2, 0], [0, 1, 2])).toThrow(RangeError);
    // What no project could keep is refused when it comes in.
    const flat = (x: number, y: number) => [x, y, 0, x + 9, y, 0, x, y, 9];
    expect(() => fieldOfTriangles(flat(0, 501), [0, 1, 2])).toThrow(/must lie within 500 m/);
    expect(() => fieldOfTriangles(flat(0, -600), [0, 1, 2])).toThrow(/must lie within 500 m/);
    expect(() => fieldOfTriangles(flat(6000, 0), [0, 1, 2])).toThrow(/within 5000 m of the origin/);
    expect(fieldOfTriangles(flat(0, 499), [0, 1, 2]).high).toBeLessThanOrEqual(500);
  });
});

it('refuses grounds that are none', () => {
  for (const bad of [
    { ...slope, angleDeg: 80 },
    { ...stairs, count: 0 },
    { ...rough, wave: 0 },
    { ...slope, kind: 'hill' },
    { ...slope, x: NaN },
  ])
    expect(groundSpecSchema.safeParse({ ...levelSpec(), features: [bad] }).success).toBe(false);
  expect(groundSpecSchema.safeParse({ ...levelSpec(), features: [slope, stairs, rough] }).success).toBe(true);
});
