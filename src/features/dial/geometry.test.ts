import { describe, expect, it } from 'vitest';
import { dialArc, dialPoint, phaseAt } from './geometry';

describe('the dial', () => {
  it('runs clockwise from the top and back from a point to its phase', () => {
    expect(dialPoint(0, 50, 100)).toEqual([100, 50]);
    expect(dialPoint(0.25, 50, 100)[0]).toBeCloseTo(150, 9);
    for (const phase of [0, 0.1, 0.5, 0.77, 0.999]) {
      const [x, y] = dialPoint(phase, 40, 100);
      expect(phaseAt(x, y, 100)).toBeCloseTo(phase, 9);
    }
  });

  it('draws arcs the long way round when they are long, and never a full circle of nothing', () => {
    expect(dialArc(0, 0.62, 50, 100)).toContain('A 50 50 0 1 1');
    expect(dialArc(0, 0.3, 50, 100)).toContain('A 50 50 0 0 1');
    expect(dialArc(0.2, 1, 50, 100)).not.toMatch(/M (\S+ \S+) .* \1$/);
  });
});
