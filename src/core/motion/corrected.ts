import { createReach, type Shortness } from '../solve/reach';
import { createTargets, type Targets } from '../solve/targets';
import type { Motion, Survey } from './motion';

/** What is done to a motion on its way to the pose: on targets before the legs reach, on joints after. Times in s. */
export interface Corrections {
  readonly targets?: readonly ((t: number, targets: Targets) => void)[];
  readonly joints?: readonly ((t: number, pose: Float64Array, at: number) => void)[];
}

/** Moments of a stride looked at by a survey. */
const SURVEY_MOMENTS = 96;

/** A motion with corrections on top. Those on targets come before the legs are solved, so that standing feet stay. */
export function corrected(motion: Motion, { targets: onTargets = [], joints: onJoints = [] }: Corrections): Motion {
  const reacher = createReach(motion.body);
  const scratch = createTargets();
  const targets = (t: number, out: Targets) => {
    motion.targets(t, out);
    for (const change of onTargets) change(t, out);
  };
  const pose = (t: number, out: Float64Array, at: number) => {
    targets(t, scratch);
    reacher.reach(scratch, out, at);
    for (const change of onJoints) change(t, out, at);
  };
  let surveyed: Survey | null = null;
  return { ...motion, targets, pose, survey: () => (surveyed ??= surveyOf(motion, pose, reacher.short)) };
}

/** The survey of a motion whose poses are reached anew: what its source says of itself, and what this reaching misses. */
export function surveyOf(source: Motion, pose: Motion['pose'], short: Shortness): Survey {
  const out = new Float64Array(6 + 4 * source.body.skeleton.names.length);
  const moments = Math.ceil((source.duration / source.strideTime) * SURVEY_MOMENTS);
  let { tooFar, tooNear, handMissed } = { tooFar: 0, tooNear: 0, handMissed: 0 };
  for (let i = 0; i <= moments; i++) {
    pose((source.duration * i) / moments, out, 0);
    tooFar = Math.max(tooFar, short.tooFar);
    tooNear = Math.min(tooNear, short.tooNear);
    handMissed = Math.max(handMissed, short.handMissed);
  }
  const { lowered, armsOut, armsClose } = source.survey();
  return { lowered, armsOut, armsClose, tooFar, tooNear, handMissed };
}
