import type { Patch } from 'immer';

/** One undoable step: what it does and how it is taken back. `mark` joins the moves of one drag. */
export interface Step {
  readonly label: string;
  readonly mark: string | null;
  /** Last part of the address it was made at: its station. */
  readonly where?: string | undefined;
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
  if (last && step.mark !== null && last.mark === step.mark) return [...undo.slice(0, -1), joined(last, step)];
  return [...undo, step].slice(-DEPTH);
}

/**
 * Two moves of one drag as one step. What only sets values the drag has set before sets those; so a long drag keeps no more than
 * a short one.
 */
function joined(last: Step, step: Step): Step {
  const key = ({ path }: Patch): string => path.join('/');
  const kinds = new Map(last.patches.map((p, i) => [key(p), i]));
  const firstPlain = last.patches.findLastIndex((p) => p.op !== 'replace') + 1;
  const again = step.patches.every((p) => p.op === 'replace' && (kinds.get(key(p)) ?? -1) >= firstPlain);
  if (!again) return { ...step, patches: [...last.patches, ...step.patches], inverse: [...step.inverse, ...last.inverse] };
  const patches = [...last.patches];
  for (const p of step.patches) patches[kinds.get(key(p))!] = p;
  return { ...step, patches, inverse: last.inverse };
}
