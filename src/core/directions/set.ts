import type { GaitSpec } from '../gait/spec';
import { HIPS_SHARE, turnedGait } from '../gait/turned';
import type { SetSpec } from './spec';
import { clamp, toDegrees, toRadians, wrapAngle } from '../math/scalar';

export interface SetMember {
  /** Direction of travel against the facing, degrees, left positive, in (−180, 180]. */
  readonly directionDeg: number;
  readonly twin: boolean;
  readonly gait: GaitSpec;
}

/** Hips turn no further than this (rad); a twin of a diagonal then steps half sideways, half back. */
const MOST_HIPS_RAD = toRadians(93);
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
  // Up to a quarter turn the body walks forward along its hips; beyond, backward. A twin does the other of the two.
  const backward = Math.abs(travel) > Math.PI / 2 + 1e-9;
  const against = wrapAngle(travel + Math.PI);
  const hips = spec.stepping === 'side' ? 0 : clamp((backward !== twin ? against : travel) * HIPS_SHARE, -MOST_HIPS_RAD, MOST_HIPS_RAD);
  const mostOpen = twin || spec.stepping === 'side' ? MOST_OPEN[spec.stepping] : Infinity;
  const gait = turnedGait(forward, travel, { hips, waist: spec.waist, sideShare: spec.sideShare, mostOpen });
  const directionDeg = Math.round(toDegrees(travel) * 1e6) / 1e6;
  gait.name = `${forward.name} ${directionDeg}°${twin ? ' twin' : ''}`;
  return { directionDeg, twin, gait };
}
