import { expect, it } from 'vitest';
import { sineCosineOfHalf } from './half-angle';
import { seeded } from './random';
import { toRadians } from './scalar';

it('sine and cosine of half an angle are the platform’s, at any size of angle', () => {
  const rand = seeded(3);
  const out = new Float64Array(2);
  const angles = [0, 90, -90, 180, -180, 270, 360, 540, 720, -720, 45, 1e-9, ...Array.from({ length: 5000 }, () => (rand() - 0.5) * 3000)];
  for (const a of angles) {
    sineCosineOfHalf(Float64Array.of(a), 0, out);
    // The platform's own argument carries the rounding of degrees to radians.
    expect(Math.abs(out[0]! - Math.sin(toRadians(a) / 2))).toBeLessThan(4e-15);
    expect(Math.abs(out[1]! - Math.cos(toRadians(a) / 2))).toBeLessThan(4e-15);
    expect(Math.abs(out[0]! ** 2 + out[1]! ** 2 - 1)).toBeLessThan(4e-16);
  }
});
