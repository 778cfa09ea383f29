import { PARAMETER_LIST, type ParameterEntry } from './parameters';
import { readValue, writeValue } from './access';
import type { GaitSpec } from './spec';
import { structuredCloneGait } from './timing';

/** The look around, which swings though it is a plain number. */
const LOOK = 'head.lookAround';

/** Channels of the body that swing: an amount of each alone can be told over time. Feet are not touched. */
export const SWINGING: readonly ParameterEntry[] = PARAMETER_LIST.filter(
  ({ path, parameter }) => path === LOOK || (parameter.kind === 'channel' && /^(hips|trunk|arms|head)\./.test(path)),
);

/** The gait without the swing of one channel; its offset stays. */
export function withoutChannel(gait: GaitSpec, path: string): GaitSpec {
  const entry = SWINGING.find((e) => e.path === path);
  if (!entry) throw new RangeError(`plan: no channel ${path} swings`);
  const still = structuredCloneGait(gait);
  for (const side of path in gait.right ? (['left', 'right'] as const) : (['left'] as const)) {
    const value = readValue(still, entry, side);
    writeValue(still, entry, typeof value === 'number' ? 0 : { ...value, amount: 0 }, side);
  }
  return still;
}
