import { clamp } from '../math/scalar';
import { PARAMETERS } from './parameters';
import { parameterValues } from './spec';

/**
 * Brings a gait of an older version to the present one: what it lacked is set so that the motion stays the same. Works on
 * parsed JSON of any shape; what is no gait of an older version passes through untouched.
 */
export function upgradeGait(json: unknown): unknown {
  if (typeof json !== 'object' || json === null || (json as { format?: unknown }).format !== 'nimbret.gait') return json;
  const { version } = json as { version?: unknown };
  return version === 1 ? toThird(toSecond(json as Record<string, unknown>)) : version === 2 ? toThird(json as Record<string, unknown>) : json;
}

function toSecond(old: Record<string, unknown>): Record<string, unknown> {
  const next: Record<string, unknown> = { ...old, version: 2, about: '', tags: [], carry: 'nothing', right: {} };
  for (const [group, values] of Object.entries(parameterValues((p) => p.before))) {
    const had = old[group];
    if (had === undefined || (typeof had === 'object' && had !== null)) next[group] = { ...values, ...(had as object) };
  }
  asChannel(next, 'arms', 'out');
  asChannel(next, 'head', 'nod');
  return next;
}

/** Amounts came to follow the stride: an older gait's are made for the stride it has. Its hips were what is thrown. */
function toThird(old: Record<string, unknown>): Record<string, unknown> {
  const { timing } = old;
  if (typeof timing !== 'object' || timing === null) return { ...old, version: 3 };
  const { strideLength } = timing as { strideLength?: unknown };
  const [least, most] = PARAMETERS.timing.homeStride.range;
  const homeStride = typeof strideLength === 'number' ? clamp(Math.abs(strideLength), least, most) : PARAMETERS.timing.homeStride.default;
  return { ...old, version: 3, timing: { ...timing, homeStride, amountsFollow: 1, wholeBody: 0 } };
}

/** A plain number of version 1 as a channel around it. */
function asChannel(gait: Record<string, unknown>, group: string, key: string): void {
  const values = gait[group] as Record<string, unknown> | undefined;
  if (typeof values?.[key] === 'number') gait[group] = { ...values, [key]: { offset: values[key], amount: 0, delay: 0 } };
}
