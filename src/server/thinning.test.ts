import { describe, expect, it } from 'vitest';
import { fadedStates, type Aged } from './thinning';

const NOW = Date.UTC(2026, 5, 1, 12);
const states = (ages: readonly number[], kept: (i: number) => boolean = () => false): Aged[] =>
  ages.map((age, i) => ({ id: i, savedAt: NOW - age * 1000, kept: kept(i) }));
const left = (all: readonly Aged[]) => all.length - fadedStates(all, NOW).length;

describe('saved states that age', () => {
  it('of half an hour of steady work are no haystack', () => {
    // 272 in half an hour, as a person made them.
    expect(left(states(Array.from({ length: 272 }, (_, i) => ((271 - i) * 1800) / 272)))).toBeLessThanOrEqual(16);
  });

  it('of a year of work every day stay a list, newest densest', () => {
    const daily = Array.from({ length: 365 * 8 }, (_, i) => (365 * 8 - i) * 3 * 3600);
    expect(left(states(daily))).toBeLessThan(110);
  });

  it('keep the first, the latest, the one before it, those of other spans, and those with a name', () => {
    const all = states([9000, 8999, 8998, 8997, 4, 3.5, 3], (i) => i === 1);
    expect(fadedStates(all, NOW)).toEqual([2, 4]);
    expect(fadedStates(states([3, 2]), NOW)).toEqual([]);
    expect(fadedStates([], NOW)).toEqual([]);
  });

  it('leave of a span its last, and thin no further when looked at again', () => {
    const all = states([7000, 6900, 6800, 6700, 3, 2, 1]);
    const faded = new Set(fadedStates(all, NOW));
    const rest = all.filter((s) => !faded.has(s.id));
    expect(fadedStates(rest, NOW)).toEqual([]);
    expect(rest.some((s) => s.id === 3)).toBe(true);
  });
});
