import { describe, expect, it } from 'vitest';
import { lowPass } from './low-pass';
import { fromRotationVector, toRotationVector } from './rotation-vector';
import { seeded } from './random';

const wave = (hz: number, rate: number, n: number) => Float64Array.from({ length: n }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));
const size = (v: Float64Array, from: number, to: number) => Math.max(...v.subarray(from, to).map(Math.abs));

describe('the low-pass', () => {
  it('lets slow waves be, halves the power at its cut-off, takes quick ones out, and is never late', () => {
    const slow = wave(1, 120, 1200);
    lowPass(slow, 0, 1, 1200, 8, 120);
    wave(1, 120, 1200).forEach((v, i) => expect(Math.abs(slow[i]! - v)).toBeLessThan(0.01));
    const edge = wave(8, 120, 1200);
    lowPass(edge, 0, 1, 1200, 8, 120);
    // Butterworth: 1/√2 at the cut-off of both passes together.
    expect(size(edge, 400, 800)).toBeCloseTo(Math.SQRT1_2, 2);
    const quick = wave(40, 120, 1200);
    lowPass(quick, 0, 1, 1200, 8, 120);
    expect(size(quick, 400, 800)).toBeLessThan(0.01);
  });

  it('keeps straight lines to their ends, and rows it is not asked for', () => {
    const values = Float64Array.from({ length: 200 }, (_, i) => (i % 2 === 0 ? i * 0.1 : 7));
    lowPass(values, 0, 2, 100, 3, 60);
    for (let i = 0; i < 200; i++) expect(values[i]).toBeCloseTo(i % 2 === 0 ? i * 0.1 : 7, 3);
    const high = wave(20, 60, 50);
    const before = high.slice();
    lowPass(high, 0, 1, 50, 40, 60);
    expect(high).toEqual(before);
  });
});

it('rotation vectors and quaternions are the same rotation, none of them no number', () => {
  const rand = seeded(2);
  for (let n = 0; n < 500; n++) {
    const length = n < 3 ? [0, 1e-14, Math.PI][n]! : rand() * Math.PI;
    const axis = [rand() - 0.5, rand() - 0.5, rand() - 0.5];
    const scale = length / Math.hypot(...axis);
    const v = Float64Array.from(axis, (a) => a * scale);
    const [q, back] = [new Float64Array(4), new Float64Array(3)];
    fromRotationVector(q, 0, v, 0);
    toRotationVector(back, 0, q, 0);
    const sign = length === Math.PI && back[0]! * v[0]! < 0 ? -1 : 1;
    for (let k = 0; k < 3; k++) expect(sign * back[k]!).toBeCloseTo(v[k]!, 9);
  }
});
