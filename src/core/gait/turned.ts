import { clamp, toRadians } from '../math/scalar';
import type { GaitSpec } from './spec';
import { follow, structuredCloneGait } from './timing';

/** With turned hips, a 90° direction turns them by this part of it, 62°: as far as the waist lets the chest come back. */
export const HIPS_SHARE = 62 / 90;
/** Planted feet come back towards the facing by this (rad) at 90°. Common practice, no published source. */
const FEET_BACK_RAD = toRadians(15);
/** The chest goes with the hips by this part of their turn: 24° of 62°, so that the waist turns by 38° (people manage 35–45°, from memory). */
const CHEST_SHARE = 24 / 62;
/** Part of a swing's lateness or earliness that is left going backward. */
const BACKWARD_BIAS = 0.25;

/** How a gait steps that travels another way than it faces. */
export interface Stepping {
  /** Turn of the hips against the facing, and the most the waist turns, rad. */
  readonly hips: number;
  readonly waist: number;
  /** Stride to the side as a part of the one ahead; feet open by this part of the leg at most. */
  readonly sideShare: number;
  readonly mostOpen: number;
}

/** The gait travelling at `travel` rad (left positive) against its facing, as `stepping` has it; its stride time is kept. */
export function turnedGait(forward: GaitSpec, travel: number, { hips, waist, sideShare, mostOpen }: Stepping): GaitSpec {
  const gait = structuredCloneGait(forward);
  gait.direction.travel = travel;
  gait.direction.hips = hips;
  gait.direction.feet = -FEET_BACK_RAD * Math.sin(clamp(hips / HIPS_SHARE, -Math.PI / 2, Math.PI / 2));
  gait.direction.chest = Math.sign(hips) * Math.max(Math.abs(hips) * CHEST_SHARE, Math.abs(hips) - waist);
  const side = Math.sin(travel) ** 2;
  gait.timing.strideLength = forward.timing.strideLength * (1 - (1 - sideShare) * side);
  const across = Math.abs(Math.sin(travel - hips));
  if (Number.isFinite(mostOpen)) gait.timing.strideLength = Math.min(gait.timing.strideLength, (mostOpen * forward.legLength) / Math.max(1e-6, across));
  // A leg that goes backward bends as it sets off: what comes late going forward would lift its knee to the hip.
  if (Math.cos(travel - hips) < 0) {
    gait.feet.swingBias *= BACKWARD_BIAS;
    const right = gait.right['feet.swingBias'];
    if (typeof right === 'number') gait.right['feet.swingBias'] = right * BACKWARD_BIAS;
  }
  follow(gait.timing, 'speed');
  return gait;
}
