import { bodyOf } from '../body/body';
import { LEFT, RIGHT, SIDE_NAMES, type Side } from '../body/roles';
import type { BodySpec } from '../body/spec';
import type { GaitSpec } from '../gait/spec';
import { buildGround } from '../ground/build';
import type { GroundSpec } from '../ground/spec';
import { own } from '../math/own';
import { clamp, toDegrees } from '../math/scalar';
import type { Foothold, Motion } from '../motion/motion';
import { quickWalk } from '../motion/solved';
import { createTargets, TARGETS_SIZE, threadTargets, type Targets } from '../solve/targets';
import { freeWalk } from './free';
import { createLeadSteps, type LeadCast, type LeadPlace, type LedStep } from './lead-step';
import type { FreePrintsSpec } from './print-spec';

/** Most steps looked ahead before the figure is taken to stop. */
const AHEAD = 6;
/** A figure that stands is planned to stand so long (s) on. */
const STANDS_S = 6;
/** How far (s) a piece goes, and its pictures a second. */
const SPAN_S = 2.4;
const RATE = 120;

/** What is to be planned: the last steps that are decided, where both feet stood before them, and where the figure is led `now` (s). */
export interface PieceAsk {
  readonly known: readonly LedStep[];
  readonly stands: readonly [LedStep, LedStep];
  readonly place: LeadPlace;
  readonly now: number;
}

/** A stretch of what a led figure does: targets of even pictures from `from` (s) on, its way (m) at each, and its footholds, in the lead's time. */
export interface LedPiece {
  readonly from: number;
  readonly rate: number;
  readonly count: number;
  readonly targets: Float64Array;
  readonly way: Float64Array;
  readonly footholds: readonly Foothold[];
}

/** A cast as data, for who plans elsewhere. */
export interface LeadCastSpec {
  readonly body: BodySpec;
  readonly ground: GroundSpec;
  /** Room of the bodies that stand on it. */
  readonly bodies: Readonly<Record<string, { readonly radius: number; readonly height: number }>>;
  readonly slow: GaitSpec;
  readonly fast: GaitSpec;
}

export const leadCast = ({ body, ground, bodies, slow, fast }: LeadCastSpec): LeadCast => ({
  body: bodyOf(body),
  ground: buildGround(ground, (id) => own(bodies, id) ?? null),
  slow,
  fast,
});

/** Steps to come if the lead stays where it is, until the figure stands. */
export function comingSteps(cast: LeadCast, last: LedStep, place: LeadPlace): LedStep[] {
  const deciding = createLeadSteps(cast);
  const steps: LedStep[] = [];
  for (let at = last; !at.rests; at = steps[steps.length - 1]!) steps.push(deciding.next(at, steps.length < AHEAD ? place : at.body, 0)!);
  return steps;
}

const PLAIN_IDS = { slow: 'slow', fast: 'fast' };

/** The last steps, and those to come, as a motion; its time is the lead's plus `shift`. Throws RangeError where the gaits cannot be led. */
export function pieceMotion(cast: LeadCast, { known, stands, place, now }: PieceAsk): { readonly motion: Motion; readonly shift: number } {
  const all = [...known, ...comingSteps(cast, known[known.length - 1]!, place)];
  const last = all[all.length - 1]!;
  // Whoever stands goes on standing: steps on the spot that are never seen keep it breathing.
  const away = createLeadSteps(cast).standing(last.body, Math.max(last.lands, now) + STANDS_S);
  const from = all[0]!.lands;
  const { course, free } = freeWalk(freePrintsOf(stands, [...all, ...away], from, PLAIN_IDS), cast.body.sole.breadth, (id) =>
    id === PLAIN_IDS.fast ? cast.fast : cast.slow,
  );
  const motion = quickWalk('led', cast.slow, cast.body, free.prints.length, all[0]!.side, { course, ground: cast.ground, free });
  return { motion, shift: motion.footholds(0, motion.duration).find((h) => h.step === 1)!.landing - from };
}

export function planPiece(cast: LeadCast, ask: PieceAsk): LedPiece {
  const { motion, shift } = pieceMotion(cast, ask);
  const from = ask.now;
  const count = SPAN_S * RATE + 1;
  const all = new Float64Array(count * TARGETS_SIZE),
    way = new Float64Array(count);
  const one: Targets = createTargets();
  for (let i = 0; i < count; i++) {
    const t = from + shift + i / RATE;
    motion.targets(t, one);
    all.set(one, i * TARGETS_SIZE);
    way[i] = motion.travelled(t);
  }
  const back = (h: Foothold): Foothold => ({ ...h, landing: h.landing - shift, leaving: h.leaving - shift });
  return { from, rate: RATE, count, targets: all, way, footholds: motion.footholds(0, motion.duration).map(back) };
}

/** Writes a piece's targets at a time (s): smoothly from picture to picture, so that what hangs from a hand is not shaken. */
export function readPiece({ from, rate, count, targets }: LedPiece, t: number, out: Targets): void {
  const place = clamp((t - from) * rate, 0, count - 1);
  const i = Math.min(count - 2, Math.floor(place));
  const at = (k: number) => clamp(k, 0, count - 1) * TARGETS_SIZE;
  threadTargets(targets, at(i - 1), at(i), at(i + 1), at(i + 2), place - i, out);
}

/** Steps as free prints, `from` s earlier. */
export function freePrintsOf(
  stands: readonly [LedStep, LedStep],
  steps: readonly LedStep[],
  from: number,
  ids: { readonly slow: string; readonly fast: string },
): FreePrintsSpec {
  const place = ({ x, z, heading }: LedStep) => ({ x, z, headingDeg: toDegrees(heading) });
  const stand = (side: Side) => place(stands.find((s) => s.side === side)!);
  return {
    stands: { left: stand(LEFT), right: stand(RIGHT) },
    prints: steps.map((s) => ({ ...place(s), foot: SIDE_NAMES[s.side], lands: s.lands - from, rests: s.rests, gait: s.fast ? ids.fast : null })),
  };
}
