import type { GaitSpec } from '../gait/spec';
import { wholeFrames } from '../gait/timing';
import type { Crossing, Meeting } from '../measure/crossing';
import type { Motion } from '../motion/motion';
import { FROM_ZERO } from '../steps/frame-numbers';
import { cannotStep } from '../steps/steppable';
import { momentIn, partName, type Said, type Telling } from './moments';
import { surveyNotes } from './survey-notes';

/**
 * What an animator should know of a motion. `rounding`: the stride was fitted to whole frames, which is no fault; `by` is the
 * change of speed, a part of it. `fault`: something could not be done as asked.
 */
export interface Note extends Said {
  readonly kind: 'rounding' | 'fault';
  readonly by?: number;
  /** True where nobody could step it as it lies. */
  readonly cannot?: boolean;
}

/**
 * What an animator should know of a motion, one sentence each; empty when all went as asked. `asked`: its gait before its stride was
 * fitted to frames; `rate`: at which limbs were looked at; `told`: the frames in which it is told, those played or written.
 */
export function notesOf(asked: GaitSpec, motion: Motion, rate: number, crossing?: Crossing | null, told: Telling = { rate, shot: FROM_ZERO }): Note[] {
  const fault = (said: Said): Note => ({ kind: 'fault', ...said });
  return [
    ...roundingNotes(asked, motion, rate, told),
    ...surveyNotes(asked, motion, told).map(fault),
    ...(crossing ? crossingNotes(crossing, motion, rate, told).map(fault) : []),
    ...cannotStep(motion).map(({ step, side, words, at, cannot }): Note => {
      const where = step === null ? 'It ' : `Print ${step}${side === null ? '' : side === 0 ? ' L' : ' R'}: `;
      return { kind: 'fault', cannot, words: `${where}${words}.`, ...(at === null ? {} : { at }) };
    }),
  ];
}

/** What rounding the stride to whole frames changed. Of a walk each step has its own time; a gait's stride tells nothing of it. */
function roundingNotes(asked: GaitSpec, motion: Motion, rate: number, told: Telling): Note[] {
  const { strideTime, speed } = told.rate === rate ? { strideTime: motion.strideTime, speed: motion.pace.speed } : wholeFrames(asked.timing, told.rate);
  const own = asked.timing.strideTime;
  if (!motion.repeat || Math.abs(own - strideTime) <= 1e-9) return [];
  const frames = Math.round(strideTime * told.rate);
  return [
    {
      kind: 'rounding',
      by: own / strideTime - 1,
      words: `A stride of ${own.toFixed(4)} s is ${(own * told.rate).toFixed(2)} frames at ${told.rate} fps; ${frames} frames make it ${strideTime.toFixed(4)} s and the speed ${speed.toFixed(3)} m/s.`,
    },
  ];
}

/** Overlap of limbs (mm) from which on it is said. */
const OVERLAP_MM = 3;

/** Limbs that run into each other, in words: how deep, which, when. */
function crossingNotes({ legsMm, legs, armsMm, arms }: Crossing, motion: Motion, rate: number, told: Telling): Said[] {
  const say = (what: string, depth: number, { frame, parts }: Meeting): Said[] => {
    if (!(depth > OVERLAP_MM) || !parts) return [];
    const at = frame / rate;
    return [{ words: `${what} by ${depth.toFixed(0)} mm: ${parts.map(partName).join(' and ')}, ${momentIn(motion, at, told)}.`, at }];
  };
  return [...say('Legs run into each other', legsMm, legs), ...say('An arm runs into the body', armsMm, arms)];
}
