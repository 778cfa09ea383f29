import { expect, it } from 'vitest';
import { seeded } from '@/core/math/random';
import { lanesOf } from './word-lanes';

it('words that would lie over each other get lanes of their own, the others share one', () => {
  expect(lanesOf([])).toEqual([]);
  expect(lanesOf([10, 40, 70].map((at) => ({ at, width: 30 })))).toEqual([0, 0, 0]);
  expect(lanesOf([10, 12, 14, 60].map((at) => ({ at, width: 30 })))).toEqual([0, 1, 2, 0]);
});

it('never lets two of a lane meet, and opens none that is not needed', () => {
  for (let seed = 0; seed < 40; seed++) {
    const rand = seeded(seed);
    const words = Array.from({ length: 30 }, () => ({ at: rand() * 800, width: 20 + rand() * 200 }));
    const lanes = lanesOf(words);
    words.forEach((a, i) =>
      words.slice(0, i).forEach((b, k) => {
        const meet = Math.abs(a.at - b.at) < (a.width + b.width) / 2 - 1e-9;
        if (lanes[i] === lanes[k]) expect(meet).toBe(false);
      }),
    );
    expect(Math.max(...lanes)).toBeLessThan(30);
    expect(lanes[0]).toBe(0);
  }
});
