import type { Sole } from '../body/sole';
import { rollFoot } from './rocker';
import { soleAxes } from './sole-frame';
import { FOOT_TARGET, type Targets } from './targets';

/** Writes the ankle's place (m, world) of the foot target at targets[f..] to out[o..o+2]; `scratch` holds eight numbers. */
export function ankleOf(sole: Sole, targets: Targets, f: number, out: Float64Array, o: number, scratch: Float64Array): void {
  rollFoot(sole, targets, f + FOOT_TARGET.pitch, scratch, 0);
  soleAxes(targets, f + FOOT_TARGET.heading, scratch, 2);
  const forward = scratch[0]!,
    up = scratch[1]!;
  out[o] = targets[f]! + scratch[2]! * forward + scratch[5]! * up;
  out[o + 1] = targets[f + 1]! + scratch[3]! * forward + scratch[6]! * up;
  out[o + 2] = targets[f + 2]! + scratch[4]! * forward + scratch[7]! * up;
}
