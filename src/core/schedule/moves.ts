import { shareSpan, slowDown } from './sharing';
import { stepTimeOf, type RawStep } from './laid';
import type { Laying } from './laying';
import type { Mark } from './marks';
import { nextPiece } from './pieces-way';
import type { RawSteps } from './raw-steps';
import type { StepGaits } from './step-gait';

/** From the short steps that pieces of footing ask for, steps grow by this part of a full one at most. */
const MOST_GROWTH = 0.4;
/** A rest that comes within this part of a step of where a walk ends is its end. */
const NEARLY_THERE = 0.7;
/** A step this short (m) is none. */
export const NO_STEP_M = 0.02;
/** Looks this far (m) past a piece, and past where a stretch ends, for the step that comes nearest. */
const PAST_PIECE_M = 0.8;
const PAST_END_M = 2.5;
/** What lies farther (legs) from foot to foot is said. */
const FAR_LEGS = 1.35;

/** What a stretch is made with. */
export interface Mover {
  readonly gaits: StepGaits;
  readonly raw: RawSteps;
  readonly marks: readonly Mark[];
  readonly legLength: number;
  /** Whether the tracks tell the pace, and so where it ends. */
  readonly paced: boolean;
  /** Steps of the whole walk at most. */
  readonly limit: number;
}

/** A stretch's steps, whether the tracks ended it, and the pieces it could not reach. */
export interface Moves {
  readonly raws: readonly RawStep[];
  readonly rested: boolean;
  readonly farMarks: readonly Mark[];
}

/** Steps of a stretch from where the walk is, up to `to` m of the course (Infinity: until steps or tracks end it). */
export function movesTo({ gaits, raw: steps, marks, legLength, paced, limit }: Mover, { s, time, index, number }: Readonly<Laying>, to: number): Moves {
  const raws: RawStep[] = [];
  const farMarks: Mark[] = [];
  const opening = gaits.mixAt(time, s);
  const closing = gaits.of(opening).steps.length > 1 ? 1 : 0;
  const left = limit - number - closing;
  let place = s,
    t = time;
  let rested = false;
  /** Raw steps until `end` is passed. */
  const towards = (end: number, beyond: number): RawStep[] => {
    const own: RawStep[] = [];
    let way = place,
      when = t;
    while (way < end + beyond && raws.length + own.length < left) {
      const nth = raws.length + own.length + 1;
      const raw = steps.next({ number: number + nth, index: index + nth, nth, from: way, t: when, opening });
      if (!raw) {
        rested = true;
        break;
      }
      const before = own[own.length - 1] ?? raws[raws.length - 1];
      if (before && before.share < raw.share - MOST_GROWTH) raw.share = before.share + MOST_GROWTH;
      raw.share = steps.withinTurn(raw, way);
      raw.share = steps.withinReach(raw, way, before);
      way += raw.share * raw.full;
      when += stepTimeOf(raw, before);
      raw.s = way;
      own.push(raw);
      if (raw.share * raw.full < 1e-6) break;
    }
    return own;
  };
  const commit = (own: readonly RawStep[]) => {
    for (const raw of own) {
      t += stepTimeOf(raw, raws[raws.length - 1]);
      raws.push(raw);
    }
    if (own.length > 0) place = own[own.length - 1]!.s;
  };
  let next = marks.findIndex((m) => m.at > s + NO_STEP_M);
  while (next >= 0 && next < marks.length && marks[next]!.at < to - NO_STEP_M && !rested && raws.length < left) {
    const mark = marks[next]!;
    const own = towards(mark.at, PAST_PIECE_M);
    const nearest = own.at(-1);
    // With no steps left to come there, nobody steps on it.
    if (rested || !nearest || mark.at - nearest.s > NEARLY_THERE * nearest.full) break;
    // Within a step of it, and from piece to piece, the foot goes straight there.
    const before = next > 0 && marks[next - 1]!.group === mark.group && marks[next - 1]!.at <= place + NO_STEP_M;
    const taken = before ? [own[0]!] : shareSpan(own, place, mark.at, false);
    const final = taken[taken.length - 1]!;
    if (before) {
      final.share = (mark.at - place) / final.full;
      if (mark.at - place > FAR_LEGS * legLength) farMarks.push(mark);
    }
    final.s = mark.at;
    final.onto = mark.onto;
    commit(taken);
    next = nextPiece(marks, next, place, final, legLength);
  }
  if (rested) return { raws, rested, farMarks };
  const own = towards(to, PAST_END_M);
  // Who is asked to rest all but there rests there.
  const latest = own.at(-1);
  if (rested && latest && to - latest.s < NEARLY_THERE * latest.full) rested = false;
  if (!Number.isFinite(to) || rested || raws.length + own.length >= left) {
    if (!rested || !paced) slowDown(own, place);
    commit(own);
  } else if (own.length > 0 && to - place > NO_STEP_M) commit(shareSpan(own, place, to, true));
  return { raws, rested, farMarks };
}
