import type { Body } from '../body/body';
import type { SidedGait } from '../gait/sides';
import type { Schedule } from '../schedule/schedule';
import type { Aimer, ArmsSpan } from './aim';
import { ARMS_FREE, clearArms, clearSpan, type ArmsClear } from './clear-arms';
import { createReach } from './reach';
import { createTargets } from './targets';

/** Strides at both ends of a walk in which arms are looked at for themselves, looks a stride, and the time (s) a walk stands at its end. */
const SPAN_STRIDES = 2.5;
const FLYING_STRIDES = 2;
const SPAN_LOOKS = 14;
const STANDING_S = 1.2;

/**
 * Has the arms of an aimer keep clear of the body, and tells how far they do. Those of a walk go as they do in its gait's own
 * cycle (`round` tells how), by as much as the gait has the say; its first and last strides (`ends`) are looked at besides. Nothing is
 * looked for before it is asked for.
 */
export function prepareArms(body: Body, { gait, sides }: SidedGait, aimer: Aimer, round: (() => ArmsClear) | null, ends = true): () => ArmsClear {
  const { duration, strideTime, flight }: Schedule = aimer.schedule;
  const clearance = [sides[0].arms.clearance, sides[1].arms.clearance] as const;
  const reacher = createReach(body);
  /** While arms are tried at one time, all else of the figure stays. */
  const trial = (of: Aimer) => {
    const targets = createTargets();
    const clock = Float64Array.of(NaN);
    return (time: number, out: Float64Array) => {
      if (time === clock[0]) of.aimArms(targets);
      else {
        clock[0] = time;
        of.aim(clock, 0, targets);
      }
      reacher.reach(targets, out, 0);
    };
  };
  let found: ArmsClear | null = null;
  function find(): ArmsClear {
    if (gait.carry === 'cart') return ARMS_FREE;
    const solve = trial(aimer);
    const clear = round?.() ?? clearArms(body, clearance, aimer.arms.trial, (phase, out) => solve(phase * strideTime, out));
    aimer.arms.stride = clear.stride;
    if (round && ends) aimer.arms.spans = spansOf(duration, strideTime, flight.count > 0);
    return clear;
  }
  const clear = () => (found ??= find());
  aimer.arms.prepare = (t) => {
    clear();
    for (const span of aimer.arms.spans) {
      if (span.spline !== undefined || t < span.from || t > span.to) continue;
      // While it is being looked for it is not there.
      span.spline = null;
      span.spline = clearSpan(body, clearance, aimer.arms.trial, trial(aimer), span.from, span.to, strideTime / SPAN_LOOKS);
    }
  };
  return clear;
}

/** The first and last strides of a walk, or all of a short one. Runs take longer to come to their speed. */
function spansOf(duration: number, strideTime: number, flies: boolean): ArmsSpan[] {
  const span = (from: number, to: number): ArmsSpan => ({ from, to, spline: undefined });
  const strides = SPAN_STRIDES + (flies ? FLYING_STRIDES : 0);
  const half = (strides + 1) * strideTime;
  const late = (strides + 0.5) * strideTime + STANDING_S;
  return half + late >= duration - strideTime ? [span(0, duration)] : [span(0, half), span(duration - late, duration)];
}
