import type { Body } from '../body/body';
import { LEFT, RIGHT, type Side } from '../body/roles';
import { sidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { GRAVITY } from '../math/scalar';
import { createFlightTrack, mergeIntervals } from '../schedule/flight';
import { constantMotion, pendulumRestToRest } from '../schedule/pendulum';
import { landAheadShare, rockerTiming, type RockerTiming } from '../schedule/rocker-timing';
import type { Foothold, Schedule } from '../schedule/schedule';
import { supportPath } from '../schedule/support';

/** First steps, and last ones counted from the end, as parts of a full step: a body at rest reaches less far. */
const WALK_RAMP = [0.72];
const RUN_RAMP = [0.42, 0.68, 0.88];
/** Time (s) of standing before the first lift-off and after the last landing, in pendulum time constants 1/ω. */
const STANDING_CONSTANTS = 3.2;
/** Part of a run's flight that the very first take-off and the very last landing have. */
const FIRST_FLIGHT_SHARE = 0.45;

const flatSole: RockerTiming = { landingPitch: 0, leavingPitch: 0, standingPitch: 0, flatAfter: 0.1, riseFor: 0.1 };

/** The gait as a straight plan walks it: ahead, whatever direction it was made for. */
export function aheadGait(gait: GaitSpec): GaitSpec {
  const { timing, direction } = gait;
  if (timing.strideLength >= 0 && Object.values(direction).every((v) => v === 0)) return gait;
  const forward = { ...timing, strideLength: Math.abs(timing.strideLength), speed: Math.abs(timing.speed) };
  return { ...gait, timing: forward, direction: { travel: 0, hips: 0, feet: 0, chest: 0 } };
}

/**
 * A finite schedule of `steps` steps straight ahead (+Z): standing, walking, standing again, the last step closing the
 * feet. How the body gets going and comes to rest is the linear inverted pendulum's answer to the footholds, exactly from
 * rest to rest. Needs steps ≥ 2 and a gait that goes ahead (`aheadGait`).
 */
export function straightSchedule(gait: GaitSpec, body: Body, steps: number, firstFoot: Side): Schedule {
  if (!(Number.isInteger(steps) && steps >= 2)) throw new RangeError(`straightSchedule: steps must be a whole number from 2, got ${steps}`);
  const { strideTime: T, strideLength: S, dutyFactor } = gait.timing;
  const { sides } = sidedGait(gait);
  const stepTime = T / 2;
  const swingTime = (1 - dutyFactor) * T;
  const flightTime = Math.max(0, 0.5 - dutyFactor) * T;
  const omega = Math.sqrt(GRAVITY / body.hipHeight);
  const standing = STANDING_CONSTANTS / omega;
  const passDelay = landAheadShare(gait, 0) * dutyFactor * T; // from a landing until the hips pass over that foot

  // Where step k (1 …) lands; the feet start side by side at 0 and end so.
  const ramp = dutyFactor < 0.5 ? RUN_RAMP : WALK_RAMP;
  const share = (k: number): number => Math.min(ramp[k - 1] ?? 1, ramp[steps - 1 - k] ?? 1);
  const places = [0];
  for (let k = 1; k < steps; k++) places.push(places[k - 1]! + share(k) * (S / 2));
  const place = (k: number): number => places[Math.min(Math.max(k, 0), steps - 1)]!;
  const sideOf = (k: number): Side => (k % 2 !== 0 ? firstFoot : firstFoot === LEFT ? RIGHT : LEFT);
  // The first foot leaves after the standing time and takes a full swing.
  const landingOf = (k: number): number => standing + swingTime + (k - 1) * stepTime;
  const leavingOf = (k: number): number => {
    if (k >= steps - 1) return Infinity;
    const swing = k === 0 ? swingTime - (1 - FIRST_FLIGHT_SHARE) * flightTime : swingTime;
    return landingOf(k + 2) - swing;
  };
  const duration = landingOf(steps) + passDelay + standing;

  const foothold = (k: number): Foothold => {
    const side = sideOf(k);
    const sign = side === LEFT ? 1 : -1;
    const landing = k <= 0 ? -1 : landingOf(k);
    const leaving = Math.min(leavingOf(k), duration + 1);
    const own = sides[side];
    const roll = rockerTiming(own, 0, dutyFactor * T);
    const first = k <= 0,
      last = k >= steps - 1;
    return {
      side,
      x: (sign * gait.feet.stepWidth) / 2,
      y: 0,
      z: place(k),
      heading: sign * own.feet.toeOut,
      landing,
      leaving,
      landingPitch: first ? flatSole.landingPitch : k === steps ? roll.landingPitch * 0.3 : roll.landingPitch,
      leavingPitch: last ? flatSole.leavingPitch : first ? roll.leavingPitch * 0.75 : roll.leavingPitch,
      standingPitch: first || last ? 0 : roll.standingPitch,
      flatAfter: roll.flatAfter,
      riseFor: roll.riseFor,
    };
  };
  // k = −1 and 0 are where the feet stand at first: the first foot's own place, then the other's.
  const all = Array.from({ length: steps + 2 }, (_, i) => foothold(i - 1));
  const track = (side: Side) => all.filter((f) => f.side === side);

  // Forward, the support point runs from foot to foot at the times the hips pass over them.
  const times = [0, standing * 0.5];
  const points = [0, 0];
  for (let k = 0; k <= steps; k++) {
    times.push(landingOf(k) + passDelay);
    points.push(place(k));
  }
  times.push(duration - standing * 0.5, duration);
  points.push(place(steps), place(steps));
  const across = (f: Foothold) => f.x;
  const shift = withStanding(supportPath(all, across, 0, duration), standing, duration);
  return {
    periodic: false,
    duration,
    strideTime: T,
    // Phase 0 is a left landing.
    phaseStart: -(landingOf(firstFoot === LEFT ? 1 : 2) / T),
    footholds: [track(LEFT), track(RIGHT)],
    travelX: constantMotion(0, 0, duration),
    travelZ: pendulumRestToRest({ times, points }, omega, 1, times.length - 2),
    sway: pendulumRestToRest(shift, omega, 1, shift.times.length - 2),
    swayAxisX: 1,
    swayAxisZ: 0,
    flight: createFlightTrack(mergeIntervals(all.map((f) => ({ from: f.landing, to: f.leaving }))), GRAVITY * gait.timing.gravity),
    fullSpeed: gait.timing.speed,
  };
}

/** Adds the knots in mid-standing that the weight shift needs, with the support between the feet there. */
function withStanding(path: { times: readonly number[]; points: readonly number[] }, standing: number, duration: number) {
  const inner = path.times.map((t, i) => ({ t, p: path.points[i]! })).filter(({ t }) => t > standing * 0.5 && t < duration - standing * 0.5);
  return {
    times: [0, standing * 0.5, ...inner.map((k) => k.t), duration - standing * 0.5, duration],
    points: [0, 0, ...inner.map((k) => k.p), 0, 0],
  };
}
