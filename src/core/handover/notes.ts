import type { GaitSpec } from '../gait/spec';
import type { Motion } from '../motion/motion';

/** What an animator should know of a motion, one sentence each; empty when all went as asked. `asked`: its gait before its stride was fitted to frames. */
export function notesOf(asked: GaitSpec, motion: Motion, rate: number): string[] {
  const notes: string[] = [];
  const { strideTime, pace } = motion;
  const survey = motion.survey();
  const mm = (m: number) => (m * 1000).toFixed(0);
  if (Math.abs(asked.timing.strideTime - strideTime) > 1e-9)
    notes.push(
      `A stride of ${asked.timing.strideTime.toFixed(4)} s is ${(asked.timing.strideTime * rate).toFixed(2)} frames at ${rate} fps; ${Math.round(strideTime * rate)} frames make it ${strideTime.toFixed(4)} s and the speed ${pace.speed.toFixed(3)} m/s.`,
    );
  if (survey.tooFar > 1e-6) notes.push(`A foot lies up to ${mm(survey.tooFar)} mm out of the leg's reach: the leg points at it and the foot floats.`);
  if (survey.tooNear < -1e-6) notes.push(`A foot comes up to ${mm(-survey.tooNear)} mm closer than the knee can fold.`);
  if (survey.handMissed > 1e-6) notes.push(`A hand stays ${mm(survey.handMissed)} mm short of the handle, which is out of the arm's reach.`);
  if (survey.armsClose > 1e-3) notes.push(`An arm comes ${mm(survey.armsClose)} mm closer to the body than its clearance.`);
  return notes;
}
