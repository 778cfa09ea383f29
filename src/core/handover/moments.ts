import type { Motion } from '../motion/motion';
import { wrapPhase } from '../math/scalar';
import { frameShown, type FROM_ZERO } from '../steps/frame-numbers';

/** In which frames notes are told: how many a second, and how they are numbered. */
export interface Telling {
  readonly rate: number;
  readonly shot: typeof FROM_ZERO;
}

/** What is told, and when it is to be seen, s. */
export interface Said {
  readonly words: string;
  readonly at?: number;
}

/** A moment in words: when, in which frame of those it is told in, and where in the motion that is. */
export const momentIn = (motion: Motion, time: number, { rate, shot }: Telling): string =>
  `at ${Math.max(0, time).toFixed(2)} s, frame ${frameShown(shot, rate, Math.max(0, time))} at ${rate} a second (${whereIn(motion, time)})`;

/** Where in a motion: part of the stride where it repeats, else the print that landed last. */
function whereIn({ repeat, strideTime, duration, footholds }: Motion, time: number): string {
  if (repeat) return `${(100 * wrapPhase(time / strideTime)).toFixed(0)} % of a stride`;
  const landed = footholds(0, Math.min(time, duration)).filter((h) => h.landing <= time);
  const last = landed.reduce<(typeof landed)[number] | null>((a, h) => (!a || h.landing > a.landing ? h : a), null);
  return last ? `print ${last.step} ${last.side === 0 ? 'L' : 'R'}` : 'before the first print';
}

/** "leftUpperLeg" as "left upper leg". */
export const partName = (joint: string): string => joint.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
