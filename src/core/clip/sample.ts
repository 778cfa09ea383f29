import type { Body } from '../body/body';
import { SIDES, SIDE_NAMES } from '../body/roles';
import { poseSize } from '../body/skeleton';
import { fitToFrames } from '../gait/timing';
import { loopCycles } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { pendulumPosition } from '../schedule/pendulum';
import type { Schedule } from '../schedule/schedule';
import { cycleSchedule } from '../schedule/cycle';
import { createSolver, type Solver } from '../solve/solver';
import type { Clip, ClipContact } from './clip';

/** How a motion is sampled besides its frame rate. */
export interface SampleOptions {
  /** How often a loop is repeated; one slow look around counts as one. */
  readonly cycles?: number;
  /** Pictures each pose is held for: on ones, twos, threes. */
  readonly hold?: number;
  /** Store the closing picture of a loop as well, for programs that want it; the clip is then no loop of its own. */
  readonly closing?: boolean;
}

/** Samples a solver over its whole duration: a cycle as a loop, a plan with its closing frame. */
export function sampleClip(solver: Solver, rate: number, name: string, options: SampleOptions = {}): Clip {
  const { schedule, body } = solver;
  const { hold = 1, closing = false } = options;
  const cycles = (options.cycles ?? 1) * (schedule.periodic ? loopCycles(solver.gait) : 1);
  const size = poseSize(body.skeleton);
  const per = Math.max(1, Math.round(schedule.duration * rate));
  const loop = schedule.periodic && !closing;
  const frames = schedule.periodic ? per * cycles + (closing ? 1 : 0) : per + 1;
  const poses = new Float64Array(frames * size);
  const dx = pendulumPosition(schedule.travelX, schedule.duration) - pendulumPosition(schedule.travelX, 0);
  const dz = pendulumPosition(schedule.travelZ, schedule.duration) - pendulumPosition(schedule.travelZ, 0);
  for (let i = 0; i < frames; i++) {
    // Held pictures repeat the first of their group; the closing one always shows the end.
    const f = i === frames - 1 && !loop ? i : i - (i % hold);
    const turn = schedule.periodic ? Math.floor(f / per) : 0;
    solver.solve(((f - turn * per) / per) * schedule.duration, poses, i * size, turn);
    poses[i * size] = poses[i * size]! + turn * dx;
    poses[i * size + 2] = poses[i * size + 2]! + turn * dz;
  }
  const loopTravel = loop ? ([dx * cycles, 0, dz * cycles] as const) : ([0, 0, 0] as const);
  return {
    name,
    skeleton: body.skeleton,
    frames,
    rate,
    loop,
    poses,
    loopTravel,
    contacts: contactsOf(schedule, per / schedule.duration, frames, cycles, loop).map((c) => heldContact(c, hold, frames)),
  };
}

/** A contact as held pictures show it: the pictures whose poses were taken inside it. Holding starts anew with a loop of `frames`. */
function heldContact(c: ClipContact, hold: number, frames: number): ClipContact {
  if (hold === 1) return c;
  const taken = (f: number) => f - ((((f % frames) + frames) % frames) % hold);
  let from = Math.ceil(c.from - 1e-9),
    to = Math.floor(c.to + 1e-9);
  while (taken(from) < c.from - 1e-9) from++;
  while (taken(to + 1) <= c.to + 1e-9) to++;
  return { ...c, from, to };
}

/** Contacts of a schedule in frames of a clip with `perSecond` frames a second; each cycle's once. */
function contactsOf(schedule: Schedule, perSecond: number, frames: number, cycles: number, loop: boolean): ClipContact[] {
  const contacts: ClipContact[] = [];
  for (const side of SIDES)
    for (const hold of schedule.footholds[side]) {
      if (schedule.periodic) {
        // Footholds repeat every stride: take the one that lands inside it.
        if (hold.landing < -1e-9 || hold.landing >= schedule.duration - 1e-9) continue;
        for (let c = loop ? 0 : -1; c < cycles; c++) {
          const from = (hold.landing + c * schedule.duration) * perSecond,
            to = (hold.leaving + c * schedule.duration) * perSecond;
          if (loop) contacts.push({ foot: SIDE_NAMES[side], from, to });
          else if (to > 0 && from < frames - 1) contacts.push({ foot: SIDE_NAMES[side], from: Math.max(0, from), to: Math.min(frames - 1, to) });
        }
      } else contacts.push({ foot: SIDE_NAMES[side], from: Math.max(0, hold.landing * perSecond), to: Math.min(frames - 1, hold.leaving * perSecond) });
    }
  return contacts;
}

/** A gait as a looping clip of whole frames; the stride time moves to the nearest frame count (stride length kept). */
export function cycleClip(gait: GaitSpec, body: Body, rate: number, options: SampleOptions = {}): { clip: Clip; solver: Solver } {
  const fitted = fitToFrames(gait, rate, options.hold);
  const solver = createSolver(body, fitted, cycleSchedule(fitted, body));
  return { clip: sampleClip(solver, rate, gait.name, options), solver };
}
