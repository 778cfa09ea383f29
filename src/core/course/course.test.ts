import { describe, expect, it } from 'vitest';
import { bendCourse } from './bends';
import { buildCourse } from './build';
import { straightCourse, type Course } from './course';

const at = (course: Course, s: number) => {
  const out = [0, 0, 0, 0];
  course.at(s, out, 0);
  return { x: out[0]!, z: out[1]!, heading: out[2]!, curvature: out[3]! };
};

describe('courses', () => {
  it('through smooth knots have no bend a body could not follow, however narrow: a spike between two looks is a corner', () => {
    const knots = [
      { x: 1.04, z: 3.31, by: 'straight' as const, turnDeg: 81 },
      { x: 3.96, z: 1.43, by: 'straight' as const },
      { x: 1.99, z: -3.44, by: 'smooth' as const },
      { x: 2.64, z: -2.67, by: 'straight' as const },
      { x: -3.5, z: 1.12, by: 'straight' as const },
    ];
    const course = buildCourse({ knots }, 0.6);
    const onCorner = (s: number) => course.turns.some((t) => s >= t.from - 0.01 && s <= t.to + 0.01);
    for (let s = 0; s < course.length; s += 0.01) {
      if (onCorner(s) || onCorner(s + 0.01)) continue;
      const [a, b] = [at(course, s), at(course, s + 0.01)];
      expect(Math.abs(b.heading - a.heading), `${s}`).toBeLessThan(0.12);
    }
    // Both ends of the smooth piece are corners.
    expect(course.turns.length).toBeGreaterThanOrEqual(3);
  });

  it('straight: so far along its heading', () => {
    expect(at(straightCourse(Math.PI / 2), 3)).toMatchObject({ heading: Math.PI / 2, curvature: 0 });
    expect(at(straightCourse(Math.PI / 2), 3).x).toBeCloseTo(3, 12);
  });

  it('a circle closes: radius 2 m, left, exact to a nanometre', () => {
    const circle = bendCourse([{ length: 4 * Math.PI, curvature: 0.5 }], 0.7);
    for (const s of [0, 1, 3, 7, 12]) {
      const p = at(circle, s);
      expect(Math.hypot(p.x - 2, p.z)).toBeCloseTo(2, 9);
      expect(p.heading).toBeCloseTo(s / 2, 12);
    }
    const end = at(circle, 4 * Math.PI);
    expect(Math.hypot(end.x, end.z)).toBeLessThan(1e-9);
  });

  it('is by arc length, and heading and curvature are continuous where straight meets circle and at both ends', () => {
    const course = bendCourse(
      [
        { length: 2, curvature: 0 },
        { length: 3, curvature: 0.6 },
        { length: 4, curvature: -0.3 },
      ],
      0.8,
    );
    const d = 1e-4;
    let steepest = 0;
    for (let s = -1; s < 10; s += 0.013) {
      const [a, b] = [at(course, s), at(course, s + d)];
      expect(Math.hypot(b.x - a.x, b.z - a.z) / d).toBeCloseTo(1, 6);
      expect((b.heading - a.heading) / d).toBeLessThan(0.61);
      // Inside the course, curvature goes over within the ramp.
      if (s > 0 && s < 9 - d) steepest = Math.max(steepest, Math.abs(b.curvature - a.curvature) / d);
    }
    expect(steepest).toBeCloseTo(0.9 / 0.8, 3);
    expect(at(course, -2)).toMatchObject({ z: -2, heading: 0, curvature: 0 });
    expect(() => bendCourse([], 1)).toThrow(RangeError);
    expect(() => bendCourse([{ length: 1, curvature: NaN }], 1)).toThrow(RangeError);
  });
});
