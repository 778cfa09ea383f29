import { describe, expect, it } from 'vitest';
import { buildCourse } from './build';
import { groundDistance, TURN_M, type Course } from './course';
import { ropeCourse } from './rope';
import type { CourseKnot } from './spec';

const at = (course: Course, s: number) => {
  const out = [0, 0, 0, 0];
  course.at(s, out, 0);
  return { x: out[0]!, z: out[1]!, heading: out[2]!, curvature: out[3]! };
};
const knot = (x: number, z: number, by: CourseKnot['by'] = 'smooth', turnDeg?: number): CourseKnot => ({
  x,
  z,
  by,
  ...(turnDeg === undefined ? {} : { turnDeg }),
});

describe('a rope through points', () => {
  const points = [
    { x: 0, z: 0 },
    { x: 1, z: 2 },
    { x: -2, z: 5 },
    { x: 0, z: 9 },
  ];
  const rope = ropeCourse(points);

  it('is told by its own length: unit speed, heading along it, curvature the rate of the heading', () => {
    const h = 1e-4;
    for (let s = 0.02; s < rope.length - 0.02; s += 0.037) {
      const [a, b, c] = [at(rope, s - h), at(rope, s), at(rope, s + h)];
      expect(Math.hypot(c.x - a.x, c.z - a.z) / (2 * h)).toBeCloseTo(1, 7);
      expect(Math.sin(b.heading)).toBeCloseTo((c.x - a.x) / (2 * h), 6);
      expect((c.heading - a.heading) / (2 * h)).toBeCloseTo(b.curvature, 5);
    }
  });

  it('goes through its points, and straight on beyond its ends', () => {
    for (const p of points) {
      let least = Infinity;
      for (let s = 0; s <= rope.length; s += 0.002) least = Math.min(least, Math.hypot(at(rope, s).x - p.x, at(rope, s).z - p.z));
      expect(least).toBeLessThan(2e-3);
    }
    const [end, beyond] = [at(rope, rope.length), at(rope, rope.length + 2)];
    expect(Math.hypot(beyond.x - end.x, beyond.z - end.z)).toBeCloseTo(2, 9);
    expect(beyond.heading).toBeCloseTo(end.heading, 9);
  });

  it('leaves and arrives as it is told', () => {
    const told = ropeCourse(points, 0.3, -0.2);
    expect(at(told, 0).heading).toBeCloseTo(0.3, 6);
    expect(at(told, told.length).heading).toBeCloseTo(-0.2, 6);
  });

  it('refuses points on each other', () => {
    expect(() => ropeCourse([points[0]!, points[0]!])).toThrow(RangeError);
    expect(() => ropeCourse([points[0]!])).toThrow(RangeError);
  });
});

describe('a course through knots', () => {
  it('has exact straight pieces and circles that go on from where they come', () => {
    const course = buildCourse({ knots: [knot(0, 0), knot(0, 4, 'straight'), knot(4, 4, 'circle')] }, 0);
    expect(at(course, 2)).toMatchObject({ heading: 0, curvature: 0 });
    expect(course.length).toBeCloseTo(4 + Math.PI * 2, 9);
    // Half round to the left, radius 2.
    expect(at(course, 4 + Math.PI).x).toBeCloseTo(2, 9);
    expect(at(course, 4 + Math.PI).z).toBeCloseTo(6, 9);
    expect(at(course, 5).curvature).toBeCloseTo(0.5, 9);
    expect(at(course, course.length).heading).toBeCloseTo(Math.PI, 9);
  });

  it('turns on the spot at a corner, and by what a knot says, without covering ground', () => {
    const course = buildCourse({ knots: [knot(0, 0), knot(0, 3, 'straight'), knot(3, 3, 'straight', -270)] }, 0.7);
    expect(course.turns.map((t) => Math.round((t.angle * 180) / Math.PI))).toEqual([90, -270]);
    const [first, last] = course.turns as [Course['turns'][0], Course['turns'][0]];
    expect(first.to - first.from).toBeCloseTo((Math.PI / 2) * TURN_M, 9);
    for (const s of [first.from, (first.from + first.to) / 2, first.to])
      expect([at(course, s).x, at(course, s).z]).toEqual([expect.closeTo(0, 9), expect.closeTo(3, 9)]);
    expect(at(course, first.to).heading).toBeCloseTo(Math.PI / 2, 9);
    expect(groundDistance(course, course.length)).toBeCloseTo(6, 9);
    expect(at(course, last.to).heading).toBeCloseTo(Math.PI / 2 - (3 * Math.PI) / 2, 9);
  });

  it('meets a straight piece in its direction without a corner, and counts headings on', () => {
    const course = buildCourse({ knots: [knot(0, 0), knot(0, 2, 'straight'), knot(1, 4), knot(1, 6, 'straight')] }, 0.7);
    expect(course.turns).toEqual([]);
    let before = at(course, 0);
    for (let s = 0; s <= course.length; s += 0.01) {
      const now = at(course, s);
      expect(Math.abs(now.heading - before.heading)).toBeLessThan(0.03);
      expect(Math.hypot(now.x - before.x, now.z - before.z)).toBeLessThan(0.0101);
      before = now;
    }
    expect(before.heading).toBeCloseTo(0, 6);
  });

  it('refuses knots that all lie on each other', () => {
    expect(() => buildCourse({ knots: [knot(1, 1), knot(1, 1)] }, 0.7)).toThrow(RangeError);
  });
});
