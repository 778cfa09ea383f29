import { describe, expect, it } from 'vitest';
import { readTyped } from './typed';
import { fieldUnit, shownUnit, type StripUnit } from './units';

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

  it('may be a simple sum, each number in its own unit or in the one named last', () => {
    expect([value('1.2+0.3', 'm/s'), value('1,2 + 0,3', 'm/s'), value('1.2 − 0.3', 'm/s'), value('-1+3-0.5', 'm/s')]).toEqual([1.5, 1.5, 0.9, 1.5]);
    expect([value('1 m + 20 cm', 'm'), value('100+20 cm', 'm'), value('5 + 7', 'm')]).toEqual([1.2, 1.2, 0.12]);
    expect([value('0.5 s + 6 fr', 's'), value('1e-1+1', 's')]).toEqual([0.75, 1.1]);
    for (const no of ['1+', '+', '1 2', '1++2', '2*3', '1+x', '--1']) expect(value(no, 'm/s')).toContain('is no number');
  });

  it('is read in fields of metres, seconds, frames, degrees and factors as their unit says', () => {
    const field = (text: string, label: string) => {
      const { unit, shown } = fieldUnit(label, 2);
      const typed = readTyped(text, unit, shown, [-1000, 1000], 24);
      return 'value' in typed ? Number(typed.value.toFixed(9)) : typed.refused;
    };
    expect([field('1.5 m', 'm'), field('150 cm', 'm'), field('1,5', 'm'), field('12 fr', 's'), field('0.5 s', 's'), field('0.5 s', 'fr')]).toEqual([
      1.5, 1.5, 1.5, 0.5, 0.5, 12,
    ]);
    expect([field('30°', '°'), field('30', '°'), field('1 rad', '°'), field('90 %', '×'), field('5.4 km/h', 'm/s'), field('7', '')]).toEqual([
      30, 30, 57.295779513, 0.9, 1.5, 7,
    ]);
    expect(field('3 kg', 'm')).toContain('none of m, cm, mm');
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
