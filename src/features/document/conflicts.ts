import { KINDS, mergedSpec, type Item } from '@/core/project/kinds';
import { addItem, edit, type DocumentStore, type Theirs } from './store';

const without = <T>(record: Readonly<Record<string, T>>, id: string): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([key]) => key !== id));

/** Notes what another window made of an item. Where the kind allows both changes are joined, else the item waits for a decision. */
export function meet(store: DocumentStore, id: string, theirs: Theirs): void {
  const { specs, stored, meta } = store.getState();
  const { kind } = meta[id]!;
  const mine = specs[id],
    base = stored[id];
  if (KINDS[kind].merges && mine && base && theirs.spec) {
    settle(store, id, theirs);
    store.setState((s) => ({ specs: { ...s.specs, [id]: mergedSpec(base, mine, theirs.spec!) } }));
  } else store.setState((s) => ({ conflicts: { ...s.conflicts, [id]: theirs } }));
}

/** From here on the server is known to hold theirs; what is done here is saved on top of it. */
function settle(store: DocumentStore, id: string, { version, spec }: Theirs): void {
  store.setState((s) => ({
    conflicts: without(s.conflicts, id),
    meta: { ...s.meta, [id]: { ...s.meta[id]!, version } },
    stored: { ...s.stored, [id]: spec },
  }));
}

/** Puts theirs in place of mine as a step: undo gives mine back. */
export function takeTheirs(store: DocumentStore, id: string): void {
  const theirs = store.getState().conflicts[id];
  if (!theirs) return;
  settle(store, id, theirs);
  edit(store, 'take theirs', (specs) => {
    if (theirs.spec) specs[id] = theirs.spec;
    else delete specs[id];
  });
  store.setState((s) => ({ dirty: s.dirty.filter((d) => d !== id || s.specs[id] !== s.stored[id]) }));
}

/** Saves mine over theirs, which stays among the saved states. */
export function keepMine(store: DocumentStore, id: string): void {
  const theirs = store.getState().conflicts[id];
  if (!theirs) return;
  settle(store, id, theirs);
  store.setState((s) => ({ dirty: [...new Set([...s.dirty, id])], specs: { ...s.specs } }));
}

/** Keeps mine beside theirs as a new item with the name given; the project works on it where it worked on the old one. */
export function keepMineAsNew(store: DocumentStore, id: string, newId: string, name: string): void {
  const { specs, meta, conflicts, projectId } = store.getState();
  const mine = specs[id];
  if (!mine || !conflicts[id]) return;
  const { kind } = meta[id]!;
  const { spec: theirs } = conflicts[id];
  settle(store, id, conflicts[id]);
  addItem(store, kind, newId, { ...mine, name } as Item['spec'], 'keep mine as a new one', (all) => {
    if (theirs) all[id] = theirs;
    else delete all[id];
    const project = all[projectId] as unknown as Record<string, unknown>;
    for (const field of KINDS.project.references) if (project[field] === id) project[field] = newId;
  });
  store.setState((s) => ({ dirty: s.dirty.filter((d) => d !== id) }));
}
