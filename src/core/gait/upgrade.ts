import { parameterValues } from './spec';

/**
 * Brings a gait of an older version to the present one: what version 1 lacked is set so that the motion stays the same.
 * Works on parsed JSON of any shape; what is no gait of version 1 passes through untouched.
 */
export function upgradeGait(json: unknown): unknown {
  if (typeof json !== 'object' || json === null || (json as { version?: unknown }).version !== 1) return json;
  const old = json as Record<string, unknown>;
  if (old.format !== 'nimbret.gait') return json;
  const next: Record<string, unknown> = { ...old, version: 2, about: '', tags: [], carry: 'nothing', right: {} };
  for (const [group, values] of Object.entries(parameterValues((p) => p.before))) {
    const had = old[group];
    if (had === undefined || (typeof had === 'object' && had !== null)) next[group] = { ...values, ...(had as object) };
  }
  asChannel(next, 'arms', 'out');
  asChannel(next, 'head', 'nod');
  return next;
}

/** A plain number of version 1 as a channel around it. */
function asChannel(gait: Record<string, unknown>, group: string, key: string): void {
  const values = gait[group] as Record<string, unknown> | undefined;
  if (typeof values?.[key] === 'number') gait[group] = { ...values, [key]: { offset: values[key], amount: 0, delay: 0 } };
}
