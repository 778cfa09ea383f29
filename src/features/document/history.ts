import type { Patch } from 'immer';

/** One undoable step: what it does and how it is taken back. `mark` joins the moves of one drag. */
export interface Step {
  readonly label: string;
  readonly mark: string | null;
  readonly patches: Patch[];
  readonly inverse: Patch[];
}

let marks = 0;

/** A mark no step has yet: what is edited with it becomes one step of its own. */
export const freshMark = (name: string): string => `${name}#${++marks}`;

/** Most steps kept. */
const DEPTH = 200;

/** Adds a step; one with the same mark as the last is squashed into it, so that a drag undoes as a whole. */
export function pushStep(undo: readonly Step[], step: Step): Step[] {
  const last = undo[undo.length - 1];
  if (last && step.mark !== null && last.mark === step.mark) {
    const joined = { ...step, patches: [...last.patches, ...step.patches], inverse: [...step.inverse, ...last.inverse] };
    return [...undo.slice(0, -1), joined];
  }
  return [...undo, step].slice(-DEPTH);
}
