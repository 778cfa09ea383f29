import { createReach, type Shortness } from '../solve/reach';
import { createTargets, TARGET, type Targets } from '../solve/targets';
import type { Motion, Survey } from './motion';
import { kept, missing } from './survey';

/** What is done to a motion on its way to the pose: on targets before the legs reach, on joints after. Times in s. */
export interface Corrections {
  readonly targets?: readonly ((t: number, targets: Targets) => void)[];
  readonly joints?: readonly ((t: number, pose: Float64Array, at: number) => void)[];
}

/** Numbers of the hips in the targets: place and orientation; and the sharpness (1/m) with which moved ones give way. */
const HIPS_NUMBERS = 7;
const GIVES_WAY = 4000;

/** A motion with corrections on top. Those on targets come before the legs are solved, so that standing feet stay. */
export function corrected(motion: Motion, { targets: onTargets = [], joints: onJoints = [] }: Corrections): Motion {
  const reacher = createReach(motion.body);
  const scratch = createTargets();
  const hips = new Float64Array(HIPS_NUMBERS);
  const targets = (t: number, out: Targets) => {
    motion.targets(t, out);
    if (onTargets.length === 0) return;
    hips.set(out.subarray(TARGET.hips, TARGET.hips + hips.length));
    for (const change of onTargets) change(t, out);
    // Hips moved by hand are no longer planned for the legs: they give way to them.
    if (out[TARGET.sharpness] === 0 && hips.some((v, k) => v !== out[TARGET.hips + k])) out[TARGET.sharpness] = GIVES_WAY;
  };
  const pose = (t: number, out: Float64Array, at: number) => {
    targets(t, scratch);
    reacher.reach(scratch, out, at);
    for (const change of onJoints) change(t, out, at);
  };
  return { ...motion, targets, pose, ...kept(() => reachedAnew(motion, { ...motion, pose }, reacher.short)) };
}

/** The survey of a motion whose poses are reached anew: what its source says of itself, and what this reaching misses. */
export function* reachedAnew(source: Motion, motion: Pick<Motion, 'body' | 'duration' | 'pose'>, short: Shortness): Generator<undefined, Survey> {
  const most = yield* missing(motion, short);
  const { armsOut, armsClose, level } = yield* source.surveying();
  return { armsOut, armsClose, level, ...most };
}
