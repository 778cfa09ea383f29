import type { Body } from '../body/body';
import type { GaitSpec } from '../gait/spec';
import { compileWave, waveAt } from '../gait/wave';
import { clamp, smoothstep, wrapPhase } from '../math/scalar';
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

/** Returns the evaluator of the frame; `lowered` (m) takes the hips further down. Allocates nothing per call. */
export function createFrameEvaluator(body: Body, gait: GaitSpec, schedule: Schedule) {
  const { hips, direction } = gait;
  // Going backward, the fore-and-aft waves of turn and arms run the other way.
  const along = Math.cos(direction.travel - direction.hips);
  const aheadX = Math.sin(direction.travel),
    aheadZ = Math.cos(direction.travel);
  const T = schedule.strideTime;
  const rise = compileWave(hips.rise, 2, T),
    surge = compileWave(hips.surge, 2, T),
    shift = compileWave(hips.shift, 1, T),
    turn = compileWave(hips.turn, 1, T),
    list = compileWave(hips.list, 1, T),
    tilt = compileWave(hips.tilt, 2, T);
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
    const sway = hips.sway * pendulumPosition(schedule.sway, wrapped) + strength * (hips.shift.offset + waveAt(shift, phase));
    const ahead = strength * (hips.surge.offset + waveAt(surge, phase));
    out.hipsX = out.rootX + sway * schedule.swayAxisX + ahead * aheadX;
    out.hipsZ = out.rootZ + sway * schedule.swayAxisZ + ahead * aheadZ;
    out.wish =
      body.hipHeight -
      lowered * smoothstep(0, 0.3, strength) +
      strength * (hips.rise.offset - hips.crouch + waveAt(rise, phase)) +
      flightHeight(schedule.flight, wrapped);
    out.turn = direction.hips - strength * along * waveAt(turn, phase) + hips.turn.offset;
    out.list = hips.list.offset + strength * waveAt(list, phase);
    out.tilt = hips.tilt.offset + strength * waveAt(tilt, phase);
    setAxis(out.hips, 0, 1, out.turn);
    multiplyAxis(out.hips, 0, out.hips, 0, 2, out.list);
    multiplyAxis(out.hips, 0, out.hips, 0, 0, out.tilt);
    rotate(out.hipJoint, 0, out.hips, 0, body.halfHipBreadth, 0, 0);
  };
}
