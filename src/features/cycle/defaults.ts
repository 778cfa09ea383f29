import { fitGait } from '@/core/gait/fit';
import { PRESETS } from '@/core/gait/presets';
import type { GaitSpec } from '@/core/gait/spec';

/** Key of the preset a gait came from by its one-line description, or else of the one nearest in kind. */
export function presetKeyOf({ about, legLength, timing, hips }: GaitSpec): string {
  const from = PRESETS.find((p) => p.about === about);
  if (from) return from.key;
  if (timing.dutyFactor < 0.5) return 'run';
  return timing.strideTime > 1.7 * Math.sqrt(legLength) && hips.crouch > 0.06 * legLength ? 'sneak' : 'walk';
}

/** That preset, fitted to the same legs; the same object for the same two. */
export function defaultsOf(gait: GaitSpec): GaitSpec {
  const key = presetKeyOf(gait);
  const name = `${key} ${gait.legLength}`;
  let found = made.get(name);
  if (!found) {
    found = fitGait(PRESETS.find((p) => p.key === key)!.make(), gait.legLength);
    // Legs are edited by dragging: those that were dragged through need not be kept.
    if (made.size >= MOST_MADE) made.clear();
    made.set(name, found);
  }
  return found;
}

const made = new Map<string, GaitSpec>();
const MOST_MADE = 60;
