import type { Body } from '../body/body';
import { LEFT, RIGHT, type Side } from '../body/roles';
import type { GaitSpec } from '../gait/spec';
import { sidedGait } from '../gait/sides';
import { GRAVITY } from '../math/scalar';
import { contactPhases, type ContactPhase } from './contact-phases';
import { createFlightTrack, mergeIntervals } from './flight';
import { constantMotion, pendulumPeriodic } from './pendulum';
import { landAheadShare, rockerTiming } from './rocker-timing';
import type { Foothold, Schedule } from './schedule';
import { supportPath } from './support';

/** Sole pitch (rad) of the second landing in a skip. */
const HOP_LANDING_RAD = -0.2;

/**
 * The endless, strictly periodic schedule of a gait along a straight line: one stride from t = 0, where the root is at
 * the origin. Travel goes in `direction.travel` against the facing (+Z), at constant speed.
 */
export function cycleSchedule(source: GaitSpec, body: Body): Schedule {
  const { gait, sides } = sidedGait(source);
  const { strideTime: T, strideLength: S } = gait.timing;
  const { travel, hips, feet } = gait.direction;
  const dirX = Math.sin(travel),
    dirZ = Math.cos(travel);
  // Sideways axis of the hips: where their left is.
  const axisX = Math.cos(hips),
    axisZ = -Math.sin(hips);

  const foothold = (side: Side, contact: ContactPhase, hopped: boolean, stride: number): Foothold => {
    const own = sides[side];
    const sign = side === LEFT ? 1 : -1;
    const heading = hips + feet + sign * own.feet.toeOut;
    const angle = travel - hips - feet;
    const landing = (contact.start + stride) * T;
    const stance = contact.duration * T;
    const ahead = landAheadShare(own, angle) * contact.duration * S;
    const roll = rockerTiming(own, angle, stance);
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
      ...roll,
      // After the hop of a skip the foot comes down on its ball.
      landingPitch: hopped ? Math.min(roll.landingPitch, HOP_LANDING_RAD) : roll.landingPitch,
    };
  };
  const strides = [-3, -2, -1, 0, 1, 2];
  const footholds = (side: Side) => strides.flatMap((k) => contactPhases(sides[side], side).map((c, i) => foothold(side, c, i > 0, k)));
  const left = footholds(LEFT);
  const right = footholds(RIGHT);
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
