import { courseAtDistance } from '../course/course';
import { askedPace, type AskedPace } from './asked-pace';
import type { LaidWalk } from './laid';
import { layStretch, leastRest, type Laying } from './laying';
import { marksAlong, type Mark } from './marks';
import { movesTo, NO_STEP_M } from './moves';
import { refusePieces } from './pieces-way';
import type { Program } from './program';
import { createRawSteps, REST_PACE, type RawSteps } from './raw-steps';
import { stepEdits, ownGaits, type StepEdits } from './step-edits';
import { createStepGaits, firstStepOf, type StepGaits } from './step-gait';
import { turningSteps } from './turning';

/** Looks (s) for the end of a rest that a track of pace asks for; a resting figure looks so far ahead for where it is to be. */
const REST_LOOK_S = 0.02;
const STEP_AHEAD_S = 0.5;
const MOST_STEPS = 20_000;
/** A stretch that comes to nothing is tried so often. */
const MOST_TRIES = 20;

type Goal = { readonly at: number; readonly kind: 'halt'; readonly rest: number } | { readonly at: number; readonly kind: 'turn'; readonly to: number };

/** Lays a walk out step by step: where and when each foot lands. `standing` s before the first lift-off. */
export function layWalk(program: Program, standing: number, edits: StepEdits = stepEdits(program)): LaidWalk {
  const { course, steps } = program;
  if (steps === 'endless') throw new RangeError('layWalk: an endless cycle has no steps to lay out');
  const asked = askedPace(program);
  const gaits = createStepGaits(program.gaits, ownGaits(program));
  const marks = marksAlong(program);
  if (marks.length > 0) for (const g of gaits.all) refusePieces(g, program.body.legLength);
  const opening = gaits.of(gaits.mixAt(0, 0));
  const first = firstStepOf(opening, steps.first);
  const raw = createRawSteps(program, gaits, first, asked, edits);
  const limit = steps.count ?? MOST_STEPS;
  const mover = { gaits, raw, marks, legLength: program.body.legLength, paced: asked !== null, limit };
  const laying: Laying = { stretches: [], first, index: first - 1, number: 0, s: 0, time: standing };
  const farMarks: Mark[] = [];
  for (const goal of goalsOf(program, gaits)) {
    const ended = goTo(goal);
    if (ended || laying.number >= limit) break;
    if (goal.kind === 'turn') turn(goal);
    else laying.time += Math.max(leastRest(laying), goal.rest);
  }
  if (laying.stretches.length === 0) throw new RangeError('plan: nothing is walked: the course is too short for a step, or its pace is 0');
  return { gaits, first, stretches: laying.stretches, slowed: raw.slowed(), farMarks };

  /** Walks up to a goal, resting where the tracks ask for it; true where the walk ends before it. */
  function goTo(goal: Goal): boolean {
    let tries = 0;
    while (laying.number < limit && goal.at - laying.s > NO_STEP_M) {
      const { raws, rested, farMarks: far } = movesTo(mover, laying, goal.at);
      farMarks.push(...far);
      layStretch(laying, raws, 'walk', rested || !Number.isFinite(goal.at) || laying.number + raws.length + 1 >= limit ? null : goal.at);
      if ((raws.length === 0 && tries++ > MOST_TRIES) || !rested) break;
      const again = restEnd(laying, asked, gaits);
      if (again === null) return true;
      laying.time = again;
    }
    // Who runs out of steps on the way does nothing of what waits there.
    return goal.at - laying.s > NO_STEP_M;
  }

  function turn({ at, to }: Goal & { kind: 'turn' }): void {
    const { angle } = course.turns.find((t) => t.from === at)!;
    laying.time += laying.stretches.length > 0 ? leastRest(laying) : 0;
    laying.s = at;
    layStretch(laying, turningSteps(turner(laying, gaits, raw, edits), at, to, angle), 'turn', to);
    laying.time += leastRest(laying);
  }
}

function turner({ time, s, index, number }: Laying, gaits: StepGaits, { fullLength }: RawSteps, edits: StepEdits) {
  const mix = gaits.mixAt(time, s);
  return { gait: gaits.of(mix), mix, index, fullLength, pauseOf: (nth: number) => edits.pauseOf(number + nth) };
}

/** Places of the course where a walk comes to rest, in order, its end last. */
function goalsOf({ course, steps, halts, faces, gaits: track }: Program, gaits: StepGaits): Goal[] {
  const counted = steps !== 'endless' && steps.count !== null;
  const end = counted ? Infinity : course.length;
  if (!counted && !Number.isFinite(end)) throw new RangeError('plan: a walk needs a number of steps or a course that ends');
  const rests = halts.map((h): Goal => ({ at: courseAtDistance(course, h.at), kind: 'halt', rest: h.rest }));
  // From one step a stride to two, or back, only over a rest: there is nothing between.
  const changes = track.keys.flatMap((k, i): Goal[] =>
    i > 0 && track.over === 'distance' && gaits.all[i]!.steps.length !== gaits.all[i - 1]!.steps.length
      ? [{ at: courseAtDistance(course, k.at), kind: 'halt', rest: 0 }]
      : [],
  );
  // Who does not look along the course need not turn with it.
  const turns = (faces ? [] : course.turns).map((t): Goal => ({ at: t.from, to: t.to, kind: 'turn' }));
  const goals = [...rests, ...changes, ...turns].sort((a, b) => a.at - b.at);
  return [...goals.filter((g) => g.at < end + 1e-9), { at: end, kind: 'halt', rest: 0 }];
}

/** When (s) the tracks ask a resting walk for steps again; null where they never do. */
function restEnd({ time, s, stretches }: Laying, asked: AskedPace | null, gaits: StepGaits): number | null {
  if (!asked || asked.until === null) return null;
  let t = time + leastRest({ stretches });
  while (asked.at(t, s, STEP_AHEAD_S) < REST_PACE * gaits.of(gaits.mixAt(t, s)).speed) {
    if (t > asked.until) return null;
    t += REST_LOOK_S;
  }
  return t;
}
