import { describe, expect, it } from 'vitest';
import { createBasis } from '../math/spline-basis';
import { shippedBody } from '../tests/cast';
import { fitHips } from './hips-fit';
import type { HipsSamples } from './hips-samples';

const body = shippedBody('marlo');

/** Samples of hips that wish for 0.85 m over feet that do not stand, from `start` on every 40 ms. */
function samples(start: number, count: number): HipsSamples {
  const none = () => [new Float64Array(count), new Float64Array(count)] as const;
  return {
    start,
    step: 0.04,
    count,
    wish: new Float64Array(count).fill(0.85),
    straightest: new Float64Array(count).fill(0.1),
    square: [new Float64Array(count).fill(NaN), new Float64Array(count).fill(NaN)],
    base: none(),
    weight: none(),
    edges: [],
    flights: [],
    gravity: 9.81,
    swaps: false,
    still: [false, false],
    floor: 0.4,
  };
}

describe('the fit of the hips’ height', () => {
  it('holds where no sample lies in an outermost piece: that goes on as its neighbours do', () => {
    const breaks = Float64Array.from({ length: 12 }, (_, i) => i * 0.05);
    const basis = createBasis(breaks, false);
    for (const [start, count] of [
      [0.06, 11],
      [0.02, 11],
      [0.06, 10],
    ] as const) {
      const found = fitHips(basis, samples(start, count), body.legs);
      // The wish is level, and so is what is found of it.
      for (const c of found) expect(c).toBeCloseTo(0.85, 3);
    }
  });
});
