'use client';
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useStore } from 'zustand';
import type { Item, ItemKind, SpecByKind } from '@/core/project/kinds';
import { startAutosave } from './autosave';
import { loadHistory } from './history-storage';
import { dropKeptWork, findKeptWork, isStored, type KeptWork } from './kept-work';
import { createDocument, type DocumentState, type DocumentStore } from './store';

const DocumentContext = createContext<DocumentStore | null>(null);
const KeptContext = createContext<{ readonly kept: readonly KeptWork[]; readonly done: (kept: KeptWork) => void }>({ kept: [], done: () => {} });

const LOCK = 'nimbret:window:';

/** Says that this window lives until the returned function is called: what it keeps is not offered to others meanwhile. */
function live(windowId: string): () => void {
  let end = () => {};
  const lasting = new Promise<void>((done) => (end = done));
  void navigator.locks?.request(LOCK + windowId, () => lasting);
  return end;
}

async function liveWindows(): Promise<ReadonlySet<string>> {
  const { held } = (await navigator.locks?.query()) ?? {};
  return new Set((held ?? []).flatMap((l) => (l.name?.startsWith(LOCK) ? [l.name.slice(LOCK.length)] : [])));
}

/** Holds one project's document for everything below, saves it, and finds what earlier windows could not save. */
export function DocumentProvider({ items, children }: { items: readonly Item[]; children: ReactNode }) {
  const [store] = useState(() => createDocument(items));
  const [kept, setKept] = useState<readonly KeptWork[]>([]);
  useEffect(() => {
    const windowId = crypto.randomUUID();
    const end = live(windowId);
    // Only now: the server knows no undo steps, and the first picture must be the one it sent.
    if (store.getState().undo.length === 0) loadHistory(store, items);
    const stop = startAutosave(store, { send: (...a) => fetch(...a), newId: () => crypto.randomUUID(), now: () => new Date(), windowId });
    let current = true;
    void liveWindows().then((others) => {
      if (!current) return;
      const found = findKeptWork(store.getState().projectId, new Set([...others, windowId]));
      for (const k of found) if (isStored(store.getState(), k)) dropKeptWork(k);
      setKept(found.filter((k) => !isStored(store.getState(), k)));
    });
    return () => {
      current = false;
      stop();
      end();
    };
  }, [store, items]);
  const done = useCallback((k: KeptWork) => {
    dropKeptWork(k);
    setKept((all) => all.filter((o) => o.key !== k.key));
  }, []);
  const offer = useMemo(() => ({ kept, done }), [kept, done]);
  return (
    <KeptContext.Provider value={offer}>
      <DocumentContext.Provider value={store}>{children}</DocumentContext.Provider>
    </KeptContext.Provider>
  );
}

/** Work that windows closed since could not save, and how to say that it is dealt with. */
export const useKeptWork = () => useContext(KeptContext);

export function useDocumentStore(): DocumentStore {
  const store = useContext(DocumentContext);
  if (!store) throw new Error('useDocumentStore must be called inside <DocumentProvider>');
  return store;
}

export const useDocument = <T,>(pick: (state: DocumentState) => T): T => useStore(useDocumentStore(), pick);

/** Ids of all items of a kind, in order. */
export function idsOf(state: DocumentState, kind: ItemKind): string[] {
  return state.order.filter((id) => state.meta[id]!.kind === kind && state.specs[id] !== undefined);
}

export const specOf = <K extends ItemKind>(state: DocumentState, _kind: K, id: string): SpecByKind[K] => state.specs[id] as SpecByKind[K];

/** The one item of a kind of which a project has one. */
export function soleItem<K extends ItemKind>(state: DocumentState, kind: K): { id: string; spec: SpecByKind[K] } {
  const id = idsOf(state, kind)[0]!;
  return { id, spec: specOf(state, kind, id) };
}
