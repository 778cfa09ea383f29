import { wrapAngle } from '../math/scalar';
import { parameterAt, writeValue } from './access';
import { withAmounts } from './amounts';
import type { GaitSpec } from './spec';

/**
 * A gait as the solver takes it: travel forward along `direction.travel` (a backward one is turned round), and the values
 * of each side laid out in full.
 */
export interface SidedGait {
  readonly gait: GaitSpec;
  readonly sides: readonly [GaitSpec, GaitSpec];
}

const known = new WeakMap<GaitSpec, SidedGait>();

/** Lays a gait out by sides. Gaits are never edited in place, so the answer is kept with the object. */
export function sidedGait(source: GaitSpec): SidedGait {
  let made = known.get(source);
  if (!made) {
    const gait = withAmounts(forwardGait(source));
    const paths = Object.keys(gait.right);
    const right = paths.length === 0 ? gait : { ...gait, timing: { ...gait.timing }, feet: { ...gait.feet }, legs: { ...gait.legs }, arms: { ...gait.arms } };
    for (const path of paths) {
      const entry = parameterAt(path);
      if (entry) writeValue({ ...right, right: {} }, entry, gait.right[path]!);
    }
    made = { gait, sides: [gait, right] };
    known.set(source, made);
  }
  return made;
}

/** A gait of negative stride as one of positive stride that travels the other way. */
function forwardGait(gait: GaitSpec): GaitSpec {
  const { strideLength, speed } = gait.timing;
  if (!(strideLength < 0 || speed < 0)) return gait;
  return {
    ...gait,
    timing: { ...gait.timing, strideLength: Math.abs(strideLength), speed: Math.abs(speed) },
    direction: { ...gait.direction, travel: wrapAngle(gait.direction.travel + Math.PI) },
  };
}

/** Cycles after which a gait repeats itself: more than one where it looks around slowly. */
export const loopCycles = ({ head }: GaitSpec): number => (head.lookAround > 0 ? Math.max(1, Math.round(head.lookCycles)) : 1);
