import type { GaitSpec } from '../gait/spec';
import { setTiming, wholeFrames } from '../gait/timing';
import { SIDE_NAMES } from '../body/roles';
import type { Jolt, Motion, Shortcoming } from '../motion/motion';
import { cycle } from '../motion/solved';
import { GRAVITY, toDegrees, wrapPhase } from '../math/scalar';
import type { Crossing, Meeting } from '../measure/crossing';
import { frameShown, FROM_ZERO } from '../steps/frame-numbers';
import { cannotStep } from '../steps/steppable';
import { graceOfMotion } from './grace';

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
  /** When it is to be seen, s. */
  readonly at?: number;
}

/** In which frames notes are told: how many a second, and how they are numbered. */
interface Telling {
  readonly rate: number;
  readonly shot: typeof FROM_ZERO;
}

/**
 * What an animator should know of a motion, one sentence each; empty when all went as asked. `asked`: its gait before its stride was
 * fitted to frames; `rate`: at which limbs were looked at; `told`: the frames in which
 * it is told, those played or written.
 */
export function notesOf(asked: GaitSpec, motion: Motion, rate: number, crossing?: Crossing | null, told: Telling = { rate, shot: FROM_ZERO }): Note[] {
  const notes: Note[] = [];
  const fault = (words: string, at?: number) => notes.push({ kind: 'fault', words, ...(at === undefined ? {} : { at: Math.max(0, at) }) });
  const { strideTime, speed } = told.rate === rate ? { strideTime: motion.strideTime, speed: motion.pace.speed } : wholeFrames(asked.timing, told.rate);
  const survey = motion.survey();
  const mm = (m: number) => (m * 1000).toFixed(0);
  // Of a walk each step has its own time; what a gait's stride was rounded to tells nothing of it.
  if (motion.repeat && Math.abs(asked.timing.strideTime - strideTime) > 1e-9)
    notes.push({
      kind: 'rounding',
      by: asked.timing.strideTime / strideTime - 1,
      words: `A stride of ${asked.timing.strideTime.toFixed(4)} s is ${(asked.timing.strideTime * told.rate).toFixed(2)} frames at ${told.rate} fps; ${Math.round(strideTime * told.rate)} frames make it ${strideTime.toFixed(4)} s and the speed ${speed.toFixed(3)} m/s.`,
    });
  /** Where something is worst, and whose it is. */
  const when = (at: number) => momentIn(motion, at, told);
  const worst = (what: Shortcoming) => when(survey.worst[what].at);
  const whose = (what: Shortcoming) => `The ${SIDE_NAMES[survey.worst[what].side ?? 0]}`;
  if (survey.tooFar > 1e-6) {
    const reached = motion.repeat ? longestReached(asked, motion) : null;
    fault(
      `${whose('tooFar')} foot lies up to ${mm(survey.tooFar)} mm out of the leg's reach ${worst('tooFar')}: the leg points at it and the foot floats.${reached === null ? '' : ` A stride of ${reached.toFixed(2)} m is reached.`}`,
      survey.worst.tooFar.at,
    );
  }
  if (survey.tooNear < -1e-6)
    fault(`${whose('tooNear')} foot comes up to ${mm(-survey.tooNear)} mm closer than the knee can fold ${worst('tooNear')}.`, survey.worst.tooNear.at);
  if (survey.handMissed > 1e-6)
    fault(
      `A hand stays ${mm(survey.handMissed)} mm short of the handle ${worst('handMissed')}, which is so much out of the arm's reach.`,
      survey.worst.handMissed.at,
    );
  if (survey.armsClose > 1e-3) fault(`An arm comes ${mm(survey.armsClose)} mm closer to the body than its clearance.`);
  const grace = graceOfMotion(asked, motion);
  const degrees = (rad: number) => (Math.round(toDegrees(rad) / 100) * 100).toLocaleString('en');
  if (survey.kneeSnap > grace.kneeSnap)
    fault(
      `${whose('kneeSnap')} knee is jerked ${worst('kneeSnap')}: it is turned at up to ${degrees(survey.kneeSnap)} °/s². ${degrees(grace.kneeSnap)} °/s² look smooth; ${slower(survey.kneeSnap, grace.kneeSnap)}.`,
      survey.worst.kneeSnap.at,
    );
  const [down, up] = survey.hipsAcceleration;
  if (up > grace.hipsUp)
    fault(
      `The hips are jolted upward ${worst('hipsUp')} at up to ${up.toFixed(0)} m/s². ${grace.hipsUp.toFixed(0)} m/s² look smooth; ${slower(up, grace.hipsUp)}.`,
      survey.worst.hipsUp.at,
    );
  if (-down > grace.hipsDown)
    fault(
      `The hips are pulled down ${worst('hipsDown')} at up to ${(-down).toFixed(1)} m/s². ${grace.hipsDown.toFixed(1)} m/s² look smooth; ${slower(-down, grace.hipsDown)}.`,
      survey.worst.hipsDown.at,
    );
  const jolt = motion.repeat ? null : hardest(motion);
  if (jolt)
    fault(
      `The ${partName(jolt.joint)} is jolted by ${jolt.most.toFixed(0)} m/s² ${when(jolt.at)}: ${jolt.times.toFixed(0)} times what its gaits do on the level.`,
    );
  for (const { words, at } of crossingNotes(crossing ?? null, motion, rate, told)) fault(words, at);
  for (const { step, side, words, at } of cannotStep(motion))
    notes.push({
      kind: 'fault',
      cannot: true,
      ...(at === null ? {} : { at }),
      words: step === null ? `It ${words}.` : `Print ${step}${side === null ? '' : side === 0 ? ' L' : ' R'}: ${words}.`,
    });
  return notes;
}

/** What would do, where something is accelerated by more than looks smooth: played slower, all accelerations fall by the square. */
const slower = (most: number, smooth: number): string => `played at ${Math.floor(100 * Math.sqrt(smooth / most))} % of its speed it does`;

/** Halvings of the search for a stride that is reached, and the least part of the stride that is looked at. */
const HALVINGS = 7;
const LEAST_PART = 0.3;

/** The longest stride (m) of a cycle that its legs reach, to the centimetre below; null where a shorter stride does not help. */
function longestReached(asked: GaitSpec, { body }: Motion): number | null {
  const reaches = (part: number) => cycle(setTiming(asked, 'strideLength', part * asked.timing.strideLength), body).survey().tooFar <= 1e-6;
  if (!reaches(LEAST_PART)) return null;
  let [lo, hi] = [LEAST_PART, 1];
  for (let i = 0; i < HALVINGS; i++) {
    const mid = (lo + hi) / 2;
    if (reaches(mid)) lo = mid;
    else hi = mid;
  }
  return Math.floor(lo * asked.timing.strideLength * 100) / 100;
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
function crossingNotes(crossing: Crossing | null, motion: Motion, rate: number, told: Telling): { words: string; at: number }[] {
  if (!crossing) return [];
  const say = (what: string, depth: number, { frame, parts }: Meeting) =>
    depth > OVERLAP_MM && parts
      ? [{ words: `${what} by ${depth.toFixed(0)} mm: ${parts.map(partName).join(' and ')}, ${momentIn(motion, frame / rate, told)}.`, at: frame / rate }]
      : [];
  return [...say('Legs run into each other', crossing.legsMm, crossing.legs), ...say('An arm runs into the body', crossing.armsMm, crossing.arms)];
}

/** A moment in words: when, in which frame of those it is told in, and where in the motion that is. */
const momentIn = (motion: Motion, time: number, { rate, shot }: Telling): string =>
  `at ${Math.max(0, time).toFixed(2)} s, frame ${frameShown(shot, rate, Math.max(0, time))} at ${rate} a second (${whereIn(motion, time)})`;

/** Where in a motion: part of the stride where it repeats, else the print that landed last. */
function whereIn({ repeat, strideTime, duration, footholds }: Motion, time: number): string {
  if (repeat) return `${(100 * wrapPhase(time / strideTime)).toFixed(0)} % of a stride`;
  const landed = footholds(0, Math.min(time, duration)).filter((h) => h.landing <= time);
  const last = landed.reduce<(typeof landed)[number] | null>((a, h) => (!a || h.landing > a.landing ? h : a), null);
  return last ? `print ${last.step} ${last.side === 0 ? 'L' : 'R'}` : 'before the first print';
}

/** "leftUpperLeg" as "left upper leg". */
const partName = (joint: string): string => joint.replace(/([A-Z])/g, (c) => ` ${c.toLowerCase()}`);
