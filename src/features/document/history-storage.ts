import type { Item } from '@/core/project/items';
import type { Step } from './history';
import type { DocumentState } from './store';

const key = (projectId: string): string => `nimbret:history:${projectId}`;
interface Stored {
  readonly versions: Readonly<Record<string, number>>;
  readonly undo: Step[];
  readonly redo: Step[];
}

/** Keeps undo and redo across a reload, together with the versions they belong to. */
export function saveHistory({ projectId, meta, undo, redo }: DocumentState): void {
  const stored: Stored = { versions: Object.fromEntries(Object.entries(meta).map(([id, m]) => [id, m.version])), undo: [...undo], redo: [...redo] };
  try {
    localStorage.setItem(key(projectId), JSON.stringify(stored));
  } catch {
    // A full or forbidden store costs the undo steps after a reload, nothing else.
  }
}

/** The steps kept for exactly these versions; none where another window has saved since. */
export function loadHistory(items: readonly Item[]): { undo: Step[]; redo: Step[] } {
  const none = { undo: [], redo: [] };
  try {
    const stored = JSON.parse(localStorage.getItem(key(items[0]!.id)) ?? 'null') as Stored | null;
    if (!stored || items.some((i) => stored.versions[i.id] !== i.version)) return none;
    // Marks are counted anew in every window: a step from before the reload must not swallow one made after it.
    const closed = (steps: Step[]) => steps.map((s) => ({ ...s, mark: null }));
    return { undo: closed(stored.undo), redo: closed(stored.redo) };
  } catch {
    return none;
  }
}
