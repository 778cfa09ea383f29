import type { GaitSpec } from '../gait/spec';
import { wholeFrames } from '../gait/timing';
import type { Jolt, Motion } from '../motion/motion';
import { GRAVITY, toDegrees } from '../math/scalar';
import type { Crossing, Meeting } from '../measure/crossing';
import { cannotStep } from '../steps/steppable';
import { graceOf } from './grace';

/** Overlap of limbs (mm) from which on it is said. */
const OVERLAP_MM = 3;

/**
 * What an animator should know of a motion. `rounding`: the stride was fitted to whole frames, which is no fault; `by` is the
 * change of speed, a part of it. `fault`: something could not be done as asked.
 */
export interface Note {
  readonly kind: 'rounding' | 'fault';
  readonly words: string;
  readonly by?: number;
  /** True where nobody could step it as it lies. */
  readonly cannot?: boolean;
}

/**
 * What an animator should know of a motion, one sentence each; empty when all went as asked. `asked`: its gait before its stride was
 * fitted to frames; `rate`: at which limbs were looked at; `told`: the frames a second in which it is told, those played or written.
 */
export function notesOf(asked: GaitSpec, motion: Motion, rate: number, crossing?: Crossing | null, told = rate): Note[] {
  const notes: Note[] = [];
  const fault = (words: string) => notes.push({ kind: 'fault', words });
  const { strideTime, speed } = told === rate ? { strideTime: motion.strideTime, speed: motion.pace.speed } : wholeFrames(asked.timing, told);
  const survey = motion.survey();
  const mm = (m: number) => (m * 1000).toFixed(0);
  // Of a walk each step has its own time; what a gait's stride was rounded to tells nothing of it.
  if (motion.repeat && Math.abs(asked.timing.strideTime - strideTime) > 1e-9)
    notes.push({
      kind: 'rounding',
      by: asked.timing.strideTime / strideTime - 1,
      words: `A stride of ${asked.timing.strideTime.toFixed(4)} s is ${(asked.timing.strideTime * told).toFixed(2)} frames at ${told} fps; ${Math.round(strideTime * told)} frames make it ${strideTime.toFixed(4)} s and the speed ${speed.toFixed(3)} m/s.`,
    });
  if (survey.tooFar > 1e-6) fault(`A foot lies up to ${mm(survey.tooFar)} mm out of the leg's reach: the leg points at it and the foot floats.`);
  if (survey.tooNear < -1e-6) fault(`A foot comes up to ${mm(-survey.tooNear)} mm closer than the knee can fold.`);
  if (survey.handMissed > 1e-6) fault(`A hand stays ${mm(survey.handMissed)} mm short of the handle, which is out of the arm's reach.`);
  if (survey.armsClose > 1e-3) fault(`An arm comes ${mm(survey.armsClose)} mm closer to the body than its clearance.`);
  const grace = graceOf(asked, motion.body);
  const degrees = (rad: number) => (Math.round(toDegrees(rad) / 100) * 100).toLocaleString('en');
  if (survey.kneeSnap > grace.kneeSnap)
    fault(`A knee is jerked: it is turned at up to ${degrees(survey.kneeSnap)} °/s², ${degrees(grace.kneeSnap)} °/s² look smooth.`);
  const [down, up] = survey.hipsAcceleration;
  if (up > grace.hipsUp) fault(`The hips are jolted upward at up to ${up.toFixed(0)} m/s², ${grace.hipsUp} m/s² look smooth.`);
  if (-down > grace.hipsDown) fault(`The hips are pulled down at up to ${(-down).toFixed(1)} m/s², ${grace.hipsDown.toFixed(1)} m/s² look smooth.`);
  const jolt = motion.repeat ? null : hardest(motion);
  if (jolt)
    fault(
      `The ${partName(jolt.joint)} is jolted by ${jolt.most.toFixed(0)} m/s² at ${jolt.at.toFixed(2)} s, frame ${Math.round(jolt.at * told)} of ${told} a second (${whereIn(motion, jolt.at)}): ${jolt.times.toFixed(0)} times what its gaits do on the level.`,
    );
  for (const words of crossingNotes(crossing ?? null, motion, rate, told)) fault(words);
  for (const { step, side, words } of cannotStep(motion))
    notes.push({
      kind: 'fault',
      cannot: true,
      words: step === null ? `It ${words}.` : `Print ${step}${side === null ? '' : side === 0 ? ' L' : ' R'}: ${words}.`,
    });
  return notes;
}

/** From so many times what the gaits do on the level on a joint's acceleration is said; a joint that hardly moves there counts as moving so hard, m/s². */
const JOLTED_TIMES = 50;
const HARDLY_MPS2 = GRAVITY / 10;

/** The joint of a walk that is accelerated most against the same joint in the cycles of its gaits, where that is too much. */
function hardest({ survey, body }: Motion): (Jolt & { joint: string; times: number }) | null {
  const { jolts, level } = survey();
  // The root is where the travel is, no joint.
  const all = jolts.map((jolt, j) => ({ ...jolt, joint: body.skeleton.names[j]!, times: j === 0 ? 0 : jolt.most / Math.max(level[j]!, HARDLY_MPS2) }));
  const most = all.reduce<(typeof all)[number] | null>((a, b) => (!a || b.times > a.times ? b : a), null);
  return most && most.times > JOLTED_TIMES ? most : null;
}

/** Limbs that run into each other, in words, from 3 mm on: how deep, which, when. */
function crossingNotes(crossing: Crossing | null, motion: Motion, rate: number, told: number): string[] {
  if (!crossing) return [];
  const say = (what: string, depth: number, { frame, parts }: Meeting) =>
    depth > OVERLAP_MM && parts
      ? [
          `${what} by ${depth.toFixed(0)} mm: ${parts.map(partName).join(' and ')}, at ${(frame / rate).toFixed(2)} s, frame ${Math.round((frame / rate) * told)} of ${told} a second (${whereIn(motion, frame / rate)}).`,
        ]
      : [];
  return [...say('Legs run into each other', crossing.legsMm, crossing.legs), ...say('An arm runs into the body', crossing.armsMm, crossing.arms)];
}

/** Where in a motion: part of the stride where it repeats, else the print that landed last. */
function whereIn({ repeat, strideTime, duration, footholds }: Motion, time: number): string {
  if (repeat) return `${(100 * ((time / strideTime) % 1)).toFixed(0)} % of a stride`;
  const landed = footholds(0, Math.min(time, duration)).filter((h) => h.landing <= time);
  const last = landed.reduce<(typeof landed)[number] | null>((a, h) => (!a || h.landing > a.landing ? h : a), null);
  return last ? `print ${last.step} ${last.side === 0 ? 'L' : 'R'}` : 'before the first print';
}

/** "leftUpperLeg" as "left upper leg". */
const partName = (joint: string): string => joint.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
