import { poseSize } from '../body/skeleton';
import { finish } from '../math/finish';
import type { Shortness } from '../solve/reach';
import type { Motion, Survey } from './motion';

/** Moments looked at between two looks at a cancel. */
const AT_ONCE = 256;

type Missed = Pick<Survey, 'tooFar' | 'tooNear' | 'handMissed'>;

/** The most that legs and hands miss at `moments` even times of a motion, as `short` tells it after each pose. */
export function* missing(
  { body, duration, pose }: Pick<Motion, 'body' | 'duration' | 'pose'>,
  moments: number,
  short: Shortness,
): Generator<undefined, Missed> {
  const trial = new Float64Array(poseSize(body.skeleton));
  const most = { tooFar: 0, tooNear: 0, handMissed: 0 };
  for (let i = 0; i <= moments; i++) {
    if (i % AT_ONCE === AT_ONCE - 1) yield undefined;
    pose((duration * i) / moments, trial, 0);
    most.tooFar = Math.max(most.tooFar, short.tooFar);
    most.tooNear = Math.min(most.tooNear, short.tooNear);
    most.handMissed = Math.max(most.handMissed, short.handMissed);
  }
  return most;
}

/** A survey that is made when first asked for, at once or bit by bit, and kept. */
export function kept(make: () => Generator<undefined, Survey>): Pick<Motion, 'survey' | 'surveying'> {
  let found: Survey | null = null;
  function* surveying(): Generator<undefined, Survey> {
    return (found ??= yield* make());
  }
  return { surveying, survey: () => found ?? finish(surveying()) };
}
