import type { Body } from './body';
import { INNER_HALF } from './clay/leg';

/** How thick a leg is, as its clay shows it: radii in m at hip, knee, calf, ankle and along the foot. */
export interface LegThickness {
  readonly hip: number;
  readonly knee: number;
  readonly ankle: number;
  readonly foot: number;
}

/** Parts of stature, for limbs of ordinary girth; the clay's own half widths (mannequin.ts), less what skins may touch. */
const SHARES = { hip: 0.047, knee: 0.034, ankle: 0.024 } as const;

export function legThickness({ spec, sole }: Body): LegThickness {
  const unit = spec.stature * spec.build.limbGirth;
  return { hip: Math.min(SHARES.hip * unit, INNER_HALF * spec.stature), knee: SHARES.knee * unit, ankle: SHARES.ankle * unit, foot: 0.5 * sole.breadth };
}
