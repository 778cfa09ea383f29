import type { Body } from '../body/body';
import { LEFT, RIGHT } from '../body/roles';
import { sampleClip, type SampleOptions } from '../clip/sample';
import type { SetSpec } from '../directions/spec';
import { setMembers } from '../directions/set';
import { clipDocument, type ClipDocument } from '../formats/clip-info';
import { sidedGait } from '../gait/sides';
import type { GaitSpec } from '../gait/spec';
import { fitToFrames } from '../gait/timing';
import { toDegrees } from '../math/scalar';
import { cycleSchedule } from '../schedule/cycle';
import type { Schedule } from '../schedule/schedule';
import { createSolver, type Solver } from '../solve/solver';
import type { PlanSpec } from '../steps/plan';
import { aheadGait, straightSchedule } from '../steps/straight';

/** A motion that can be handed over: a gait on a schedule. */
export interface Motion {
  readonly name: string;
  readonly gait: GaitSpec;
  readonly schedule: (gait: GaitSpec, body: Body) => Schedule;
}

export const cycleMotion = (gait: GaitSpec): Motion => ({ name: gait.name, gait, schedule: cycleSchedule });

export const planMotion = (plan: PlanSpec, gait: GaitSpec): Motion => ({
  name: plan.name,
  gait: aheadGait(gait),
  schedule: (g, body) => straightSchedule(g, body, plan.steps, plan.firstFoot === 'left' ? LEFT : RIGHT),
});

export const setMotions = (set: SetSpec, gait: GaitSpec): Motion[] => setMembers(set, gait).map((m) => cycleMotion(m.gait));

export interface MadeClip {
  readonly document: ClipDocument;
  readonly solver: Solver;
  /** In words, what was changed or could not be solved exactly. */
  readonly notes: readonly string[];
}

/** Solves and samples a motion at a frame rate; a loop's stride time moves to the nearest whole number of frames and says so. */
export function makeClip(motion: Motion, body: Body, rate: number, options: SampleOptions & { inPlace: boolean }): MadeClip {
  const gait = fitToFrames(motion.gait, rate, options.hold);
  const solver = createSolver(body, gait, motion.schedule(gait, body));
  const clip = sampleClip(solver, rate, motion.name, options);
  const { timing, direction } = sidedGait(gait).gait;
  return { document: clipDocument(body, clip, timing, toDegrees(direction.travel), options.inPlace), solver, notes: notesOf(motion.gait, solver, rate) };
}

/** What an animator should know about a solved motion, one sentence each; empty when all went as asked. */
export function notesOf(asked: GaitSpec, solver: Solver, rate: number): string[] {
  const notes: string[] = [];
  const { gait, report, body } = solver;
  const frames = asked.timing.strideTime * rate;
  if (Math.abs(asked.timing.strideTime - gait.timing.strideTime) > 1e-9)
    notes.push(
      `A stride of ${asked.timing.strideTime.toFixed(4)} s is ${frames.toFixed(2)} frames at ${rate} fps; ${Math.round(gait.timing.strideTime * rate)} frames make it ${gait.timing.strideTime.toFixed(4)} s and the speed ${gait.timing.speed.toFixed(3)} m/s.`,
    );
  if (report.lowered > 0.12 * body.legLength)
    notes.push(`The hips are taken down by ${(report.lowered * 1000).toFixed(0)} mm so that the legs reach through the flights.`);
  if (report.tooFar > 1e-6)
    notes.push(`A foot lies up to ${(report.tooFar * 1000).toFixed(0)} mm out of the leg's reach: the leg points at it and the foot floats.`);
  if (report.tooNear < -1e-6) notes.push(`A foot comes up to ${(-report.tooNear * 1000).toFixed(0)} mm closer than the knee can fold.`);
  if (report.handMissed > 1e-6) notes.push(`A hand stays ${(report.handMissed * 1000).toFixed(0)} mm short of the handle, which is out of the arm's reach.`);
  if (report.armsClose > 1e-3) notes.push(`An arm comes ${(report.armsClose * 1000).toFixed(0)} mm closer to the body than its clearance.`);
  return notes;
}
