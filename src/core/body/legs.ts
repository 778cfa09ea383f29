import { SIDES, UPPER_LEG } from './roles';
import type { Skeleton } from './skeleton';
import type { Sole } from './sole';

/** One leg of a canonical skeleton as it is, not as a table has it; metres. */
export interface LegMeasures {
  readonly thigh: number;
  readonly shank: number;
  /** Hip joint against the hips joint, in the rest pose. */
  readonly hip: readonly [number, number, number];
  readonly sole: Sole;
}

/** Measures both legs of a skeleton in canonical joint order. */
export function measureLegs({ offsets }: Skeleton, soles: readonly [Sole, Sole]): [LegMeasures, LegMeasures] {
  const length = (j: number) => Math.hypot(offsets[j * 3]!, offsets[j * 3 + 1]!, offsets[j * 3 + 2]!);
  const leg = (side: 0 | 1): LegMeasures => {
    const j = UPPER_LEG[side];
    return { thigh: length(j + 1), shank: length(j + 2), hip: [offsets[j * 3]!, offsets[j * 3 + 1]!, offsets[j * 3 + 2]!], sole: soles[side] };
  };
  return [leg(SIDES[0]), leg(SIDES[1])];
}
