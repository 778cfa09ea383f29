import { saveHistory } from './history-storage';
import type { DocumentStore, SaveState } from './store';

/** Quiet time (ms) after a change before it is saved, and the wait before trying again when offline. */
const DELAY_MS = 350;
const RETRY_MS = 2500;

/**
 * Saves changed items one by one with the version they were read at. Listens to the store and never calls the core. A
 * version conflict stops the saving for good: another window's work is never overwritten. Returns how to stop.
 */
export function startAutosave(store: DocumentStore, send: typeof fetch = fetch): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;
  let stopped = false;
  const tell = (save: SaveState) => store.setState({ save });
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void run(), ms);
  };

  async function run(): Promise<void> {
    if (running || stopped) return;
    running = true;
    try {
      for (let id = store.getState().dirty[0]; id !== undefined; id = store.getState().dirty[0]) {
        tell({ kind: 'saving' });
        if (!(await saveOne(id))) return;
      }
      tell({ kind: 'saved' });
      saveHistory(store.getState());
    } finally {
      running = false;
    }
  }

  async function saveOne(id: string): Promise<boolean> {
    const { projectId, specs, meta } = store.getState();
    const { kind, version } = meta[id]!;
    // What changes while the request is on its way is dirty again.
    store.setState((s) => ({ dirty: s.dirty.filter((d) => d !== id) }));
    const again = () => store.setState((s) => ({ dirty: [...new Set([...s.dirty, id])] }));
    let response: Response;
    try {
      response = await send(`/api/projects/${projectId}/items/${kind}/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ version, spec: specs[id] }),
        keepalive: true,
      });
    } catch {
      again();
      tell({ kind: 'offline', message: 'The server does not answer. Your changes are kept in this window and saved when it is back.' });
      later(RETRY_MS);
      return false;
    }
    const body = (await response.json().catch(() => ({}))) as { version?: number; detail?: string };
    if (response.ok) {
      store.setState((s) => ({ meta: { ...s.meta, [id]: { kind, version: body.version! } } }));
      return true;
    }
    again();
    if (response.status === 409 || response.status === 404) {
      stopped = true;
      tell({ kind: 'conflict', message: body.detail ?? 'This project was changed in another window.' });
    } else if (response.status >= 500) {
      tell({ kind: 'offline', message: body.detail ?? 'The server met a fault; trying again.' });
      later(RETRY_MS);
    } else {
      tell({ kind: 'refused', message: body.detail ?? 'The server refused the change.' });
    }
    return false;
  }

  const unsubscribe = store.subscribe((state, before) => {
    if (state.specs === before.specs || stopped) return;
    if (state.save.kind === 'saved') tell({ kind: 'waiting' });
    later(DELAY_MS);
  });
  // Leaving the page must not cost the last change: it is sent at once, and outlives the page.
  const flush = () => {
    if (store.getState().dirty.length > 0) void run();
  };
  globalThis.addEventListener?.('pagehide', flush);
  return () => {
    flush();
    stopped = true;
    clearTimeout(timer);
    unsubscribe();
    globalThis.removeEventListener?.('pagehide', flush);
  };
}
