import type { Body } from '../body/body';
import { SHOULDER, SIDES } from '../body/roles';
import { createWorldPose, forwardKinematics } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import type { Numbers } from '../math/quaternion';
import { armLengths, holdHand } from './hold';
import { palmLength } from './props';

/** Both hands on the handle of the cart, which moves with the root and points where the travel goes. */
export function createHolding(body: Body, gait: GaitSpec): { hold(pose: Numbers, at: number): number } {
  const { handleHeight, handleAhead, gripWidth } = gait.props;
  const heading = gait.direction.travel;
  const facing = gait.direction.chest;
  const sin = Math.sin(heading),
    cos = Math.cos(heading);
  const lengths = armLengths(body);
  const world = createWorldPose(body.skeleton);
  const target = new Float64Array(3);
  const scratch = new Float64Array(4);
  const palm = palmLength(body);
  const { moving } = body.skeleton;
  return {
    /** Puts both palms on the handle; returns the farthest miss, m. Allocates nothing. */
    hold(pose, at) {
      forwardKinematics(body.skeleton, pose, at, world);
      let missed = 0;
      for (const side of SIDES) {
        const across = (side === 0 ? 0.5 : -0.5) * gripWidth;
        // The wrist stays behind the handle by the length of the palm, along the line from the shoulder.
        const tx = pose[at]! + sin * handleAhead + cos * across,
          ty = handleHeight,
          tz = pose[at + 2]! + cos * handleAhead - sin * across;
        const s = (SHOULDER[side] + 1) * 3;
        const dx = tx - world.positions[s]!,
          dy = ty - world.positions[s + 1]!,
          dz = tz - world.positions[s + 2]!;
        const back = palm / Math.max(palm, Math.sqrt(dx * dx + dy * dy + dz * dz));
        target[0] = tx - dx * back;
        target[1] = ty - dy * back;
        target[2] = tz - dz * back;
        missed = Math.max(missed, holdHand(lengths, world, side, target, facing, pose, at + moving.length * 3, scratch));
      }
      return missed;
    },
  };
}
