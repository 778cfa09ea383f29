import type { Side } from '../body/roles';
import type { Motion } from '../motion/motion';
import { ankleOf, createAnkleScratch } from '../solve/ankle';
import { FOOT } from '../solve/foot-state';
import { createTargets, FOOT_TARGET, footAt } from '../solve/targets';

/** Ankle, pitch, bend, heading, slope and roll of a foot at `t` s as its motion asks for them, into `out`; returns whether it stands. */
export function evaluateFoot(motion: Motion, side: Side, t: number, out: Float64Array): boolean {
  const targets = createTargets();
  motion.targets(t, targets);
  const f = footAt(side);
  ankleOf(motion.body.legs[side].sole, targets, f, out, 0, createAnkleScratch());
  for (const key of ['pitch', 'bend', 'heading', 'slopeX', 'slopeZ', 'roll'] as const) out[FOOT[key]] = targets[f + FOOT_TARGET[key]]!;
  return targets[f + FOOT_TARGET.planted] === 1;
}
