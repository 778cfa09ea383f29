import type { Body } from '../body/body';
import { LEFT, RIGHT, type Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { GRAVITY } from '../math/scalar';
import { createFlightTrack, mergeIntervals } from './flight';
import { constantMotion, pendulumPeriodic } from './pendulum';
import { landAheadShare, rockerTiming } from './rocker-timing';
import type { Foothold, Schedule } from './schedule';
import { supportPath } from './support';

/**
 * The endless, strictly periodic schedule of a gait along a straight line: one stride from t = 0, where the root is at
 * the origin. Travel goes in `direction.travel` against the facing (+Z), at constant speed.
 */
export function cycleSchedule(gait: GaitSpec, body: Body): Schedule {
  const { strideTime: T, strideLength: S, dutyFactor } = gait.timing;
  const { travel, hips, feet } = gait.direction;
  const dirX = Math.sin(travel),
    dirZ = Math.cos(travel);
  // Sideways axis of the hips: where their left is.
  const axisX = Math.cos(hips),
    axisZ = -Math.sin(hips);
  const stance = dutyFactor * T;

  const foothold = (side: Side, phase: number, stride: number): Foothold => {
    const sign = side === LEFT ? 1 : -1;
    const heading = hips + feet + sign * gait.feet.toeOut;
    const angle = travel - hips - feet;
    const landing = (phase + stride) * T;
    const ahead = landAheadShare(gait, angle) * dutyFactor * S;
    const along = (landing / T) * S + ahead;
    const across = (sign * gait.feet.stepWidth) / 2;
    return {
      side,
      x: dirX * along + axisX * across,
      y: 0,
      z: dirZ * along + axisZ * across,
      heading,
      landing,
      leaving: landing + stance,
      ...rockerTiming(gait, angle, stance),
    };
  };
  const strides = [-3, -2, -1, 0, 1, 2];
  const left = strides.map((k) => foothold(LEFT, gait.timing.leftLeg, k));
  const right = strides.map((k) => foothold(RIGHT, gait.timing.rightLeg, k));
  const all = [...left, ...right];

  const across = (f: Foothold) => (f.side === LEFT ? 0.5 : -0.5) * gait.feet.stepWidth;
  const omega = Math.sqrt(GRAVITY / body.hipHeight);
  const support = mergeIntervals(all.map((f) => ({ from: f.landing, to: f.leaving })));
  return {
    periodic: true,
    duration: T,
    strideTime: T,
    phaseStart: 0,
    footholds: [left, right],
    travelX: constantMotion(0, (dirX * S) / T, T),
    travelZ: constantMotion(0, (dirZ * S) / T, T),
    sway: pendulumPeriodic(supportPath(all, across, 0, T), omega),
    swayAxisX: axisX,
    swayAxisZ: axisZ,
    flight: createFlightTrack(support, GRAVITY * gait.timing.gravity),
    fullSpeed: 0,
  };
}
