import type { Body } from '../body/body';
import { SIDE_NAMES } from '../body/roles';
import { poseSize } from '../body/skeleton';
import type { GaitSpec } from '../gait/spec';
import { setTiming } from '../gait/timing';
import { GRAVITY, toDegrees } from '../math/scalar';
import type { Jolt, Motion, Shortcoming } from '../motion/motion';
import { cycle } from '../motion/solved';
import { createReach } from '../solve/reach';
import { createTargets } from '../solve/targets';
import { graceOfMotion } from './grace';
import { momentIn, partName, type Said, type Telling } from './moments';

/** Less out of reach (m) is none; arms that are so much (m) too close are said. */
const REACHED_M = 1e-6;
const CLOSE_M = 1e-3;

/** What looking a motion over found wrong with it: whose, by how much, when, and what would do. */
export function surveyNotes(asked: GaitSpec, motion: Motion, told: Telling): Said[] {
  const survey = motion.survey();
  const { tooFar, tooNear, handMissed, armsClose, kneeSnap } = survey;
  const said: Said[] = [];
  /** Tells of something that is worst at some moment. */
  const say = (what: Shortcoming, words: (moment: string, whose: string) => string) => {
    const { at, side } = survey.worst[what];
    said.push({ words: words(momentIn(motion, at, told), SIDE_NAMES[side ?? 0]), at });
  };
  if (tooFar > REACHED_M) {
    const reached = motion.repeat ? longestReached(asked, motion) : null;
    const would = reached === null ? '' : ` A stride of ${reached.toFixed(2)} m is reached.`;
    say(
      'tooFar',
      (when, side) => `The ${side} foot lies up to ${mm(tooFar)} mm out of the leg's reach ${when}: the leg points at it and the foot floats.${would}`,
    );
  }
  if (tooNear < -REACHED_M) say('tooNear', (when, side) => `The ${side} foot comes up to ${mm(-tooNear)} mm closer than the knee can fold ${when}.`);
  if (handMissed > REACHED_M)
    say('handMissed', (when) => `A hand stays ${mm(handMissed)} mm short of the handle ${when}, which is so much out of the arm's reach.`);
  if (armsClose > CLOSE_M) said.push({ words: `An arm comes ${mm(armsClose)} mm closer to the body than its clearance.` });
  const grace = graceOfMotion(asked, motion);
  const [down, up] = survey.hipsAcceleration;
  if (kneeSnap > grace.kneeSnap)
    say(
      'kneeSnap',
      (when, side) =>
        `The ${side} knee is jerked ${when}: it is turned at up to ${hundreds(kneeSnap)} °/s². ${smooth(kneeSnap, grace.kneeSnap, `${hundreds(grace.kneeSnap)} °/s²`)}`,
    );
  if (up > grace.hipsUp)
    say(
      'hipsUp',
      (when) => `The hips are jolted upward ${when} at up to ${up.toFixed(0)} m/s². ${smooth(up, grace.hipsUp, `${grace.hipsUp.toFixed(0)} m/s²`)}`,
    );
  if (-down > grace.hipsDown)
    say(
      'hipsDown',
      (when) => `The hips are pulled down ${when} at up to ${(-down).toFixed(1)} m/s². ${smooth(-down, grace.hipsDown, `${grace.hipsDown.toFixed(1)} m/s²`)}`,
    );
  const jolt = motion.repeat ? null : hardest(motion);
  if (jolt) {
    const { joint, most, at, times } = jolt;
    const when = momentIn(motion, at, told);
    said.push({
      words: `The ${partName(joint)} is jolted by ${most.toFixed(0)} m/s² ${when}: ${times.toFixed(0)} times what its gaits do on the level, ${JOLTED_TIMES} times played at ${slower(times, JOLTED_TIMES)} % of its speed.`,
      at,
    });
  }
  return said;
}

const mm = (m: number): string => (m * 1000).toFixed(0);
const hundreds = (rad: number): string => (Math.round(toDegrees(rad) / 100) * 100).toLocaleString('en');

/** Part (%) of its speed at which what is accelerated so much is accelerated less: it falls by the square. */
const slower = (most: number, bar: number): number => Math.floor(100 * Math.sqrt(bar / most));

/** What looks smooth, and what would do. */
const smooth = (most: number, bar: number, words: string): string => `${words} look smooth; played at ${slower(most, bar)} % of its speed it does.`;

/** Halvings of the search for a stride that is reached, the least part of the stride that is looked at, and looks at a cycle. */
const HALVINGS = 5;
const LEAST_PART = 0.3;
const LOOKS = 240;

const reachedBy = new WeakMap<GaitSpec, WeakMap<Body, number | null>>();

/** The longest stride (m) of a cycle that its legs reach, or a few centimetres less; null where a shorter one does not help. Kept with gait and body, which are never edited in place. */
function longestReached(asked: GaitSpec, { body }: Motion): number | null {
  const known = reachedBy.get(asked) ?? new WeakMap<Body, number | null>();
  reachedBy.set(asked, known);
  if (!known.has(body)) known.set(body, searchReached(asked, body));
  return known.get(body) ?? null;
}

function searchReached(asked: GaitSpec, body: Body): number | null {
  const reacher = createReach(body);
  const targets = createTargets();
  const pose = new Float64Array(poseSize(body.skeleton));
  const reaches = (part: number): boolean => {
    const shorter = cycle(setTiming(asked, 'strideLength', part * asked.timing.strideLength), body);
    for (let i = 0; i < LOOKS; i++) {
      shorter.targets((i / LOOKS) * shorter.duration, targets);
      reacher.reach(targets, pose, 0);
      if (reacher.short.tooFar > REACHED_M) return false;
    }
    return true;
  };
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
