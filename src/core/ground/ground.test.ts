import { describe, expect, it } from 'vitest';
import { shippedBody } from '../tests/cast';
import { seeded } from '../math/random';
import { levelGround } from './ground';
import { slopeGround } from './slope';
import { solePlane } from './sole-plane';
import { stairsGround } from './stairs';

const { sole } = shippedBody('marlo').legs[0];
const normalOf = (g: { normal(x: number, z: number, out: number[], at: number): void }) => {
  const n = [0, 0, 0];
  g.normal(0.3, -0.2, n, 0);
  return n;
};

describe('grounds', () => {
  it('a slope rises by its angle towards its heading and has the normal of its plane', () => {
    const ground = slopeGround(0.2, Math.PI / 2);
    expect(ground.height(2, 5)).toBeCloseTo(2 * Math.tan(0.2), 12);
    const [nx, ny, nz] = normalOf(ground) as [number, number, number];
    expect(Math.hypot(nx, ny, nz)).toBeCloseTo(1, 12);
    expect(ny).toBeCloseTo(Math.cos(0.2), 12);
    expect(nx).toBeCloseTo(-Math.sin(0.2), 12);
    expect(() => slopeGround(Math.PI / 2)).toThrow(RangeError);
    expect(() => slopeGround(NaN)).toThrow(RangeError);
  });

  it('stairs rise a riser a tread, up or down, level before and after', () => {
    const up = stairsGround({ start: 1, riser: 0.17, tread: 0.3, count: 3, heading: 0 });
    expect([0.99, 1.01, 1.29, 1.31, 1.61, 9].map((z) => up.height(5, z))).toEqual([0, 0.17, 0.17, 0.34, 0.51, 0.51]);
    const down = stairsGround({ start: 0, riser: -0.2, tread: 0.25, count: 2, heading: Math.PI / 2 });
    expect([-1, 0.1, 0.3, 4].map((x) => down.height(x, 7))).toEqual([0, -0.2, -0.4, -0.4]);
    expect(() => stairsGround({ start: 0, riser: 0.2, tread: 0, count: 2, heading: 0 })).toThrow(RangeError);
  });
});

describe('the plane under a sole', () => {
  it('is the ground’s own on level and slope, wherever the foot stands and points; seeded', () => {
    const rand = seeded(5);
    for (let n = 0; n < 100; n++) {
      const angle = 0.5 * (rand() - 0.5),
        towards = 6 * rand();
      const [x, z, heading] = [4 * rand(), 4 * rand(), 6 * rand()];
      const ground = slopeGround(angle, towards);
      const plane = solePlane(ground, sole, x, z, heading);
      expect(plane.y).toBeCloseTo(ground.height(x, z), 12);
      expect(plane.slopeX).toBeCloseTo(Math.tan(angle) * Math.sin(towards), 12);
      expect(plane.slopeZ).toBeCloseTo(Math.tan(angle) * Math.cos(towards), 12);
      expect(plane.gap).toBe(0);
    }
    expect(solePlane(levelGround, sole, 1, 2, 3)).toEqual({ y: 0, slopeX: 0, slopeZ: 0, gap: 0 });
  });

  it('rests on the highest supports over an edge: nothing under ground, the gap told; an overhang needs no support', () => {
    const ground = stairsGround({ start: 0, riser: -0.17, tread: 9, count: 1, heading: 0 });
    // Heel on the upper level, toes over the edge.
    const plane = solePlane(ground, sole, 0, -0.1, 0);
    for (const ahead of [-sole.heelBack, sole.ballAhead, sole.tipAhead])
      expect(plane.y + plane.slopeZ * ahead).toBeGreaterThanOrEqual(ground.height(0, -0.1 + ahead) - 1e-9);
    expect(plane.gap).toBeGreaterThan(0.01);
    expect(solePlane(ground, sole, 0, -sole.ballAhead - 0.001, 0, 0.1)).toMatchObject({ y: 0, gap: 0 });
  });
});
