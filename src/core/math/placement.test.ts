import { describe, expect, it } from 'vitest';
import { seeded } from './random';
import { composePlacement, composePoint, createPlacement, inversePlacement, placeRoot, repeatPlacement } from './placement';
import { multiplyAxis, rotate, setAxis } from './quaternion';

const rand = seeded(41);
const any = () => createPlacement(4 * rand() - 2, rand(), 4 * rand() - 2, 6 * rand() - 3);
const near = (a: ArrayLike<number>, b: ArrayLike<number>, digits = 12) => {
  for (let k = 0; k < 4; k++) expect(a[k]).toBeCloseTo(b[k]!, digits);
};

describe('placements', () => {
  it('compose as frames do: the frame of a after b is a frame, and a ∘ a⁻¹ is none; seeded', () => {
    for (let n = 0; n < 200; n++) {
      const [a, b, c] = [any(), any(), any()];
      const [ab, left, bc, right, back] = [0, 0, 0, 0, 0].map(() => createPlacement()) as [
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
        Float64Array,
      ];
      composePlacement(ab, 0, a, 0, b, 0);
      composePlacement(left, 0, ab, 0, c, 0);
      composePlacement(bc, 0, b, 0, c, 0);
      composePlacement(right, 0, a, 0, bc, 0);
      near(left, right);
      inversePlacement(back, 0, a, 0);
      composePlacement(back, 0, a, 0, back, 0);
      near(back, [0, 0, 0, 0]);
    }
  });

  it('turn left with positive yaw: a metre ahead of a figure that faces its left is a metre to the left', () => {
    const out = [0, 0, 0];
    composePoint(out, 0, createPlacement(5, 1, 2, Math.PI / 2), 0, [0, 0, 1], 0);
    expect(out[0]).toBeCloseTo(6, 12);
    expect(out[1]).toBeCloseTo(1, 12);
    expect(out[2]).toBeCloseTo(2, 12);
  });

  it('repeat in closed form as they do one by one, also backwards, straight and turning', () => {
    for (const step of [createPlacement(0.1, 0.02, 1.4, 0), createPlacement(0.1, 0, 1.4, 0.3), createPlacement(0, 0, 1, -2.9)])
      for (const times of [-4, -1, 0, 1, 2, 7]) {
        const one = createPlacement();
        const by = createPlacement();
        if (times < 0) inversePlacement(by, 0, step, 0);
        else by.set(step);
        for (let k = 0; k < Math.abs(times); k++) composePlacement(one, 0, one, 0, by, 0);
        const all = createPlacement();
        repeatPlacement(all, 0, step, 0, times);
        near(all, one);
      }
    const straight = createPlacement();
    repeatPlacement(straight, 0, createPlacement(0.3, 0, 1.1, 0), 0, 3);
    expect(straight[2]).toBe(3 * 1.1);
  });

  it('move a root as they move what the root carries: a point of the moved root is the point moved; seeded', () => {
    for (let n = 0; n < 50; n++) {
      const root = Float64Array.of(rand(), rand(), rand(), 0, 0, 0, 1);
      for (const axis of [2, 0, 1] as const) multiplyAxis(root, 3, root, 3, axis, 3 * rand() - 1.5);
      const by = any();
      const [before, after] = [0, 0].map((): number[] => [0, 0, 0]) as [number[], number[]];
      const carried = (point: number[]) => {
        rotate(point, 0, root, 3, 0.3, -0.5, 0.8);
        for (let k = 0; k < 3; k++) point[k] = point[k]! + root[k]!;
      };
      carried(before);
      composePoint(before, 0, by, 0, before, 0);
      placeRoot(root, 0, 3, by, 0);
      carried(after);
      for (let k = 0; k < 3; k++) expect(after[k]).toBeCloseTo(before[k]!, 12);
    }
  });

  it('move a root: its place as a point, its orientation by the yaw', () => {
    const root = Float64Array.of(0.2, 0.1, 0.5, 0, 0, 0, 1);
    setAxis(root, 3, 1, 0.4);
    const by = createPlacement(1, 0.2, -1, 0.7);
    placeRoot(root, 0, 3, by, 0);
    const forward = [0, 0, 0];
    rotate(forward, 0, root, 3, 0, 0, 1);
    expect(Math.atan2(forward[0]!, forward[2]!)).toBeCloseTo(1.1, 12);
    expect(root[1]).toBeCloseTo(0.3, 12);
    expect(root[0]).toBeCloseTo(1 + Math.cos(0.7) * 0.2 + Math.sin(0.7) * 0.5, 12);
  });
});
