import { clamp, toRadians } from '@/core/math/scalar';
import type { Range } from '@/core/gait/parameters';
import type { Shown, StripUnit } from './units';

/** Units that may be typed behind a number, and what one of them is in the core's unit. `fps` is the rate of a picture. */
const TYPED: { readonly [U in StripUnit]?: (fps: number) => Readonly<Record<string, number>> } = {
  m: () => ({ m: 1, cm: 0.01, mm: 0.001 }),
  s: (fps) => ({ s: 1, ms: 0.001, fr: 1 / fps, f: 1 / fps, frames: 1 / fps }),
  'm/s': () => ({ 'm/s': 1, 'cm/s': 0.01, 'km/h': 1 / 3.6 }),
  rad: () => ({ '°': toRadians(1), deg: toRadians(1), rad: 1 }),
  share: () => ({ '%': 0.01 }),
  factor: () => ({ '×': 1, x: 1, '%': 0.01 }),
  Hz: () => ({ Hz: 1 }),
  frames: (fps) => ({ fr: 1, f: 1, frames: 1, s: fps, ms: fps / 1000 }),
  count: () => ({}),
  phase: () => ({ '%': 0.01, '°': 1 / 360 }),
};

/** What a person typed into a number box: a value in the core's unit and perhaps why it is not what was typed, or a refusal. */
export type Typed = { readonly value: number; readonly why: string | null } | { readonly refused: string };

/** Reads "7", "7,5", "7 cm", "12 fr" … for a box that shows `shown`; a value out of `range` (core unit) is taken to its end. */
export function readTyped(text: string, unit: StripUnit, shown: Shown, range: Range, fps: number): Typed {
  const match = /^\s*([+\-−]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*(.*?)\s*$/i.exec(text);
  if (!match) return { refused: `“${text.trim().slice(0, 20)}” is no number` };
  const number = Number(match[1]!.replace(',', '.').replace('−', '-'));
  const named = match[2]!;
  const units = TYPED[unit]?.(fps) ?? {};
  const known = Object.keys(units).find((u) => u.toLowerCase() === named.toLowerCase());
  if (named !== '' && known === undefined) {
    const may = Object.keys(units).join(', ');
    return { refused: may ? `“${named.slice(0, 12)}” is none of ${may}` : `“${named.slice(0, 12)}”: a plain number is wanted` };
  }
  if (!Number.isFinite(number)) return { refused: 'that number is too large' };
  const value = known === undefined ? shown.toCore(number) : number * units[known]!;
  const taken = clamp(value, range[0], range[1]);
  // What is shown rounded and typed again is no departure.
  const beyond = Math.abs(shown.toScreen(taken) - shown.toScreen(value)) > 0.51 * 10 ** -shown.digits;
  const end = shown.toScreen(taken).toFixed(shown.digits);
  return { value: taken, why: beyond ? `${value > taken ? 'at most' : 'at least'} ${end}${shown.label ? ` ${shown.label}` : ''}` : null };
}
