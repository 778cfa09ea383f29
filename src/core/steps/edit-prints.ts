import { clamp, toDegrees } from '../math/scalar';
import type { Foothold } from '../motion/motion';
import type { PlanSpec } from './plan';
import { EDIT_RANGES, MOST_LEFT_OUT, plainPrintEdit, STEP_COUNT_RANGE, type PrintEditSpec } from './print-spec';

/** A plan that may be written to. */
type Draft<T> = { -readonly [K in keyof T]: T[K] };

const NO_EDIT = JSON.stringify({ ...plainPrintEdit(1), step: 0 });
const changesNothing = (e: PrintEditSpec): boolean => JSON.stringify({ ...e, step: 0 }) === NO_EDIT;

/** The edit of a step; made where there is none yet. */
export function editOf(plan: Draft<PlanSpec>, step: number): PrintEditSpec {
  const known = plan.edits.find((e) => e.step === step);
  if (known) return known;
  plan.edits.push(plainPrintEdit(step));
  return plan.edits[plan.edits.length - 1]!;
}

/** To tenths of a millimetre, as places are told. */
const round = (v: number): number => Math.round(v * 1e4) / 1e4;

/** How a print is moved: m over the ground, degrees. */
export interface PrintMove {
  readonly x: number;
  readonly z: number;
  readonly turnDeg: number;
}

/**
 * Moves the print of a step from where it was in `before`: a free or held one over the ground, another in the frame of the
 * course, whose heading there is `heading` rad.
 */
export function movePrint(plan: Draft<PlanSpec>, before: PlanSpec, step: number, { x, z, turnDeg }: PrintMove, heading: number): void {
  const free = plan.free?.prints[step - 1],
    was = before.free?.prints[step - 1];
  if (free && was) {
    free.x = round(was.x + x);
    free.z = round(was.z + z);
    free.headingDeg = round(was.headingDeg + turnDeg);
    return;
  }
  const edit = editOf(plan, step);
  const from = before.edits.find((e) => e.step === step) ?? plainPrintEdit(step);
  if (edit.held && from.held) {
    edit.held.x = round(from.held.x + x);
    edit.held.z = round(from.held.z + z);
    if (from.held.headingDeg !== null) {
      edit.held.headingDeg = round(from.held.headingDeg + turnDeg);
      return;
    }
  } else {
    const [sin, cos] = [Math.sin(heading), Math.cos(heading)];
    edit.along = clamp(round(from.along + x * sin + z * cos), ...EDIT_RANGES.along);
    edit.aside = clamp(round(from.aside + x * cos - z * sin), ...EDIT_RANGES.aside);
  }
  edit.turnDeg = clamp(round(from.turnDeg + turnDeg), ...EDIT_RANGES.turnDeg);
}

const moveSteps = (plan: Draft<PlanSpec>, from: number, by: number): void => {
  plan.edits = plan.edits.map((e) => (e.step >= from ? { ...e, step: e.step + by } : e)).filter((e) => e.step <= STEP_COUNT_RANGE[1]);
};
const countSteps = (plan: Draft<PlanSpec>, by: number): void => {
  if (plan.steps !== null) plan.steps = clamp(plan.steps + by, ...STEP_COUNT_RANGE);
};

/** Puts a print in before that of a step; the feet change from there on, and the steps around share the way. */
export function addPrint(plan: Draft<PlanSpec>, step: number): void {
  moveSteps(plan, step, 1);
  editOf(plan, step).added = true;
  countSteps(plan, 1);
}

/** Takes a print out: one that was put in, or one of the walk's own; the steps around share the way. */
export function removePrint(plan: Draft<PlanSpec>, step: number): void {
  const own = plan.edits.find((e) => e.step === step);
  plan.edits = plan.edits.filter((e) => e.step !== step);
  moveSteps(plan, step + 1, -1);
  countSteps(plan, -1);
  const out = (own?.leftOut ?? 0) + (own?.added ? 0 : 1);
  if (out === 0) return;
  const next = editOf(plan, step);
  next.leftOut = Math.min(MOST_LEFT_OUT, next.leftOut + out);
}

/** Takes back all that was changed about some steps, the last one first. */
export function resetPrints(plan: Draft<PlanSpec>, steps: readonly number[]): void {
  for (const step of [...steps].sort((a, b) => b - a)) {
    const own = plan.edits.find((e) => e.step === step);
    if (!own) continue;
    plan.edits = plan.edits.filter((e) => e.step !== step);
    const more = own.leftOut - (own.added ? 1 : 0);
    if (more !== 0) {
      moveSteps(plan, step + (own.added ? 1 : 0), more);
      countSteps(plan, more);
    }
  }
}

/** Holds a print where and when it is; of a walk with a clock of its own, where alone: its times are not the walk's. */
export function holdPrint(plan: Draft<PlanSpec>, { step, x, z, heading, landing }: Foothold): void {
  editOf(plan, step).held = { x, z, headingDeg: toDegrees(heading), time: plan.clock ? null : landing };
}

/** Makes the steps to some prints take so many times as long; of free ones, all that follow land later by as much. */
export function scaleTimes(plan: Draft<PlanSpec>, steps: readonly number[], factor: number): void {
  if (!plan.free) {
    for (const step of steps) {
      const edit = editOf(plan, step);
      edit.tempo = clamp(edit.tempo * factor, ...EDIT_RANGES.tempo);
    }
    return;
  }
  const { prints } = plan.free;
  const was = prints.map((p) => p.lands);
  let lands = 0;
  prints.forEach((p, i) => {
    lands += (was[i]! - (was[i - 1] ?? 0)) * (steps.includes(i + 1) ? factor : 1);
    p.lands = lands;
  });
}

/** Free prints land after each other, at least so long, s. */
const LEAST_BETWEEN_S = 0.02;

/** Lets a free print land at another time (s), between its neighbours. */
export function landAt({ free }: Draft<PlanSpec>, step: number, time: number): void {
  const print = free!.prints[step - 1]!;
  print.lands = clamp(time, (free!.prints[step - 2]?.lands ?? 0) + LEAST_BETWEEN_S, (free!.prints[step]?.lands ?? Infinity) - LEAST_BETWEEN_S);
}

/** Left for right: some prints are moved and turned the other way. */
export function mirrorPrints(plan: Draft<PlanSpec>, steps: readonly number[]): void {
  for (const e of plan.edits) if (steps.includes(e.step)) [e.aside, e.turnDeg] = [-e.aside, -e.turnDeg];
}

/** What was changed about some prints, counted from the first of them, to be put elsewhere. */
export function copyPrints({ edits }: PlanSpec, steps: readonly number[]): PrintEditSpec[] {
  const first = Math.min(...steps);
  return [...steps]
    .sort((a, b) => a - b)
    .map((step) => ({ ...(edits.find((e) => e.step === step) ?? plainPrintEdit(step)), step: step - first, held: null, added: false, leftOut: 0 }));
}

/** Puts copied changes on the steps from one on; a gait that `known` does not know is left out. */
export function pastePrints(plan: Draft<PlanSpec>, copied: readonly PrintEditSpec[], from: number, known: (gait: string) => boolean): void {
  for (const c of copied) {
    const step = from + c.step;
    if (step > STEP_COUNT_RANGE[1]) break;
    const { held, added, leftOut } = editOf(plan, step);
    plan.edits = plan.edits.filter((e) => e.step !== step);
    const pasted = { ...c, step, held, added, leftOut, gait: c.gait !== null && known(c.gait) ? c.gait : null };
    if (!changesNothing(pasted)) plan.edits.push(pasted);
  }
}
