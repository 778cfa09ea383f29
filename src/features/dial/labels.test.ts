import { describe, expect, it } from 'vitest';
import { seeded } from '@/core/math/random';
import { rimLabels } from './labels';

const width = (words: string) => words.length * 0.008;

describe('labels on the rim of the dial', () => {
  it('of marks that coincide are one, also over the top', () => {
    expect(
      rimLabels(
        [
          { phase: 0.5, name: 'contact' },
          { phase: 0.505, name: 'down' },
          { phase: 0.8, name: 'up' },
        ],
        width,
      ).map((l) => l.words),
    ).toEqual(['contact · down', 'up']);
    expect(
      rimLabels(
        [
          { phase: 0.001, name: 'down' },
          { phase: 0.998, name: 'contact' },
          { phase: 0.4, name: 'up' },
        ],
        width,
      ).map((l) => l.words),
    ).toEqual(['up', 'contact · down']);
    expect(rimLabels([], width)).toEqual([]);
  });

  it('of both feet that do the same at once say it once', () => {
    const hop = [0, 0.003, 0.006, 0.5].map((phase, i) => ({ phase, name: ['contact', 'contact', 'down', 'up'][i]! }));
    expect(rimLabels(hop, width).map((l) => l.words)).toEqual(['contact · down', 'up']);
  });

  it('never touch, wherever the marks stand', () => {
    const rand = seeded(12);
    for (let n = 0; n < 500; n++) {
      const marks = ['contact', 'down', 'passing', 'up', 'contact', 'down', 'passing', 'up'].map((name) => ({ name, phase: rand() }));
      const labels = rimLabels(marks, width).sort((a, b) => a.phase - b.phase);
      labels.forEach((l, i) => {
        const next = labels[(i + 1) % labels.length]!;
        const gap = (next.phase - l.phase + 1) % 1 || 1;
        expect(gap).toBeGreaterThan((width(l.words) + width(next.words)) / 2 - 0.004);
      });
    }
  });

  it('stand at their marks where there is room', () => {
    const marks = [0, 0.12, 0.3, 0.42].map((phase, i) => ({ phase, name: ['contact', 'down', 'passing', 'up'][i]! }));
    expect(rimLabels(marks, width).map((l) => l.phase)).toEqual([0, 0.12, 0.3, 0.42]);
  });
});
