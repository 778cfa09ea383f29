import { applyPatches, enablePatches, produceWithPatches, type Draft } from 'immer';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Item, ItemKind, SpecByKind } from '@/core/project/kinds';
import { pushStep, type Step } from './history';

enablePatches();

type Specs = Readonly<Record<string, Item['spec']>>;
interface Meta {
  readonly kind: ItemKind;
  /** Version the server is known to have; 0 where it has none yet. */
  readonly version: number;
}

export type SaveState = { readonly kind: 'saved' | 'saving' | 'waiting' } | { readonly kind: 'offline' | 'refused' | 'gone'; readonly message: string };

/** One change of a save, as the server takes it. */
export interface Change {
  readonly kind: ItemKind;
  readonly id: string;
  readonly version: number;
  readonly spec: Item['spec'] | null;
  readonly back?: true;
}

/** A save that was sent and not answered yet; sent again under the same token, it is known again. */
export interface Batch {
  readonly token: string;
  readonly changes: readonly Change[];
}

/** What another window made of an item meanwhile; `spec` null where it was removed. */
export interface Theirs {
  readonly version: number;
  readonly spec: Item['spec'] | null;
}

/** The document of one project: what is saved and undone. Camera, selection and playhead live elsewhere. */
export interface DocumentState {
  readonly projectId: string;
  /** Ids of all items known, in order; those not in `specs` are removed, or an addition taken back. */
  readonly order: readonly string[];
  readonly specs: Specs;
  readonly meta: Readonly<Record<string, Meta>>;
  /** What the server is known to hold; null where it was removed there. */
  readonly stored: Readonly<Record<string, Item['spec'] | null>>;
  readonly undo: readonly Step[];
  readonly redo: readonly Step[];
  /** Items changed since their last save. */
  readonly dirty: readonly string[];
  readonly pending: Batch | null;
  /** Items that another window changed too; they wait for a decision while the others are saved. */
  readonly conflicts: Readonly<Record<string, Theirs>>;
  readonly save: SaveState;
}

export type DocumentStore = StoreApi<DocumentState>;

export function createDocument(items: readonly Item[]): DocumentStore {
  return createStore<DocumentState>(() => ({
    projectId: items.find((i) => i.kind === 'project')!.id,
    order: items.map((i) => i.id),
    specs: Object.fromEntries(items.map((i) => [i.id, i.spec])),
    meta: Object.fromEntries(items.map((i) => [i.id, { kind: i.kind, version: i.version }])),
    stored: Object.fromEntries(items.filter((i) => i.version > 0).map((i) => [i.id, i.spec])),
    undo: [],
    redo: [],
    dirty: [],
    pending: null,
    conflicts: {},
    save: { kind: 'saved' },
  }));
}

export const touched = (patches: Step['patches']): string[] => [...new Set(patches.map((p) => String(p.path[0])))];

function withDirty(state: DocumentState, patches: Step['patches']): Pick<DocumentState, 'dirty'> {
  return { dirty: [...new Set([...state.dirty, ...touched(patches)])] };
}

/** Whether anything done here is not known to be stored. */
export const hasUnsaved = (s: DocumentState): boolean => s.dirty.length > 0 || s.pending !== null;

/** Changes specs as one undoable step. Edits with the same `mark` (one drag) become one step. */
export function edit(store: DocumentStore, label: string, recipe: (specs: Draft<Record<string, Item['spec']>>) => void, mark: string | null = null): void {
  const state = store.getState();
  const [specs, patches, inverse] = produceWithPatches(state.specs as Record<string, Item['spec']>, recipe);
  if (patches.length === 0) return;
  store.setState({
    specs,
    undo: pushStep(state.undo, { label, mark, where: globalThis.location?.pathname.split('/').pop(), patches, inverse }),
    redo: [],
    ...withDirty(state, patches),
  });
}

/** Changes one item's spec as one undoable step. */
export function editItem<K extends ItemKind>(
  store: DocumentStore,
  id: string,
  label: string,
  recipe: (spec: Draft<SpecByKind[K]>) => void,
  mark: string | null = null,
): void {
  edit(store, label, (specs) => recipe(specs[id] as Draft<SpecByKind[K]>), mark);
}

/** Takes the last step back and tells which that was; null where there is none. */
export function undo(store: DocumentStore): Step | null {
  const state = store.getState();
  const step = state.undo[state.undo.length - 1];
  if (!step) return null;
  store.setState({
    specs: applyPatches(state.specs, step.inverse),
    undo: state.undo.slice(0, -1),
    // A step taken back and made again must not swallow the next drag.
    redo: [...state.redo, { ...step, mark: null }],
    ...withDirty(state, step.inverse),
  });
  return step;
}

/** Makes the step taken back last again, and tells which that was. */
export function redo(store: DocumentStore): Step | null {
  const state = store.getState();
  const step = state.redo[state.redo.length - 1];
  if (!step) return null;
  store.setState({
    specs: applyPatches(state.specs, step.patches),
    undo: [...state.undo, step],
    redo: state.redo.slice(0, -1),
    ...withDirty(state, step.patches),
  });
  return step;
}

/** Makes an id known to the document, so that an edit can put an item under it. */
function announce(store: DocumentStore, kind: ItemKind, id: string): void {
  store.setState((s) => (s.meta[id] ? s : { order: [...s.order, id], meta: { ...s.meta, [id]: { kind, version: 0 } } }));
}

/** Adds an item as a step that can be undone; `also` makes changes that belong to the same step. */
export function addItem<K extends ItemKind>(
  store: DocumentStore,
  kind: K,
  id: string,
  spec: SpecByKind[K],
  label: string,
  also: (specs: Draft<Record<string, Item['spec']>>) => void = () => {},
): void {
  announce(store, kind, id);
  edit(store, label, (specs) => {
    specs[id] = spec as Draft<Item['spec']>;
    also(specs);
  });
}
