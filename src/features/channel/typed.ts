import { clamp, toDegrees, toRadians } from '@/core/math/scalar';
import type { Range } from '@/core/gait/parameters';
import type { Shown, TypedUnit } from './units';

/** Units that may be typed behind a number, and what one of them is in the core's unit. `fps` is the rate of a picture. */
const TYPED: { readonly [U in TypedUnit]?: (fps: number) => Readonly<Record<string, number>> } = {
  m: () => ({ m: 1, cm: 0.01, mm: 0.001 }),
  s: (fps) => ({ s: 1, ms: 0.001, fr: 1 / fps, f: 1 / fps, frames: 1 / fps }),
  'm/s': () => ({ 'm/s': 1, 'cm/s': 0.01, 'km/h': 1 / 3.6 }),
  rad: () => ({ '°': toRadians(1), deg: toRadians(1), rad: 1 }),
  share: () => ({ '%': 0.01 }),
  factor: () => ({ '×': 1, x: 1, '%': 0.01 }),
  Hz: () => ({ Hz: 1 }),
  frames: (fps) => ({ fr: 1, f: 1, frames: 1, s: fps, ms: fps / 1000 }),
  degrees: () => ({ '°': 1, deg: 1, rad: toDegrees(1) }),
  plain: () => ({}),
  count: () => ({}),
  phase: () => ({ '%': 0.01, '°': 1 / 360 }),
};

/** What a person typed into a number box: a value in the core's unit and perhaps why it is not what was typed, or a refusal. */
export type Typed = { readonly value: number; readonly why: string | null } | { readonly refused: string };

const TERM = /\s*([+\-−])?\s*((?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*([^\d\s+\-−.,]*)\s*/iy;

/** The terms of "1.2", "1,2 m", "1 m + 20 cm" …: numbers with the unit named behind each; null where it is no sum of numbers. */
function termsOf(text: string): { number: number; named: string }[] | null {
  const terms: { number: number; named: string }[] = [];
  TERM.lastIndex = 0;
  while (TERM.lastIndex < text.length) {
    const match = TERM.exec(text);
    if (!match || (terms.length > 0 && match[1] === undefined)) return null;
    const sign = match[1] === undefined || match[1] === '+' ? 1 : -1;
    terms.push({ number: sign * Number(match[2]!.replace(',', '.')), named: match[3]! });
    if (TERM.lastIndex === 0) return null;
  }
  return terms.length > 0 ? terms : null;
}

/**
 * Reads "7", "7,5", "7 cm", "12 fr", "1.2+0.3", "1 m + 20 cm" … for a box that shows `shown`; a number without a unit has the one
 * named last, or that of the box. A value out of `range` (core unit) is taken to its end.
 */
export function readTyped(text: string, unit: TypedUnit, shown: Shown, range: Range, fps: number): Typed {
  const terms = termsOf(text);
  if (!terms) return { refused: `“${text.trim().slice(0, 20)}” is no number` };
  const units = TYPED[unit]?.(fps) ?? {};
  const last = terms.findLast((t) => t.named !== '')?.named ?? '';
  let value = 0;
  for (const { number, named } of terms) {
    const meant = named === '' ? last : named;
    const known = Object.keys(units).find((u) => u.toLowerCase() === meant.toLowerCase());
    if (meant !== '' && known === undefined) {
      const may = Object.keys(units).join(', ');
      return { refused: may ? `“${meant.slice(0, 12)}” is none of ${may}` : `“${meant.slice(0, 12)}”: a plain number is wanted` };
    }
    value += known === undefined ? shown.toCore(number) : number * units[known]!;
  }
  if (!Number.isFinite(value)) return { refused: 'that number is too large' };
  const taken = clamp(value, range[0], range[1]);
  // What is shown rounded and typed again is no departure.
  const beyond = Math.abs(shown.toScreen(taken) - shown.toScreen(value)) > 0.51 * 10 ** -shown.digits;
  const end = shown.toScreen(taken).toFixed(shown.digits);
  return { value: taken, why: beyond ? `${value > taken ? 'at most' : 'at least'} ${end}${shown.label ? ` ${shown.label}` : ''}` : null };
}
