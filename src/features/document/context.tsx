'use client';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import type { Item, ItemKind, SpecByKind } from '@/core/project/items';
import { startAutosave } from './autosave';
import { loadHistory } from './history-storage';
import { createDocument, type DocumentState, type DocumentStore } from './store';

const DocumentContext = createContext<DocumentStore | null>(null);

/** Holds one project's document for everything below and saves it. */
export function DocumentProvider({ items, children }: { items: readonly Item[]; children: ReactNode }) {
  const [store] = useState(() => createDocument(items));
  useEffect(() => {
    // Only now: the server knows no undo steps, and the first picture must be the one it sent.
    if (store.getState().undo.length === 0) store.setState(loadHistory(items));
    return startAutosave(store);
  }, [store, items]);
  return <DocumentContext.Provider value={store}>{children}</DocumentContext.Provider>;
}

export function useDocumentStore(): DocumentStore {
  const store = useContext(DocumentContext);
  if (!store) throw new Error('useDocumentStore must be called inside <DocumentProvider>');
  return store;
}

export const useDocument = <T,>(pick: (state: DocumentState) => T): T => useStore(useDocumentStore(), pick);

/** Ids of all items of a kind, in order. */
export function idsOf(state: DocumentState, kind: ItemKind): string[] {
  return state.order.filter((id) => state.meta[id]!.kind === kind);
}

export const specOf = <K extends ItemKind>(state: DocumentState, _kind: K, id: string): SpecByKind[K] => state.specs[id] as SpecByKind[K];

/** The one item of a kind of which a project has one. */
export function soleItem<K extends ItemKind>(state: DocumentState, kind: K): { id: string; spec: SpecByKind[K] } {
  const id = idsOf(state, kind)[0]!;
  return { id, spec: specOf(state, kind, id) };
}
