import type { Sole } from '../body/sole';
import { rollFoot } from './rocker';
import { SOLE_FRAME, SOLE_FRAME_SIZE, soleFrame } from './sole-frame';
import { FOOT_TARGET, type Targets } from './targets';

/** Numbers `ankleOf` keeps for itself: the ankle's way from the sole, the sole's frame, and what that was found for. */
const ANKLE_SCRATCH = 2 + SOLE_FRAME_SIZE + 3;
/** Where the scratch has the orientation of the sole's frame. */
export const ANKLE_SOLE = 2 + SOLE_FRAME.turn;
const KNOWN = 2 + SOLE_FRAME_SIZE;

/** Scratch that knows no frame yet. */
export const createAnkleScratch = (): Float64Array => new Float64Array(ANKLE_SCRATCH).fill(NaN);

/**
 * Writes the ankle's place (m, world) of the foot target at targets[f..] to out[o..o+2]. A frame is found anew only when
 * heading or slope have changed: a standing foot's is always the same.
 */
export function ankleOf(sole: Sole, targets: Targets, f: number, out: Float64Array, o: number, scratch: Float64Array): void {
  rollFoot(sole, targets, f + FOOT_TARGET.pitch, scratch, 0);
  const frame = f + FOOT_TARGET.heading;
  if (targets[frame] !== scratch[KNOWN] || targets[frame + 1] !== scratch[KNOWN + 1] || targets[frame + 2] !== scratch[KNOWN + 2]) {
    for (let k = 0; k < 3; k++) scratch[KNOWN + k] = targets[frame + k]!;
    soleFrame(scratch, KNOWN, scratch, 2);
  }
  const forward = scratch[0]!,
    up = scratch[1]!;
  out[o] = targets[f]! + scratch[2]! * forward + scratch[5]! * up;
  out[o + 1] = targets[f + 1]! + scratch[3]! * forward + scratch[6]! * up;
  out[o + 2] = targets[f + 2]! + scratch[4]! * forward + scratch[7]! * up;
}
