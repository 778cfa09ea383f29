import { describe, expect, it } from 'vitest';
import { seeded } from './random';
import { angleBetween, multiply, multiplyAxis, multiplyConjugate, rotate, setAxis, setFromAxesAt, slerp } from './quaternion';

const rand = seeded(41);
const randomQuaternion = (): number[] => {
  const q = [0, 0, 0, 1];
  for (const axis of [0, 1, 2, 0] as const) multiplyAxis(q, 0, q, 0, axis, (rand() - 0.5) * 6);
  return q;
};

describe('quaternions', () => {
  it('turn a vector as the product turns it twice', () => {
    for (let n = 0; n < 200; n++) {
      const a = randomQuaternion();
      const b = randomQuaternion();
      const ab = [0, 0, 0, 0];
      multiply(ab, 0, a, 0, b, 0);
      const v = [0, 0, 0];
      rotate(v, 0, b, 0, 0.3, -1.2, 0.7);
      rotate(v, 0, a, 0, v[0]!, v[1]!, v[2]!);
      const w = [0, 0, 0];
      rotate(w, 0, ab, 0, 0.3, -1.2, 0.7);
      for (let k = 0; k < 3; k++) expect(w[k]).toBeCloseTo(v[k]!, 12);
    }
  });

  it('come back from the axes they make, for every branch of the conversion', () => {
    for (let n = 0; n < 2000; n++) {
      const q = randomQuaternion();
      const x = [0, 0, 0];
      const y = [0, 0, 0];
      rotate(x, 0, q, 0, 1, 0, 0);
      rotate(y, 0, q, 0, 0, 1, 0);
      const back = [0, 0, 0, 0];
      setFromAxesAt(back, 0, [...x, ...y], 0);
      expect(angleBetween(q, 0, back, 0)).toBeLessThan(1e-7);
    }
  });

  it('undo each other: conj(a) · a·b = b', () => {
    const a = randomQuaternion();
    const b = randomQuaternion();
    const ab = [0, 0, 0, 0];
    multiply(ab, 0, a, 0, b, 0);
    multiplyConjugate(ab, 0, a, 0, ab, 0);
    expect(angleBetween(ab, 0, b, 0)).toBeLessThan(1e-7);
  });

  it('interpolate along the shorter arc, also between opposite signs and equal rotations', () => {
    const a = [0, 0, 0, 1];
    const b = [0, 0, 0, 0];
    setAxis(b, 0, 1, 1);
    const out = [0, 0, 0, 0];
    slerp(
      out,
      0,
      a,
      0,
      b.map((v) => -v),
      0,
      0.25,
    );
    expect(angleBetween(a, 0, out, 0)).toBeCloseTo(0.25, 12);
    slerp(out, 0, a, 0, a, 0, 0.5);
    expect(out).toEqual([0, 0, 0, 1]);
  });
});
