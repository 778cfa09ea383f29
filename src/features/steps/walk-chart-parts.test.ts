import { expect, test } from 'vitest';
import { ticksOf } from './walk-chart-parts';

test('a scale has two to four round numbers, nought among them where it is in range', () => {
  expect(ticksOf([0, 1.4])).toEqual([0, 0.5, 1]);
  expect(ticksOf([0, 7.7])).toEqual([0, 2, 4, 6]);
  expect(ticksOf([0, 180])).toEqual([0, 50, 100, 150]);
  expect(ticksOf([-0.2, 0.9])).toContain(0);
  for (let i = 0; i < 500; i++) {
    const range = [-((i * 37) % 11) / 3, 0.5 + ((i * 53) % 97) / 4] as const;
    const ticks = ticksOf(range);
    expect(ticks.length).toBeGreaterThanOrEqual(2);
    expect(ticks.length).toBeLessThanOrEqual(4);
    expect(ticks).toContain(0);
    for (const v of ticks) expect(v >= range[0] - 1e-9 && v <= range[1] + 1e-9).toBe(true);
  }
});
