import { KINDS, type Item, type ItemKind } from '@/core/project/kinds';
import type { Step } from './history';
import { absentItems, closedSteps, knowAbsent, LAYOUT, stepsSince, type Absent } from './history-storage';
import { edit, touched, type Batch, type DocumentState, type DocumentStore } from './store';

/** Work of a window that could not be saved, kept on this machine until it is taken up or given up. */
export interface KeptWork {
  readonly key: string;
  /** Layout of the specs when it was kept. */
  readonly layout?: number;
  /** When it was kept, ISO 8601. */
  readonly at: string;
  readonly items: readonly { readonly id: string; readonly kind: ItemKind; readonly version: number; readonly spec: Item['spec'] | null }[];
  readonly pending: Batch | null;
  /** Versions of all items it was made on. */
  readonly versions: Readonly<Record<string, number>>;
  readonly absent: readonly Absent[];
  readonly undo: readonly Step[];
  readonly redo: readonly Step[];
}

const prefix = (projectId: string): string => `nimbret:kept:${projectId}:`;

/** Writes the unsaved work of a window; where nothing is unsaved, takes what was kept away. */
export function keepWork(state: DocumentState, windowId: string, at: string): void {
  const { projectId, dirty, pending, meta, specs, undo, redo } = state;
  const key = prefix(projectId) + windowId;
  const ids = [...new Set([...dirty, ...(pending?.changes.map((c) => c.id) ?? [])])];
  try {
    if (ids.length === 0) return localStorage.removeItem(key);
    const kept: Omit<KeptWork, 'key'> = {
      layout: LAYOUT,
      at,
      items: ids.map((id) => ({ id, ...meta[id]!, spec: specs[id] ?? null })),
      pending,
      versions: Object.fromEntries(Object.entries(meta).map(([id, m]) => [id, m.version])),
      absent: absentItems(state),
      undo,
      redo,
    };
    localStorage.setItem(key, JSON.stringify(kept));
  } catch {
    // A full or forbidden store: the work is still in this window, and leaving it asks.
  }
}

/** A kept spec in its present shape; one that cannot be read stays as it is, and the server will say so. */
function asNow(item: KeptWork['items'][number]): KeptWork['items'][number] {
  const read = item.spec === null ? null : KINDS[item.kind]?.schema.safeParse(item.spec);
  return read?.success ? { ...item, spec: read.data } : item;
}

/** Work kept by windows that are no longer open, latest first. `live` names the windows that are. */
export function findKeptWork(projectId: string, live: ReadonlySet<string>): KeptWork[] {
  const found: KeptWork[] = [];
  try {
    for (let i = 0; i < localStorage.length; i++) {
      const key = localStorage.key(i)!;
      if (!key.startsWith(prefix(projectId)) || live.has(key.slice(prefix(projectId).length))) continue;
      const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Omit<KeptWork, 'key'> | null;
      if (kept && Array.isArray(kept.items) && kept.items.length > 0) found.push({ ...kept, items: kept.items.map(asNow), key });
    }
  } catch {
    // Not readable is not there.
  }
  return found.sort((a, b) => (a.at < b.at ? 1 : -1));
}

/** One text for equal values, whatever the order of their keys. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1))) : v,
  );

/** Whether the document holds all of kept work already: it was saved in the end, only the window did not live to hear of it. */
export const isStored = ({ specs }: DocumentState, kept: KeptWork): boolean => kept.items.every((i) => canonical(specs[i.id] ?? null) === canonical(i.spec));

export function dropKeptWork({ key }: KeptWork): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // It will be offered again.
  }
}

/**
 * Lays kept work over the document. It is saved from the versions it was made on: where another window went on since, that
 * shows as a conflict. Its undo steps come along where everything they touch is as it was, else taking it up is one step.
 */
export function takeUp(store: DocumentStore, kept: KeptWork): void {
  const before = store.getState();
  const ids = new Set(kept.items.map((i) => i.id));
  const kinds = new Map(kept.items.map((i) => [i.id, i.kind]));
  const usable = (all: readonly Step[]) => stepsSince(kept.layout, all, (id) => kinds.get(id) ?? before.meta[id]?.kind);
  const [undo, redo] = [usable(kept.undo), usable(kept.redo)];
  const steps = [...undo, ...redo].flatMap((s) => touched(s.patches));
  // Steps that are here already, from before a reload, are the first of those kept.
  const known = before.undo.every((step, i) => undo[i] !== undefined && JSON.stringify(step.patches) === JSON.stringify(undo[i]!.patches));
  const whole = known && steps.every((id) => ids.has(id) || before.meta[id]?.version === kept.versions[id]);
  knowAbsent(store, kept.absent);
  store.setState((s) => ({
    order: [...s.order, ...kept.items.filter((i) => !s.meta[i.id]).map((i) => i.id)],
    meta: { ...s.meta, ...Object.fromEntries(kept.items.map(({ id, kind, version }) => [id, { kind, version }])) },
    pending: s.pending ?? kept.pending,
  }));
  edit(store, 'work kept on this machine', (specs) => {
    for (const { id, spec } of kept.items)
      if (spec) specs[id] = spec;
      else delete specs[id];
  });
  const onItsWay = (i: KeptWork['items'][number]) => kept.pending?.changes.some((c) => c.id === i.id && canonical(c.spec) === canonical(i.spec)) ?? false;
  const unsent = kept.items.filter((i) => !onItsWay(i)).map((i) => i.id);
  store.setState((s) => ({
    dirty: [...new Set([...s.dirty.filter((d) => !ids.has(d)), ...unsent])],
    specs: { ...s.specs },
    ...(whole ? { undo: closedSteps(undo), redo: closedSteps(redo) } : {}),
  }));
}
