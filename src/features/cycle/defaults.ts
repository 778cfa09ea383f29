import { useMemo } from 'react';
import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';

/** The preset a gait is nearest in kind to, fitted to the same legs: what a reset goes back to. */
export function useDefaults(gait: GaitSpec): GaitSpec {
  const key =
    gait.timing.dutyFactor < 0.5
      ? 'run'
      : gait.timing.strideTime > 1.7 * Math.sqrt(gait.legLength) && gait.hips.crouch > 0.06 * gait.legLength
        ? 'sneak'
        : 'walk';
  return useMemo(() => fitGait(PRESETS.find((p) => p.key === key)!.make(), gait.legLength), [key, gait.legLength]);
}
