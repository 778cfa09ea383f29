import { GRAVITY } from '../math/scalar';
import type { Mark } from './marks';
import type { StepGait } from './step-gait';

/** The right foot lands this close (strides) to half way between two left ones, or the pattern is no walk's. */
const EVEN_PHASE = 0.15;
/** Faster than this (Froude number) no foot finds a tread. */
const MOST_FROUDE = 3.2;
/** A running leg goes down two treads a step where they are no higher than this together, parts of its length. Common practice. */
const TWO_TREADS_LEGS = 0.45;

/** Throws where a gait cannot go over treads and stones one by one. */
export function refusePieces({ steps, sided, speed }: StepGait, legLength: number): void {
  const refuse = (why: string) => {
    throw new RangeError(`plan: stairs and stones cannot be taken ${why}`);
  };
  if (steps.length === 1) refuse('with both feet at once');
  if (steps.flat().some((b) => b.hopped)) refuse('with a hop on every foot');
  if (Math.abs(steps[1]![0]!.start - steps[0]![0]!.start - 0.5) > EVEN_PHASE) refuse(`at a gallop (${sided.gait.name})`);
  if ((speed * speed) / (GRAVITY * legLength) > MOST_FROUDE) refuse(`at a sprint of ${speed.toFixed(1)} m/s`);
}

/** The piece a step goes to from the one at `i`, whose place on the course is `place` m: `full` is a whole step's way. */
export function nextPiece(marks: readonly Mark[], i: number, place: number, { gait, full }: { gait: StepGait; full: number }, legLength: number): number {
  let next = i + 1;
  const { kind, group } = marks[i]!;
  const wanted = place + full;
  const same = (k: number) => k < marks.length && marks[k]!.group === group;
  if (kind === 'tread') {
    // Two treads up a step are more than a running leg makes.
    const two = gait.flies && same(i + 2) && marks[i + 2]!.y <= marks[i]!.y && Math.abs(marks[i + 2]!.y - marks[i]!.y) <= TWO_TREADS_LEGS * legLength;
    return two ? i + 2 : next;
  }
  while (same(next + 1) && Math.abs(marks[next + 1]!.at - wanted) < Math.abs(marks[next]!.at - wanted)) next++;
  return next;
}
