import { clamp } from '../math/scalar';
import type { GaitSpec } from '../gait/spec';
import type { Program } from './program';

/** So many steps before a print that is moved, or made later or earlier, and so many after it, share that. */
const SHARING = 4;
/** A print that is held to a time takes as many steps before it as it needs for each to change by no more than this (s). */
const GENTLE_S = 0.1;
/** So many steps before a print that is put in or left out, and so many from it on, share the way. */
const WAY_BEFORE = 2;
const WAY_AFTER = 4;
/** A step takes no less than this part of its time. */
const LEAST_TIME = 0.6;

/** Where a held print lies away from where the walk has it: m along the course and to its left, rad, s. */
export interface Shift {
  readonly along: number;
  readonly aside: number;
  readonly turn: number;
  readonly later: number;
}

/** What the user's hand says about each step, by its number. */
export interface StepEdits {
  /** Index of the gait it has for itself; null: the walk's. */
  gaitOf(step: number): number | null;
  /** Part of its length that steps put in and left out leave it. */
  wayOf(step: number): number;
  /** Time (s) by which it takes longer than `stepTime`. */
  stretchOf(step: number, stepTime: number): number;
  /** Time (s) both feet stay after its landing. */
  pauseOf(step: number): number;
  /** Where its print lies away from where the course has it. */
  shiftOf(step: number): Shift;
}

const NO_SHIFT: Shift = { along: 0, aside: 0, turn: 0, later: 0 };

/** A program's edits, told step by step; `held`: by how much the prints that are held must still be moved, which neighbours share. */
export function stepEdits({ edits, gaits }: Pick<Program, 'edits' | 'gaits'>, held: ReadonlyMap<number, Shift> = new Map()): StepEdits {
  const own = ownGaits({ edits });
  const gaitIndex = new Map(edits.flatMap((e) => (e.gait ? [[e.step, gaits.keys.length + own.indexOf(e.gait)] as const] : [])));
  const tempos = new Map(edits.map((e) => [e.step, e.tempo]));
  const pauses = new Map(edits.map((e) => [e.step, e.longer]));
  const ways = new Map<number, number>();
  for (const { step, added, leftOut } of edits) if (added || leftOut > 0) shareWay(ways, step, (added ? 1 : 0) - leftOut);
  const stretches = new Map<number, number>();
  for (const { step, later } of edits) shareTime(stretches, step, later);
  const timed = edits.filter((e) => e.held && e.held.time !== null).map((e) => e.step);
  for (const [step, { later }] of held) catchTime(stretches, step, later, Math.max(0, ...timed.filter((k) => k < step)));
  const shifts = new Map(edits.map((e) => [e.step, { along: e.along, aside: e.aside, turn: e.turn, later: 0 } satisfies Shift]));
  for (const [step, shift] of held) sharePlace(shifts, step, shift, held);
  return {
    gaitOf: (step) => gaitIndex.get(step) ?? null,
    wayOf: (step) => ways.get(step) ?? 1,
    stretchOf: (step, stepTime) => Math.max((stretches.get(step) ?? 0) + ((tempos.get(step) ?? 1) - 1) * stepTime, (LEAST_TIME - 1) * stepTime),
    pauseOf: (step) => pauses.get(step) ?? 0,
    shiftOf: (step) => shifts.get(step) ?? NO_SHIFT,
  };
}

/** Gaits that steps have for themselves, each once, in the order `gaitOf` counts them. */
export const ownGaits = ({ edits }: Pick<Program, 'edits'>): GaitSpec[] => [...new Set(edits.flatMap((e) => e.gait ?? []))];

/** The steps around a place share the way with `more` steps than there were. */
function shareWay(ways: Map<number, number>, step: number, more: number): void {
  const from = Math.max(1, step - WAY_BEFORE),
    to = step + WAY_AFTER - 1;
  const now = to - from + 1;
  const factor = clamp(now - more, 1, 2 * now) / now;
  for (let k = from; k <= to; k++) ways.set(k, (ways.get(k) ?? 1) * factor);
}

/** A landing comes later: the steps to it take longer, those after it make up for it. */
function shareTime(stretches: Map<number, number>, step: number, later: number): void {
  if (later === 0) return;
  const add = (k: number, by: number) => void stretches.set(k, (stretches.get(k) ?? 0) + by);
  const before = Math.min(SHARING, step);
  for (let k = step - before + 1; k <= step; k++) add(k, later / before);
  for (let k = step + 1; k <= step + SHARING; k++) add(k, -later / SHARING);
}

/** A landing comes later for good: the steps to it take longer, back to the one that is held before it. */
function catchTime(stretches: Map<number, number>, step: number, later: number, since: number): void {
  const before = Math.min(Math.max(SHARING, Math.ceil(Math.abs(later) / GENTLE_S)), step - since);
  for (let k = step - before + 1; k <= step; k++) stretches.set(k, (stretches.get(k) ?? 0) + later / before);
}

/** A held print is moved wholly, its neighbours by falling parts of it, up to the next one that is held. */
function sharePlace(shifts: Map<number, Shift>, step: number, { along, aside, turn }: Shift, held: ReadonlyMap<number, Shift>): void {
  const add = (k: number, part: number, turned: number) => {
    const was = shifts.get(k) ?? NO_SHIFT;
    shifts.set(k, { along: was.along + part * along, aside: was.aside + part * aside, turn: was.turn + turned, later: 0 });
  };
  add(step, 1, turn);
  for (const way of [-1, 1])
    for (let i = 1; i < SHARING; i++) {
      const k = step + way * i;
      if (k < 1 || held.has(k)) break;
      add(k, 1 - i / SHARING, 0);
    }
}
