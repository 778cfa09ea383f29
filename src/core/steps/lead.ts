import { LEFT, RIGHT, type Side } from '../body/roles';
import type { Heading } from '../course/printed';
import { clamp, lerp, smootherstep } from '../math/scalar';
import type { Motion } from '../motion/motion';
import { createReach } from '../solve/reach';
import { blendTargets, createTargets, TARGET, type Targets } from '../solve/targets';
import { comingSteps, freePrintsOf, pieceMotion, planPiece, readPiece, type LedPiece, type PieceAsk } from './lead-piece';
import { createLeadSteps, type LeadCast, type LeadPlace, type LedStep } from './lead-step';
import type { FreePrintsSpec } from './print-spec';

/** Steps behind that a piece of the walk is planned with: what was before them is forgotten by then (a pendulum forgets as e^(−ω t)). */
const BEHIND = 8;
/** So long (s) before a foot leaves its step is decided. */
const BEFORE_S = 0.09;
/** The figure goes over to a new piece within so long, s. */
const FADE_S = 0.32;
/** A piece of which less is left than this (s) is planned anew, not more often than every so many seconds. */
const LEFT_S = 1.4;
const AGAIN_S = 0.7;
/** Pieces that are kept: what is asked for lies in the last ones. */
const PIECES = 10;
/** Steps on the spot before everything, which are never seen: s. */
const BEFORE_ALL_S = -2;
/** When (s) the first step of a walk that is kept lands. */
const SETTING_OUT_S = 2;

/** A figure that is led: time goes forward, and each step is decided before its foot leaves. */
export interface Lead {
  /** What it does, as the walkway shows it. It has no end; the past may be asked for as far back as a few steps. */
  readonly motion: Motion;
  /** Leads it to a place, at a time (s) that never goes back. True where a step was decided. */
  lead(now: number, place: LeadPlace): boolean;
  /** Takes a piece that was asked for; the figure goes by it from `now` (s) on. */
  take(piece: LedPiece, now: number): void;
  /** Steps decided so far. */
  readonly steps: readonly LedStep[];
  /**
   * What it walked and still walks until it stands, as prints of a walk that begins standing, and when (s) in it what counts
   * begins; null where it has not walked.
   */
  walked(gaitIds: { readonly slow: string; readonly fast: string }): { readonly free: FreePrintsSpec; readonly from: number } | null;
  /** From now on is what counts. What was walked since it stood last is kept for the run-in. */
  forget(): void;
}

/** A piece, since when (s) the figure goes by it, and the way (m) before it. */
interface Taken {
  readonly piece: LedPiece;
  readonly since: number;
  readonly before: number;
}

/**
 * Someone who stands at a place and waits to be led. Pieces of the walk are asked for with `ask` and may come later: until
 * then the figure goes by what was planned before. Throws RangeError where its gaits cannot be led.
 */
export function createLead(cast: LeadCast, start: Heading, ask: (what: PieceAsk) => void): Lead {
  const { body } = cast;
  const deciding = createLeadSteps(cast);
  const decided: LedStep[] = [...deciding.standing(start, BEFORE_ALL_S)];
  let counted = 2;
  let since = -Infinity;
  const taken: Taken[] = [];
  let askedAt = -Infinity;

  function whatToPlan(place: LeadPlace, now: number): PieceAsk {
    const first = Math.max(0, decided.length - BEHIND);
    const known = decided.slice(first);
    const stand = (side: Side) => decided.slice(0, first).findLast((s) => s.side === side) ?? known.find((s) => s.side === side)!;
    return { known, stands: [stand(LEFT), stand(RIGHT)], place, now };
  }
  const plan = (place: LeadPlace, now: number) => {
    askedAt = now;
    ask(whatToPlan(place, now));
  };

  const latest = (): Taken => taken[taken.length - 1]!;
  const endOf = ({ piece }: Taken): number => piece.from + (piece.count - 1) / piece.rate;

  /** When the foot of the next step leaves, as it is planned now. */
  function leaves(): number {
    const last = decided[decided.length - 1]!;
    return latest().piece.footholds.findLast((h) => h.side !== last.side && h.landing < last.lands)?.leaving ?? Infinity;
  }

  let latestNow = 0;
  function lead(time: number, place: LeadPlace): boolean {
    const now = (latestNow = Math.max(latestNow, time));
    let some = false;
    for (;;) {
      const last = decided[decided.length - 1]!;
      const next = last.rests || leaves() <= now + BEFORE_S ? deciding.next(last, place, now) : null;
      if (!next) break;
      decided.push(next);
      some = true;
      if (last.rests) break;
    }
    if (some || (now > endOf(latest()) - LEFT_S && now > askedAt + AGAIN_S)) plan(place, now);
    return some;
  }

  const reacher = createReach(body);
  const asked = createTargets();
  const ahead = createTargets();
  const behind = Array.from({ length: PIECES }, createTargets);

  /** What piece `i` and those before it ask for at a time. */
  function targetsOf(i: number, t: number, out: Targets): void {
    const { piece, since } = taken[i]!;
    const weight = i === 0 ? 1 : smootherstep(since, since + FADE_S, t);
    if (weight >= 1) return readPiece(piece, t, out);
    targetsOf(i - 1, t, out);
    if (weight <= 0) return;
    readPiece(piece, t, ahead);
    behind[i]!.set(out);
    blendTargets(behind[i]!, ahead, weight, out);
  }

  function way(t: number): number {
    const { piece, before } = latest();
    const place = clamp((t - piece.from) * piece.rate, 0, piece.count - 1);
    const i = Math.min(piece.count - 2, Math.floor(place));
    return before + lerp(piece.way[i]!, piece.way[i + 1]!, place - i);
  }

  const first = whatToPlan(start, 0);
  taken.push({ piece: planPiece(cast, first), since: 0, before: 0 });
  const { motion: plain } = pieceMotion(cast, first);
  const motion: Motion = {
    ...plain,
    name: 'led',
    duration: Infinity,
    contacts: [],
    targets: (t, out) => targetsOf(taken.length - 1, t, out),
    pose(t, out, at) {
      targetsOf(taken.length - 1, t, asked);
      reacher.reach(asked, out, at);
    },
    place(t, out) {
      targetsOf(taken.length - 1, t, asked);
      out.set(asked.subarray(TARGET.root, TARGET.root + 4));
    },
    footholds: (from, to) => latest().piece.footholds.filter((h) => h.landing <= to && h.leaving >= from),
    travelled: way,
  };

  return {
    motion,
    lead,
    take(piece, now) {
      const before = way(now);
      taken.push({ piece, since: now, before: 0 });
      taken[taken.length - 1] = { ...latest(), before: before - way(now) };
      if (taken.length > PIECES) taken.shift();
    },
    get steps() {
      return decided.slice(counted);
    },
    walked(gaitIds) {
      const last = decided[decided.length - 1]!;
      if (decided.length === counted && last.rests) return null;
      const first = decided.findLastIndex((s, i) => i < counted && s.rests) + 1;
      const own = [...decided.slice(first), ...comingSteps(cast, last, last.body)];
      if (own.length < 2) return null;
      const begins = own[0]!.lands - SETTING_OUT_S;
      const stand = (side: Side) => decided.slice(0, first).findLast((s) => s.side === side)!;
      return { free: freePrintsOf([stand(LEFT), stand(RIGHT)], own, begins, gaitIds), from: Math.max(0, since - begins) };
    },
    forget() {
      counted = decided.length;
      since = latestNow;
    },
  };
}
