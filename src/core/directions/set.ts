import type { GaitSpec } from '../gait/spec';
import { follow, structuredCloneGait } from '../gait/timing';
import type { SetSpec } from './spec';
import { clamp, toDegrees, toRadians, wrapAngle } from '../math/scalar';

export interface SetMember {
  /** Direction of travel against the facing, degrees, left positive, in (−180, 180]. */
  readonly directionDeg: number;
  readonly twin: boolean;
  readonly gait: GaitSpec;
}

/** With turned hips, a 90° direction turns them by this part of it, 62°: as far as the waist lets the chest come back. */
const HIPS_SHARE = 62 / 90;
/** Planted feet come back towards the facing by this (rad) at 90°. Common practice, no published source. */
const FEET_BACK_RAD = toRadians(15);
/** The chest goes with the hips by this part of their turn: 24° of 62°, so that the waist turns by 38° (people manage 35–45°, from memory). */
const CHEST_SHARE = 24 / 62;
/** Hips turn no further than this (rad); a twin of a diagonal then steps half sideways, half back. */
const MOST_HIPS_RAD = toRadians(93);
/** Part of a swing's lateness or earliness that is left going backward. */
const BACKWARD_BIAS = 0.25;
/** Feet that step sideways open by this part of the leg at most, of a twin and with the hips square: steps are as short as that takes. */
const MOST_OPEN = { turned: 0.72, side: 0.62 } as const;

/**
 * The members of a set as gaits of their own, all with one stride time and the same left landing at phase 0. Opposite
 * members have strides of equal length, so they travel equal and opposite distances.
 */
export function setMembers(spec: SetSpec, forward: GaitSpec): SetMember[] {
  const members: SetMember[] = [];
  for (let i = 0; i < spec.directions; i++) {
    const travel = wrapAngle((2 * Math.PI * i) / spec.directions);
    members.push(member(spec, forward, travel, false));
    // Straight ahead and straight back, and hips that stay square, have no other way to turn.
    if (spec.twins && spec.stepping === 'turned' && Math.abs(Math.sin(travel)) > 1e-6) members.push(member(spec, forward, travel, true));
  }
  return members;
}

function member(spec: SetSpec, forward: GaitSpec, travel: number, twin: boolean): SetMember {
  const gait = structuredCloneGait(forward);
  // Up to a quarter turn the body walks forward along its hips; beyond, backward. A twin does the other of the two.
  const backward = Math.abs(travel) > Math.PI / 2 + 1e-9;
  const against = wrapAngle(travel + Math.PI);
  const hips = spec.stepping === 'side' ? 0 : clamp((backward !== twin ? against : travel) * HIPS_SHARE, -MOST_HIPS_RAD, MOST_HIPS_RAD);
  gait.direction.travel = travel;
  gait.direction.hips = hips;
  gait.direction.feet = -FEET_BACK_RAD * Math.sin(clamp(hips / HIPS_SHARE, -Math.PI / 2, Math.PI / 2));
  gait.direction.chest = Math.sign(hips) * Math.max(Math.abs(hips) * CHEST_SHARE, Math.abs(hips) - spec.waist);
  const side = Math.sin(travel) ** 2;
  gait.timing.strideLength = forward.timing.strideLength * (1 - (1 - spec.sideShare) * side);
  const across = Math.abs(Math.sin(travel - hips));
  if (twin || spec.stepping === 'side')
    gait.timing.strideLength = Math.min(gait.timing.strideLength, (MOST_OPEN[spec.stepping] * forward.legLength) / Math.max(1e-6, across));
  // A leg that goes backward bends as it sets off: what comes late going forward would lift its knee to the hip.
  if (Math.cos(travel - hips) < 0) {
    gait.feet.swingBias *= BACKWARD_BIAS;
    const right = gait.right['feet.swingBias'];
    if (typeof right === 'number') gait.right['feet.swingBias'] = right * BACKWARD_BIAS;
  }
  follow(gait.timing, 'speed');
  const directionDeg = Math.round(toDegrees(travel) * 1e6) / 1e6;
  gait.name = `${forward.name} ${directionDeg}°${twin ? ' twin' : ''}`;
  return { directionDeg, twin, gait };
}
