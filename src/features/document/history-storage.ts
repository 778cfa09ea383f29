import type { Item, ItemKind } from '@/core/project/kinds';
import type { Step } from './history';
import { touched, type DocumentState, type DocumentStore } from './store';

const key = (projectId: string): string => `nimbret:history:${projectId}`;

/** An item that is not in the document but may be brought back by undo or redo. */
export interface Absent {
  readonly id: string;
  readonly kind: ItemKind;
  readonly version: number;
}

/**
 * Grows with every change of a spec's shape. What was kept under an older one is read through the schemas; a step is a change of
 * fields, so those of the kinds named here, whose fields were others then, are let go.
 */
export const LAYOUT = 2;
const RESHAPED: Readonly<Record<number, readonly ItemKind[]>> = { 2: ['asset'] };

/** Steps kept under a layout (1 where none was noted) that can still be made. */
export function stepsSince(layout: number | undefined, steps: readonly Step[], kindOf: (id: string) => ItemKind | undefined): Step[] {
  const reshaped = Object.entries(RESHAPED).flatMap(([since, kinds]) => (Number(since) > (layout ?? 1) ? kinds : []));
  return steps.filter((step) => touched(step.patches).every((id) => !reshaped.includes(kindOf(id)!)));
}

interface Stored {
  readonly layout?: number;
  readonly versions: Readonly<Record<string, number>>;
  readonly absent?: readonly Absent[];
  readonly undo: Step[];
  readonly redo: Step[];
}

/** Items known but removed, or whose addition was taken back. */
export const absentItems = ({ order, specs, meta }: DocumentState): Absent[] => order.filter((id) => !specs[id]).map((id) => ({ id, ...meta[id]! }));

/** Makes absent items known, so that a step can bring them back. */
export function knowAbsent(store: DocumentStore, absent: readonly Absent[]): void {
  store.setState((s) => {
    const fresh = absent.filter((a) => !s.meta[a.id]);
    return {
      order: [...s.order, ...fresh.map((a) => a.id)],
      meta: { ...s.meta, ...Object.fromEntries(fresh.map(({ id, kind, version }) => [id, { kind, version }])) },
      stored: { ...s.stored, ...Object.fromEntries(fresh.filter((a) => a.version > 0).map((a) => [a.id, null])) },
    };
  });
}

/** Marks are counted anew in every window: a step from before the reload must not swallow one made after it. */
export const closedSteps = (steps: readonly Step[]): Step[] => steps.map((s) => ({ ...s, mark: null }));

/** Keeps undo and redo across a reload, together with the versions they belong to. */
export function saveHistory(state: DocumentState): void {
  const { projectId, meta, undo, redo } = state;
  const stored: Stored = {
    layout: LAYOUT,
    versions: Object.fromEntries(Object.entries(meta).map(([id, m]) => [id, m.version])),
    absent: absentItems(state),
    undo: [...undo],
    redo: [...redo],
  };
  try {
    localStorage.setItem(key(projectId), JSON.stringify(stored));
  } catch {
    // A full or forbidden store costs the undo steps after a reload, nothing else.
  }
}

/** Takes up the steps kept for exactly these versions; none where another window has saved since. */
export function loadHistory(store: DocumentStore, items: readonly Item[]): void {
  try {
    const stored = JSON.parse(localStorage.getItem(key(store.getState().projectId)) ?? 'null') as Stored | null;
    if (!stored || items.some((i) => stored.versions[i.id] !== i.version)) return;
    knowAbsent(store, stored.absent ?? []);
    const usable = (steps: readonly Step[]) => closedSteps(stepsSince(stored.layout, steps, (id) => store.getState().meta[id]?.kind));
    store.setState({ undo: usable(stored.undo), redo: usable(stored.redo) });
  } catch {
    // Not readable is not there.
  }
}
