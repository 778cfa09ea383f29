import { PARAMETERS } from '@/core/gait/parameters';
import type { Held } from '@/core/gait/spec';
import type { TimingReach } from '@/core/gait/timing';
import { shownUnit, type Shown } from './units';

/** A value with its unit as a person reads it. */
export const shownValue = (shown: Shown, value: number): string => `${shown.toScreen(value).toFixed(shown.digits)}${shown.label ? ` ${shown.label}` : ''}`;

/** Why a timing value was taken to the end of what can be reached: "stride time held: at most 5.28 m/s". */
export function limitWords(which: Held, { range, held, bound }: TimingReach, above: boolean): string {
  const end = above ? 1 : 0;
  const words = `${above ? 'at most' : 'at least'} ${shownValue(shownUnit(PARAMETERS.timing[which].unit, `timing.${which}`), range[end])}`;
  return bound[end] ? `${PARAMETERS.timing[held].label.toLowerCase()} held: ${words}` : words;
}
