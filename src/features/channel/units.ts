import type { Unit } from '@/core/gait/parameters';
import { toDegrees, toRadians } from '@/core/math/scalar';

/** Units a strip can show: the core's, and frames. A field may also be kept in degrees, or be a plain number. */
export type StripUnit = Unit | 'frames';
export type TypedUnit = StripUnit | 'degrees' | 'plain';

/** How a core unit is shown: SI and radians inside, centimetres and degrees on the screen. */
export interface Shown {
  readonly label: string;
  readonly digits: number;
  readonly toScreen: (v: number) => number;
  readonly toCore: (v: number) => number;
}

const same = (v: number): number => v;
const SHOWN: { readonly [U in StripUnit]: Shown } = {
  m: { label: 'cm', digits: 1, toScreen: (v) => v * 100, toCore: (v) => v / 100 },
  s: { label: 's', digits: 3, toScreen: same, toCore: same },
  'm/s': { label: 'm/s', digits: 2, toScreen: same, toCore: same },
  rad: { label: '°', digits: 1, toScreen: toDegrees, toCore: toRadians },
  share: { label: '%', digits: 1, toScreen: (v) => v * 100, toCore: (v) => v / 100 },
  factor: { label: '×', digits: 2, toScreen: same, toCore: same },
  Hz: { label: 'Hz', digits: 1, toScreen: same, toCore: same },
  frames: { label: 'fr', digits: 1, toScreen: same, toCore: same },
  count: { label: '', digits: 0, toScreen: same, toCore: Math.round },
  phase: { label: '', digits: 3, toScreen: same, toCore: same },
};
const METRES: Shown = { label: 'm', digits: 3, toScreen: same, toCore: same };

/** What a plain number field shows its unit by, and how it is read. */
const FIELD_UNITS: Readonly<Record<string, TypedUnit>> = { m: 'm', s: 's', '°': 'degrees', fr: 'frames', '×': 'factor', 'm/s': 'm/s', Hz: 'Hz' };

/** How a field is read whose numbers stand as the core has them, with that unit behind. */
export function fieldUnit(label: string, digits: number): { readonly unit: TypedUnit; readonly shown: Shown } {
  return { unit: FIELD_UNITS[label] ?? 'plain', shown: { label, digits, toScreen: same, toCore: same } };
}

/** A time kept in seconds that is shown in frames; what is typed without a unit is frames, too. */
export const inFrames = ({ digits, rate }: { readonly digits: number; readonly rate: number }): { readonly unit: TypedUnit; readonly shown: Shown } => ({
  unit: 's',
  shown: { label: 'fr', digits, toScreen: (v) => v * rate, toCore: (v) => v / rate },
});

/** Stride lengths are metres; every other length is small enough for centimetres. */
export const shownUnit = (unit: StripUnit, path: string): Shown => (path === 'timing.strideLength' ? METRES : SHOWN[unit]);
