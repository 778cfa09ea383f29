import { lerp } from '../math/scalar';
import type { GaitSpec } from './spec';

/** Sole pitches and times of a foothold; see `Foothold`. */
export interface RockerTiming {
  readonly landingPitch: number;
  readonly leavingPitch: number;
  /** Pitch through the middle of the stance: 0, or below it where the heel is held up. */
  readonly standingPitch: number;
  readonly flatAfter: number;
  readonly riseFor: number;
}

/**
 * How a foot rolls when the body passes over it at `angle` (radians) to the foot's heading: forward it lands on the heel
 * and leaves over the toes; backward the same roll runs in reverse; sideways the sole stays nearly flat.
 */
export function rockerTiming(gait: GaitSpec, angle: number, stance: number): RockerTiming {
  const { landingPitch, liftOffPitch, flatAt, heelOff, heelUp } = gait.feet;
  const c = Math.cos(angle);
  const forward = { landingPitch, leavingPitch: -liftOffPitch, flatAfter: flatAt * stance, riseFor: (1 - heelOff) * stance };
  // Backward the foot meets the ground toes first, softer than it leaves it going forward, and leaves heel last.
  const backward = {
    landingPitch: -0.6 * liftOffPitch,
    leavingPitch: 0.5 * Math.max(0, landingPitch),
    flatAfter: 0.8 * (1 - heelOff) * stance,
    riseFor: flatAt * stance,
  };
  const sideways = { landingPitch: 0, leavingPitch: -0.35 * liftOffPitch, flatAfter: flatAt * stance, riseFor: 0.5 * (1 - heelOff) * stance };
  const [a, u] = c >= 0 ? [forward, 1 - c] : [backward, 1 + c];
  return {
    landingPitch: Math.min(lerp(a.landingPitch, sideways.landingPitch, u), heelUp > 0 ? -heelUp : Infinity),
    leavingPitch: Math.min(lerp(a.leavingPitch, sideways.leavingPitch, u), heelUp > 0 ? -heelUp : Infinity),
    standingPitch: -heelUp,
    flatAfter: lerp(a.flatAfter, sideways.flatAfter, u),
    riseFor: lerp(a.riseFor, sideways.riseFor, u),
  };
}

/** Part of the stance travel for which the foot is ahead of the hips, for travel at `angle` to the foot's heading. */
export const landAheadShare = (gait: GaitSpec, angle: number): number => 0.5 + (gait.feet.landAhead - 0.5) * Math.cos(angle);
