import { applyPatches, enablePatches, produceWithPatches, type Draft } from 'immer';
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Item, ItemKind, SpecByKind } from '@/core/project/items';
import { pushStep, type Step } from './history';

enablePatches();

type Specs = Readonly<Record<string, Item['spec']>>;
interface Meta {
  readonly kind: ItemKind;
  readonly version: number;
}

export type SaveState = { readonly kind: 'saved' | 'saving' | 'waiting' } | { readonly kind: 'offline' | 'conflict' | 'refused'; readonly message: string };

/** The document of one project: what is saved and undone. Camera, selection and playhead live elsewhere. */
export interface DocumentState {
  readonly projectId: string;
  readonly order: readonly string[];
  readonly specs: Specs;
  readonly meta: Readonly<Record<string, Meta>>;
  readonly undo: readonly Step[];
  readonly redo: readonly Step[];
  /** Items changed since their last save. */
  readonly dirty: readonly string[];
  readonly save: SaveState;
}

export type DocumentStore = StoreApi<DocumentState>;

export function createDocument(items: readonly Item[]): DocumentStore {
  return createStore<DocumentState>(() => ({
    projectId: items[0]!.id,
    order: items.map((i) => i.id),
    specs: Object.fromEntries(items.map((i) => [i.id, i.spec])),
    meta: Object.fromEntries(items.map((i) => [i.id, { kind: i.kind, version: i.version }])),
    undo: [],
    redo: [],
    dirty: [],
    save: { kind: 'saved' },
  }));
}

const touched = (patches: Step['patches']): string[] => [...new Set(patches.map((p) => String(p.path[0])))];

function withDirty(state: DocumentState, patches: Step['patches']): Pick<DocumentState, 'dirty'> {
  return { dirty: [...new Set([...state.dirty, ...touched(patches)])] };
}

/** Changes specs as one undoable step. Edits with the same `mark` (one drag) become one step. */
export function edit(store: DocumentStore, label: string, recipe: (specs: Draft<Record<string, Item['spec']>>) => void, mark: string | null = null): void {
  const state = store.getState();
  const [specs, patches, inverse] = produceWithPatches(state.specs as Record<string, Item['spec']>, recipe);
  if (patches.length === 0) return;
  store.setState({ specs, undo: pushStep(state.undo, { label, mark, patches, inverse }), redo: [], ...withDirty(state, patches) });
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

export function undo(store: DocumentStore): void {
  const state = store.getState();
  const step = state.undo[state.undo.length - 1];
  if (!step) return;
  store.setState({
    specs: applyPatches(state.specs, step.inverse),
    undo: state.undo.slice(0, -1),
    // A step taken back and made again must not swallow the next drag.
    redo: [...state.redo, { ...step, mark: null }],
    ...withDirty(state, step.inverse),
  });
}

export function redo(store: DocumentStore): void {
  const state = store.getState();
  const step = state.redo[state.redo.length - 1];
  if (!step) return;
  store.setState({
    specs: applyPatches(state.specs, step.patches),
    undo: [...state.undo, step],
    redo: state.redo.slice(0, -1),
    ...withDirty(state, step.patches),
  });
}

/** Puts an item that the server has just made into the document. Not a step to undo: it is taken out again by removing it. */
export function addItem<K extends ItemKind>(store: DocumentStore, kind: K, id: string, version: number, spec: SpecByKind[K]): void {
  store.setState((s) => {
    // Items of a kind stay together, the new one last.
    const at = s.order.reduce((last, other, i) => (s.meta[other]!.kind === kind ? i + 1 : last), s.order.length);
    return {
      order: [...s.order.slice(0, at), id, ...s.order.slice(at)],
      specs: { ...s.specs, [id]: spec },
      meta: { ...s.meta, [id]: { kind, version } },
    };
  });
}

/** Takes an item out of the document, with the steps that touch it: they would bring back a part of something gone. */
export function dropItem(store: DocumentStore, id: string): void {
  store.setState((s) => {
    const without = <T>(record: Readonly<Record<string, T>>): Record<string, T> => Object.fromEntries(Object.entries(record).filter(([key]) => key !== id));
    const untouched = (steps: readonly Step[]) => steps.filter((step) => !touched(step.patches).includes(id));
    return {
      order: s.order.filter((o) => o !== id),
      specs: without(s.specs),
      meta: without(s.meta),
      undo: untouched(s.undo),
      redo: untouched(s.redo),
      dirty: s.dirty.filter((d) => d !== id),
    };
  });
}
