import type { Body } from '../body/body';
import { SIDES, SIDE_NAMES } from '../body/roles';
import { poseSize } from '../body/skeleton';
import { fitToFrames } from '../gait/timing';
import type { GaitSpec } from '../gait/spec';
import { pendulumPosition } from '../schedule/pendulum';
import type { Schedule } from '../schedule/schedule';
import { cycleSchedule } from '../schedule/cycle';
import { createSolver, type Solver } from '../solve/solver';
import type { Clip, ClipContact } from './clip';

/** Samples a solver over its whole duration: a cycle as a loop, a plan with its closing frame. */
export function sampleClip(solver: Solver, rate: number, name: string, cycles = 1): Clip {
  const { schedule, body } = solver;
  const size = poseSize(body.skeleton);
  const per = Math.max(1, Math.round(schedule.duration * rate));
  const frames = schedule.periodic ? per * cycles : per + 1;
  const poses = new Float64Array(frames * size);
  const dx = pendulumPosition(schedule.travelX, schedule.duration) - pendulumPosition(schedule.travelX, 0);
  const dz = pendulumPosition(schedule.travelZ, schedule.duration) - pendulumPosition(schedule.travelZ, 0);
  for (let f = 0; f < frames; f++) {
    const turn = schedule.periodic ? Math.floor(f / per) : 0;
    solver.solve(((f - turn * per) / per) * schedule.duration, poses, f * size, turn);
    poses[f * size] = poses[f * size]! + turn * dx;
    poses[f * size + 2] = poses[f * size + 2]! + turn * dz;
  }
  const loopTravel = schedule.periodic ? ([dx * cycles, 0, dz * cycles] as const) : ([0, 0, 0] as const);
  return {
    name,
    skeleton: body.skeleton,
    frames,
    rate,
    loop: schedule.periodic,
    poses,
    loopTravel,
    contacts: contactsOf(schedule, per / schedule.duration, frames),
  };
}

/** Contacts of a schedule in frames of a clip with `perSecond` frames a second; each cycle's once. */
function contactsOf(schedule: Schedule, perSecond: number, frames: number): ClipContact[] {
  const contacts: ClipContact[] = [];
  const cycles = schedule.periodic ? Math.round(frames / (schedule.duration * perSecond)) : 1;
  for (const side of SIDES)
    for (const hold of schedule.footholds[side]) {
      if (schedule.periodic) {
        // Footholds repeat every stride: take the one that lands inside it.
        if (hold.landing < -1e-9 || hold.landing >= schedule.duration - 1e-9) continue;
        for (let c = 0; c < cycles; c++)
          contacts.push({
            foot: SIDE_NAMES[side],
            from: (hold.landing + c * schedule.duration) * perSecond,
            to: (hold.leaving + c * schedule.duration) * perSecond,
          });
      } else contacts.push({ foot: SIDE_NAMES[side], from: Math.max(0, hold.landing * perSecond), to: Math.min(frames - 1, hold.leaving * perSecond) });
    }
  return contacts;
}

/** A gait as a looping clip of whole frames; the stride time moves to the nearest frame count (stride length kept). */
export function cycleClip(gait: GaitSpec, body: Body, rate: number, cycles = 1): { clip: Clip; solver: Solver } {
  const fitted = fitToFrames(gait, rate);
  const solver = createSolver(body, fitted, cycleSchedule(fitted, body));
  return { clip: sampleClip(solver, rate, gait.name, cycles), solver };
}
