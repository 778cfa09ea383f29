import { clamp } from '../math/scalar';
import { isSplit, readValue, writeValue } from './access';
import { PARAMETER_LIST, type Channel, type Parameter, type Scaling } from './parameters';
import type { GaitSpec } from './spec';
import { follow, structuredCloneGait } from './timing';

/**
 * The same gait for a body with another leg length, at equal Froude number: lengths × k, times and speeds × √k, rates / √k.
 * Values are kept inside the parameters' ranges. Source: dynamic similarity (Alexander & Jayes 1983).
 */
export function fitGait(gait: GaitSpec, legLength: number): GaitSpec {
  const k = legLength / gait.legLength;
  if (k === 1) return gait;
  const next = structuredCloneGait(gait);
  next.legLength = legLength;
  for (const entry of PARAMETER_LIST) {
    const { scales } = entry.parameter;
    if (!scales) continue;
    for (const side of isSplit(next, entry.path) ? (['left', 'right'] as const) : (['left'] as const))
      writeValue(next, entry, scaled(readValue(next, entry, side), factor(scales, k), entry.parameter), side);
  }
  follow(next.timing, 'speed');
  return next;
}

const factor = (scales: Scaling, k: number): number => (scales === 'length' ? k : scales === 'rate' ? 1 / Math.sqrt(k) : Math.sqrt(k));

function scaled(value: number | Channel, k: number, p: Parameter): number | Channel {
  if (p.kind === 'scalar') return clamp((value as number) * k, p.range[0], p.range[1]);
  const c = value as Channel;
  return { ...c, offset: clamp(c.offset * k, ...p.offset), amount: clamp(c.amount * k, ...p.amount) };
}
