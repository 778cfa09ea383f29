import type { Body } from '../body/body';
import type { Channel } from '../gait/parameters';
import type { GaitSpec } from '../gait/spec';
import { TAU, clamp, smoothstep, wrapPhase } from '../math/scalar';
import { multiplyAxis, rotate, setAxis } from '../math/quaternion';
import { flightHeight } from '../schedule/flight';
import { pendulumPosition, pendulumVelocity } from '../schedule/pendulum';
import type { Schedule } from '../schedule/schedule';

/** Where the trunk's base wants to be at one time, before the legs have their say. World frame; metres, radians. */
export interface Frame {
  phase: number;
  /** 0 standing … 1 the gait's full amounts. */
  strength: number;
  rootX: number;
  rootZ: number;
  hipsX: number;
  hipsZ: number;
  /** Wished height of the hips. */
  wish: number;
  turn: number;
  list: number;
  tilt: number;
  /** Hips orientation, 4 numbers. */
  readonly hips: Float64Array;
  /** Left hip joint against the hips, 3 numbers; the right one is its opposite. */
  readonly hipJoint: Float64Array;
}

export const createFrame = (): Frame => ({
  phase: 0,
  strength: 1,
  rootX: 0,
  rootZ: 0,
  hipsX: 0,
  hipsZ: 0,
  wish: 0,
  turn: 0,
  list: 0,
  tilt: 0,
  hips: new Float64Array(4),
  hipJoint: new Float64Array(3),
});

/** Wave of a once-a-stride channel: 1 at phase 0. */
export const once = (c: Channel, phase: number): number => c.amount * Math.cos(TAU * (phase + c.delay));
/** Wave of a twice-a-stride channel: −1 at the two landings. */
export const twice = (c: Channel, phase: number): number => -c.amount * Math.cos(2 * TAU * (phase + c.delay));

/** Returns the evaluator of the frame; `lowered` (m) takes the hips further down. Allocates nothing per call. */
export function createFrameEvaluator(body: Body, gait: GaitSpec, schedule: Schedule) {
  const { hips, direction } = gait;
  // Going backward, the fore-and-aft waves of turn and arms run the other way.
  const along = Math.cos(direction.travel - direction.hips);
  return (time: number, lowered: number, out: Frame): void => {
    // A plan's body stands still before its start and after its end; a pendulum run on from there would fall over.
    const t = schedule.periodic ? time : clamp(time, 0, schedule.duration);
    const wrapped = schedule.periodic ? wrapPhase(t / schedule.duration) * schedule.duration : t;
    const phase = schedule.phaseStart + t / schedule.strideTime;
    let strength = 1;
    if (schedule.fullSpeed > 0) {
      const speed = Math.hypot(pendulumVelocity(schedule.travelX, t), pendulumVelocity(schedule.travelZ, t));
      const r = clamp(speed / schedule.fullSpeed, 0, 1);
      strength = r * r * (3 - 2 * r);
    }
    out.phase = phase;
    out.strength = strength;
    out.rootX = pendulumPosition(schedule.travelX, t);
    out.rootZ = pendulumPosition(schedule.travelZ, t);
    const sway = hips.sway * pendulumPosition(schedule.sway, wrapped);
    out.hipsX = out.rootX + sway * schedule.swayAxisX;
    out.hipsZ = out.rootZ + sway * schedule.swayAxisZ;
    out.wish =
      body.hipHeight -
      lowered * smoothstep(0, 0.3, strength) +
      strength * (hips.rise.offset - hips.crouch + twice(hips.rise, phase)) +
      flightHeight(schedule.flight, wrapped);
    out.turn = direction.hips - strength * along * once(hips.turn, phase) + hips.turn.offset;
    out.list = hips.list.offset + strength * once(hips.list, phase);
    out.tilt = hips.tilt.offset + strength * twice(hips.tilt, phase);
    setAxis(out.hips, 0, 1, out.turn);
    multiplyAxis(out.hips, 0, out.hips, 0, 2, out.list);
    multiplyAxis(out.hips, 0, out.hips, 0, 0, out.tilt);
    rotate(out.hipJoint, 0, out.hips, 0, body.halfHipBreadth, 0, 0);
  };
}
