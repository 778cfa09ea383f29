import { clamp } from '../math/scalar';
import { PARAMETER_LIST, type Parameter, type Scaling } from './parameters';
import type { GaitSpec } from './spec';
import { follow, structuredCloneGait } from './timing';

type Leaf = number | { offset: number; amount: number };

/**
 * The same gait for a body with another leg length, at equal Froude number: lengths × k, times and speeds × √k.
 * Values are kept inside the parameters' ranges. Source: dynamic similarity (Alexander & Jayes 1983).
 */
export function fitGait(gait: GaitSpec, legLength: number): GaitSpec {
  const next = structuredCloneGait(gait);
  const k = legLength / gait.legLength;
  next.legLength = legLength;
  if (k === 1) return next;
  for (const { group, key, parameter } of PARAMETER_LIST) {
    if (!parameter.scales) continue;
    const values = next[group] as unknown as Record<string, Leaf>;
    values[key] = scaled(values[key]!, factor(parameter.scales, k), parameter);
  }
  follow(next.timing, 'speed');
  return next;
}

const factor = (scales: Scaling, k: number): number => (scales === 'length' ? k : Math.sqrt(k));

function scaled(value: Leaf, k: number, p: Parameter): Leaf {
  if (p.kind === 'scalar') return clamp((value as number) * k, p.range[0], p.range[1]);
  const c = value as { offset: number; amount: number };
  return { ...c, offset: clamp(c.offset * k, ...p.offset), amount: clamp(c.amount * k, ...p.amount) };
}
