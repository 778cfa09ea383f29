import { describe, expect, it } from 'vitest';
import { PARAMETER_LIST } from '@/core/gait/parameters';
import { shownUnit } from './units';

describe('units on the screen', () => {
  it('show centimetres and degrees, metres for strides, and come back to the core exactly', () => {
    expect(shownUnit('m', 'feet.lift').label).toBe('cm');
    expect(shownUnit('m', 'timing.strideLength').label).toBe('m');
    expect(shownUnit('rad', 'x').toScreen(Math.PI)).toBe(180);
    expect(shownUnit('count', 'plan.steps').toCore(6.6)).toBe(7);
    for (const { path, parameter } of PARAMETER_LIST) {
      const shown = shownUnit(parameter.unit, path);
      // Counts are whole numbers.
      for (const v of parameter.unit === 'count' ? [0, 7] : [0, 0.123, -1.5]) expect(shown.toCore(shown.toScreen(v))).toBeCloseTo(v, 12);
    }
  });
});
