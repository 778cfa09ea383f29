import { describe, expect, it } from 'vitest';
import { seeded } from './random';
import { setXzx, setYxz, setYz, setYzx } from './euler';
import { multiplyAxis, setIdentity } from './quaternion';

const AXIS = { X: 0, Y: 1, Z: 2 } as const;

describe('quaternions from angles', () => {
  it.each([
    ['YXZ', setYxz],
    ['YZX', setYzx],
    ['YZ', setYz],
    ['XZX', setXzx],
  ] as const)('%s: as turning about one axis after the other; seeded', (order, set) => {
    const rand = seeded(9);
    for (let n = 0; n < 300; n++) {
      const angles = Float64Array.from({ length: 3 }, () => 8 * rand() - 4);
      const plain = new Float64Array(4);
      setIdentity(plain, 0);
      [...order].forEach((letter, k) => multiplyAxis(plain, 0, plain, 0, AXIS[letter as keyof typeof AXIS], angles[k]!));
      const direct = new Float64Array(4);
      set(direct, 0, angles, 0);
      for (let k = 0; k < 4; k++) expect(direct[k]).toBeCloseTo(plain[k]!, 14);
    }
  });
});
