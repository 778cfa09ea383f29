import { describe, expect, it } from 'vitest';
import { buildGround, distanceTo } from '../ground/build';
import type { GroundFeature } from '../ground/spec';
import { seeded } from '../math/random';
import { buildCourse } from './build';
import { fewerPoints, findingWay, type WayQuery } from './find-way';
import { courseOfWay, facingAtEnd } from './way-course';

const ground = (...features: GroundFeature[]) => buildGround({ format: 'nimbret.ground', version: 1, features });
const query = (more: Partial<WayQuery>): WayQuery => ({
  ground: ground(),
  from: { x: 0, z: 0, heading: 0 },
  to: { x: 0, z: 8, heading: null },
  radius: 0.3,
  step: 0.7,
  reach: 1.1,
  ...more,
});
function ended<T>(work: Generator<number, T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
    expect(value).toBeLessThanOrEqual(1);
  }
}
const find = (more: Partial<WayQuery>, weight?: number) => ended(findingWay(query(more), weight));
const box = (x: number, z: number, length: number, breadth: number): GroundFeature => ({
  kind: 'obstacle',
  id: `${x} ${z}`,
  name: 'box',
  x,
  z,
  headingDeg: 0,
  shape: 'box',
  length,
  breadth,
  height: 1,
});
/** Water across the way, with one stone far off. */
const water = (gap: number): GroundFeature => ({
  kind: 'stones',
  id: 'w',
  name: 'w',
  x: 0,
  z: 3,
  headingDeg: 0,
  length: gap,
  breadth: 400,
  depth: 0.3,
  stones: [{ x: 60, z: 0.2, radius: 0.1, height: 0 }],
});
const scattered = (seed: number, far: number, count: number) => {
  const random = seeded(seed);
  return ground(...Array.from({ length: count }, () => box((random() - 0.5) * 10, 2 + random() * (far - 4), 0.3 + 1.6 * random(), 0.3 + 1.6 * random())));
};

describe('finding the way', () => {
  it('goes straight where nothing stands, and round what does', () => {
    const straight = find({});
    if (straight.kind !== 'found') throw new Error('no way');
    expect(straight.cost).toBeCloseTo(8, 0);
    const round = find({ ground: ground(box(0, 4, 0.5, 6)) });
    if (round.kind !== 'found') throw new Error('no way');
    expect(Math.max(...round.points.map((p) => Math.abs(p.x)))).toBeGreaterThan(3.2);
    expect(round.points[0]).toEqual({ x: 0, z: 0 });
    expect(round.points.at(-1)).toEqual({ x: 0, z: 8 });
  });

  it.each([1, 2, 3, 4, 5, 6])('seed %i: every place has room for the body, and the cost keeps the bound against a plain Dijkstra search', (seed) => {
    const land = scattered(seed, 14, 12);
    const to = { x: 0, z: 14, heading: null };
    const found = find({ ground: land, to });
    const plain = find({ ground: land, to }, 1e-9);
    if (found.kind !== 'found' || plain.kind !== 'found') throw new Error('no way');
    expect(found.bound).toBeLessThanOrEqual(1.25);
    expect(found.cost).toBeLessThanOrEqual(found.bound * plain.cost + 1e-3);
    expect(found.cost).toBeGreaterThanOrEqual(plain.cost - 1e-3);
    for (const p of found.points.slice(1, -1)) for (const o of land.obstacles!) expect(distanceTo(o, p.x, p.z)).toBeGreaterThanOrEqual(0.3 - 1e-6);
    // Smoothed into a course it still keeps clear.
    const course = buildCourse(courseOfWay(found.points, land, 0.3), 0.7);
    const at = [0, 0, 0, 0];
    for (let s = 0; s <= course.length; s += 0.05) {
      course.at(s, at, 0);
      for (const o of land.obstacles!) expect(distanceTo(o, at[0]!, at[1]!)).toBeGreaterThan(0.2);
    }
  });

  it('steps over a gap that can be reached and says which one cannot', () => {
    expect(find({ ground: ground(water(0.8)) }).kind).toBe('found');
    const none = find({ ground: ground(water(1.6)) });
    if (none.kind !== 'none') throw new Error('found a way through deep water');
    expect(none.reason).toMatch(/gap of 1\.[4-8] m where 1\.1 m can be reached/);
    expect(none.at.z).toBeCloseTo(3, 0);
  });

  it('says what is too narrow, and where, and when the goal itself has no room', () => {
    const wall = (gap: number) => ground(box(-25 - gap / 2, 4, 0.4, 50), box(25 + gap / 2, 4, 0.4, 50));
    const none = find({ ground: wall(0.4) });
    if (none.kind !== 'none') throw new Error('squeezed through');
    expect(none.reason).toMatch(/passage of about 0\.\d m where the body needs 0\.6 m/);
    expect(none.at.z).toBeCloseTo(4, 0);
    expect(find({ ground: wall(1.4) }).kind).toBe('found');
    const taken = find({ ground: ground(box(0, 8, 1, 1)) });
    expect(taken).toMatchObject({ kind: 'none', reason: expect.stringContaining('goal') as string });
  });

  it('meets the goal’s heading', () => {
    const found = find({ to: { x: 0, z: 6, heading: Math.PI } });
    if (found.kind !== 'found') throw new Error('no way');
    expect(found.cost).toBeGreaterThan(6.4);
  });
});

it('leaves out points of a way that say nothing', () => {
  const line = Array.from({ length: 20 }, (_, i) => ({ x: i < 10 ? 0 : (i - 9) * 0.5, z: Math.min(i, 9) * 0.5 }));
  expect(fewerPoints(line)).toHaveLength(3);
});

it('ends facing as it is asked, by a turn on the spot where the way does not come so', () => {
  const found = find({ to: { x: 1, z: 6, heading: null } });
  if (found.kind === 'none') throw new Error('there is a way');
  const course = courseOfWay(found.points, ground(), 0.3);
  for (const heading of [-2, 0.1, 1.5]) {
    const built = buildCourse(facingAtEnd(course, heading), 0.5);
    const at = [0, 0, 0, 0];
    built.at(built.length, at, 0);
    // To whole degrees; a turn of less than two is none.
    expect(Math.abs(at[2]! - heading)).toBeLessThan((2 * Math.PI) / 180);
  }
});
