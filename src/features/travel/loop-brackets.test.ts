import { expect, test } from 'vitest';
import { stacked } from './loop-brackets';

test('brackets that overlap reach to different depths, those that do not share one', () => {
  const loop = (from: number, to: number) => ({ from, to });
  expect(stacked([loop(0, 40), loop(50, 90), loop(20, 60), loop(30, 70), loop(90, 120)])).toEqual([0, 0, 1, 2, 0]);
  expect(new Set(stacked(Array.from({ length: 6 }, (_, i) => loop(i, 100 + i)))).size).toBe(6);
  // More than there is room for go over the first ones again.
  expect(Math.max(...stacked(Array.from({ length: 20 }, (_, i) => loop(i, 100 + i))))).toBe(5);
});
