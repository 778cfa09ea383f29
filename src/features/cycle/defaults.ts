import { useMemo } from 'react';
import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';

/** The preset a gait came from by its one-line description, or else the one nearest in kind; fitted to the same legs. */
export function useDefaults(gait: GaitSpec): GaitSpec {
  const { about, legLength } = gait;
  const key =
    PRESETS.find((p) => p.about === about)?.key ??
    (gait.timing.dutyFactor < 0.5 ? 'run' : gait.timing.strideTime > 1.7 * Math.sqrt(legLength) && gait.hips.crouch > 0.06 * legLength ? 'sneak' : 'walk');
  return useMemo(() => fitGait(PRESETS.find((p) => p.key === key)!.make(), legLength), [key, legLength]);
}
