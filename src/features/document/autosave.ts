import type { Item, ItemKind } from '@/core/project/kinds';
import { meet } from './conflicts';
import { saveHistory } from './history-storage';
import { keepWork } from './kept-work';
import { hasUnsaved, type Batch, type Change, type DocumentState, type DocumentStore, type SaveState } from './store';

/** Quiet time (ms) after a change before it is saved, the wait before trying again, and the longest wait for an answer. */
const DELAY_MS = 350;
const RETRY_MS = 2500;
const ANSWER_MS = 15_000;
/** A browser sends at most 64 KiB after a page is left. */
const OUTLIVES_BYTES = 60_000;
/** Items that are sent together, by the length of their text, and how many the server takes at once. */
const BATCH_CHARS = 400_000;
const BATCH_ITEMS = 300;

/** How often (ms) it is looked whether the project is still there while a conflict waits. */
const LOOK_MS = 15_000;
const GONE = 'This project was deleted in another window. Your work is kept on this machine.';

/** What autosave needs of the world around it. */
export interface Surroundings {
  readonly send: typeof fetch;
  readonly newId: () => string;
  readonly now: () => Date;
  readonly windowId: string;
}

interface Answer {
  readonly versions?: Readonly<Record<string, number>>;
  readonly conflicts?: readonly { readonly id: string; readonly version: number; readonly spec: Item['spec'] | null }[];
  readonly last?: ItemKind;
  readonly detail?: string;
}

/**
 * Saves what changed, all of it at once, each item with the version it was read at. A save whose answer is lost is sent again
 * under the same token. An item that another window changed waits for a decision; the others go on being saved. What cannot be
 * saved is kept on this machine. Returns how to stop.
 */
export function startAutosave(store: DocumentStore, around: Surroundings): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;
  let stopped = false;
  // What the server refuses is not sent again until it is changed.
  const held = new Map<string, unknown>();
  let refusal = '';
  const tell = (save: SaveState) => store.setState({ save });
  const keep = () => keepWork(store.getState(), around.windowId, around.now().toISOString());
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void run(), ms);
  };

  async function run(): Promise<void> {
    if (running || stopped) return;
    running = true;
    try {
      for (;;) {
        const batch = store.getState().pending ?? nextBatch(store, around.newId, held);
        if (!batch) break;
        tell({ kind: 'saving' });
        const outcome = await sendBatch(store, batch, around.send);
        if (outcome.kind === 'offline' || outcome.kind === 'gone') {
          tell(outcome);
          keep();
          if (outcome.kind === 'offline') later(RETRY_MS);
          else stopped = true;
          return;
        }
        if (outcome.kind === 'refused') {
          refusal = outcome.message;
          for (const { id, spec } of batch.changes) held.set(id, spec ?? undefined);
        }
      }
      const { dirty, specs } = store.getState();
      tell(dirty.some((id) => held.has(id) && held.get(id) === specs[id]) ? { kind: 'refused', message: refusal } : { kind: 'saved' });
      keep();
      saveHistory(store.getState());
    } finally {
      running = false;
    }
  }

  const unsubscribe = store.subscribe((state, before) => {
    // What was decided without anything to send, as taking theirs, is looked at as well.
    if (state.conflicts !== before.conflicts) lookNow();
    if (stopped || (state.specs === before.specs && state.conflicts === before.conflicts && state.pending === before.pending)) return;
    if (state.specs !== before.specs && state.save.kind === 'saved' && hasUnsaved(state)) tell({ kind: 'waiting' });
    if (!running || state.specs !== before.specs) later(DELAY_MS);
  });
  // Leaving the page must not cost the last change: it is kept here, and sent at once.
  const flush = () => {
    if (!hasUnsaved(store.getState())) return;
    keep();
    void run();
  };
  // With nothing to send, as while a conflict waits, nobody would hear that the project is gone.
  let looking = false;
  const look = async (): Promise<void> => {
    if (looking || stopped || running) return;
    looking = true;
    try {
      const { status } = await around.send(`/api/projects/${store.getState().projectId}`, {
        method: 'HEAD',
        cache: 'no-store',
        signal: AbortSignal.timeout(ANSWER_MS),
      });
      if (status !== 404 || stopped) return;
      tell({ kind: 'gone', message: GONE });
      keep();
      stopped = true;
    } catch {
      // Who does not answer now is asked again.
    } finally {
      looking = false;
    }
  };
  const waits = () => Object.keys(store.getState().conflicts).length > 0;
  const lookNow = () => void look();
  const looks = setInterval(() => waits() && lookNow(), LOOK_MS);
  globalThis.addEventListener?.('focus', lookNow);
  const ask = (e: Event) => {
    if (hasUnsaved(store.getState())) e.preventDefault();
  };
  globalThis.addEventListener?.('pagehide', flush);
  globalThis.addEventListener?.('beforeunload', ask);
  if (hasUnsaved(store.getState())) later(0);
  return () => {
    flush();
    stopped = true;
    clearTimeout(timer);
    clearInterval(looks);
    globalThis.removeEventListener?.('focus', lookNow);
    unsubscribe();
    globalThis.removeEventListener?.('pagehide', flush);
    globalThis.removeEventListener?.('beforeunload', ask);
  };
}

/** How an item stands against what the server is known to hold; null where there is nothing to save. */
function changeOf({ specs, stored, meta }: DocumentState, id: string): Change | null {
  const { kind, version } = meta[id]!;
  const spec = specs[id] ?? null;
  // Added and taken back before it was ever stored, or removed there already.
  if (spec === null && (version === 0 || stored[id] === null)) return null;
  return { kind, id, version, spec, ...(stored[id] === null && version > 0 ? { back: true as const } : {}) };
}

/** Takes what is to be saved next: all that changed but what waits for a decision. What changes on the way is dirty again. */
function nextBatch(store: DocumentStore, newId: () => string, held: ReadonlyMap<string, unknown>): Batch | null {
  const state = store.getState();
  const changes: Change[] = [];
  const taken = new Set<string>();
  let size = 0;
  const waits = (id: string) => state.conflicts[id] !== undefined || (held.has(id) && held.get(id) === state.specs[id]);
  for (const id of state.dirty.filter((d) => !waits(d))) {
    const change = changeOf(state, id);
    size += change ? JSON.stringify(change).length : 0;
    if ((size > BATCH_CHARS && changes.length > 0) || changes.length >= BATCH_ITEMS) break;
    taken.add(id);
    if (change) changes.push(change);
  }
  if (taken.size === 0) return null;
  const pending = changes.length > 0 ? { token: newId(), changes } : null;
  store.setState({ dirty: state.dirty.filter((d) => !taken.has(d)), pending });
  return pending;
}

type Outcome = { readonly kind: 'done' } | { readonly kind: 'offline' | 'gone' | 'refused'; readonly message: string };

/** Sends a save and notes its outcome in the document. */
async function sendBatch(store: DocumentStore, batch: Batch, send: typeof fetch): Promise<Outcome> {
  const body = JSON.stringify(batch);
  let response: Response;
  let answer: Answer;
  try {
    response = await send(`/api/projects/${store.getState().projectId}/changes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body,
      keepalive: body.length * 3 < OUTLIVES_BYTES || new Blob([body]).size < OUTLIVES_BYTES,
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    answer = (await response.json()) as Answer;
  } catch {
    return { kind: 'offline', message: 'The server does not answer. Your changes are kept on this machine and saved when it is back.' };
  }
  if (response.status >= 500) return { kind: 'offline', message: `${answer.detail ?? 'The server met a fault.'} Trying again.` };
  const again = () => store.setState((s) => ({ pending: null, dirty: [...new Set([...s.dirty, ...batch.changes.map((c) => c.id)])] }));
  if (response.ok) {
    settleBatch(store, batch, answer.versions ?? {});
    return { kind: 'done' };
  }
  again();
  if (response.status === 409 && answer.conflicts) {
    for (const { id, version, spec } of answer.conflicts) meet(store, id, { version, spec });
    return { kind: 'done' };
  }
  if (response.status === 404 && batch.changes.some((c) => c.version > 0)) return { kind: 'gone', message: GONE };
  if (answer.last) putBack(store, answer.last);
  else if (batch.changes.length > 1) {
    // One of them is refused: the first on its own, then the rest, so that it does not hold up the others.
    const first = batch.changes[0]!;
    store.setState((s) => ({ dirty: s.dirty.filter((d) => d !== first.id), pending: { token: `${batch.token.slice(0, 60)}-1`, changes: [first] } }));
    return { kind: 'done' };
  }
  return { kind: 'refused', message: answer.detail ?? 'The server refused the change.' };
}

function settleBatch(store: DocumentStore, batch: Batch, versions: Readonly<Record<string, number>>): void {
  store.setState((s) => ({
    pending: null,
    meta: { ...s.meta, ...Object.fromEntries(batch.changes.map((c) => [c.id, { kind: c.kind, version: versions[c.id] ?? c.version + 1 }])) },
    stored: { ...s.stored, ...Object.fromEntries(batch.changes.map((c) => [c.id, c.spec])) },
  }));
}

/** A removal that would have taken the last of a kind is taken back: another window removed the others. */
function putBack(store: DocumentStore, kind: ItemKind): void {
  store.setState((s) => {
    const back = s.order.filter((id) => s.meta[id]!.kind === kind && !s.specs[id] && s.stored[id]);
    return {
      specs: { ...s.specs, ...Object.fromEntries(back.map((id) => [id, s.stored[id]!])) },
      dirty: s.dirty.filter((id) => !back.includes(id)),
    };
  });
}
