import { describe, expect, it } from 'vitest';
import { readTyped } from './typed';
import { shownUnit, type StripUnit } from './units';

const read = (text: string, unit: StripUnit, range: readonly [number, number] = [-100, 100], path = 'x') =>
  readTyped(text, unit, shownUnit(unit, path), range, 24);
const value = (...args: Parameters<typeof read>) => {
  const typed = read(...args);
  return 'value' in typed ? Number(typed.value.toFixed(9)) : typed.refused;
};

describe('what is typed into a number box', () => {
  it('is in the unit shown, or in the one named', () => {
    expect([value('7', 'm'), value('7 cm', 'm'), value('70mm', 'm'), value('.07 m', 'm'), value('7,0', 'm')]).toEqual([0.07, 0.07, 0.07, 0.07, 0.07]);
    expect(value('1.42', 'm', [-6, 6], 'timing.strideLength')).toBe(1.42);
    expect([value('12 fr', 's'), value('500 ms', 's'), value('0,5 s', 'frames')]).toEqual([0.5, 0.5, 12]);
    expect([value('18 km/h', 'm/s'), value('−2', 'm/s'), value('62 %', 'share'), value('62', 'share')]).toEqual([5, -2, 0.62, 0.62]);
    expect([value('180°', 'rad'), value('1 rad', 'rad'), value('90 DEG', 'rad')]).toEqual([3.141592654, 1, 1.570796327]);
  });

  it('is refused with a reason where it is no number or another unit', () => {
    expect(value('seven', 'm')).toContain('is no number');
    expect(value('', 'm')).toContain('is no number');
    expect(value('7 kg', 'm')).toContain('none of m, cm, mm');
    expect(value('1e999', 'm')).toContain('too large');
    expect(value('NaN', 'm')).toContain('is no number');
    expect(value('7 m', 'count')).toContain('plain number');
  });

  it('is taken to the end of the range with a word why, but not for being shown rounded', () => {
    expect(read('99 cm', 'm', [0, 0.5])).toEqual({ value: 0.5, why: 'at most 50.0 cm' });
    expect(read('-1', 'm', [0, 0.5])).toEqual({ value: 0, why: 'at least 0.0 cm' });
    expect(read('12.3', 'm', [0, 0.12296])).toEqual({ value: 0.12296, why: null });
  });
});
