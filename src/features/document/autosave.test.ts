import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newProjectItems } from '@/core/project/contents';
import type { GaitSpec } from '@/core/gait/spec';
import type { Item } from '@/core/project/kinds';
import { addGait, removeGait } from '../library/actions';
import { startAutosave } from './autosave';
import { keepMine, keepMineAsNew, takeTheirs } from './conflicts';
import { idsOf, soleItem, specOf } from './context';
import { loadHistory } from './history-storage';
import { findKeptWork, isStored, takeUp } from './kept-work';
import { createDocument, editItem, redo, undo, type Batch, type DocumentStore } from './store';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];
const gaitId = items.find((i) => i.kind === 'gait')!.id;
const planId = items.find((i) => i.kind === 'plan')!.id;
const steps = (store: DocumentStore) => soleItem(store.getState(), 'plan').spec.steps!;
const setSteps = (store: DocumentStore, v: number) => editItem<'plan'>(store, planId, 'steps', (p) => void (p.steps = v));
const setName = (store: DocumentStore, name: string, id = gaitId) => editItem<'gait'>(store, id, 'name', (g) => void (g.name = name));

/** A server of one project in memory that answers as the real one does; `lose` drops its answers after they are done. */
function fakeServer(start: readonly Item[] = items) {
  const rows = new Map(start.map((i) => [i.id, { version: i.version, spec: i.spec as Item['spec'] | null, kind: i.kind }]));
  const done = new Map<string, object>();
  const state = { mode: 'well' as 'well' | 'away' | 'lose', gone: false, asked: [] as Batch[], refuse: (_: Batch): boolean => false };
  const reply = (status: number, body: object) => {
    if (state.mode === 'lose') throw new TypeError('lost');
    return Promise.resolve(new Response(JSON.stringify(body), { status }));
  };
  const send: typeof fetch = (_, init) => {
    if (state.mode === 'away') return Promise.reject(new TypeError('network'));
    if (init?.method === 'HEAD') return Promise.resolve(new Response(null, { status: state.gone ? 404 : 200 }));
    const batch = JSON.parse(init!.body as string) as Batch;
    state.asked.push(batch);
    if (done.has(batch.token)) return reply(200, done.get(batch.token)!);
    if (state.refuse(batch)) return reply(422, { detail: 'steps: must be at most 200' });
    const conflicts = batch.changes.filter((c) => (rows.get(c.id)?.version ?? 0) !== c.version).map((c) => ({ id: c.id, ...rows.get(c.id)! }));
    if (conflicts.length > 0) return reply(409, { detail: 'changed elsewhere', conflicts });
    for (const c of batch.changes) rows.set(c.id, { version: c.version + 1, spec: c.spec, kind: c.kind });
    const answer = { versions: Object.fromEntries(batch.changes.map((c) => [c.id, c.version + 1])) };
    done.set(batch.token, answer);
    return reply(200, answer);
  };
  const elsewhere = (id: string, change: (spec: Item['spec']) => Item['spec'] | null) => {
    const row = rows.get(id)!;
    rows.set(id, { ...row, version: row.version + 1, spec: change(row.spec!) });
  };
  const present = () => [...rows].filter(([, r]) => r.spec).map(([id, r]) => ({ id, ...r })) as Item[];
  return { rows, state, send, elsewhere, present };
}

let ids = 0;
const start = (store: DocumentStore, server: ReturnType<typeof fakeServer>, windowId = 'w1') =>
  startAutosave(store, { send: server.send, newId: () => `token-${++ids}`, now: () => new Date(0), windowId });
const settle = () => vi.advanceTimersByTimeAsync(6000);

const storage = new Map<string, string>();
beforeEach(() => {
  vi.useFakeTimers();
  storage.clear();
  vi.stubGlobal('localStorage', {
    getItem: (k: string) => storage.get(k) ?? null,
    setItem: (k: string, v: string) => void storage.set(k, v),
    removeItem: (k: string) => void storage.delete(k),
    key: (i: number) => [...storage.keys()][i] ?? null,
    get length() {
      return storage.size;
    },
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('a project that was deleted elsewhere', () => {
  const conflicted = async () => {
    const server = fakeServer();
    const store = createDocument(items);
    const stop = start(store, server);
    server.elsewhere(planId, (spec) => ({ ...spec, name: 'Theirs' }));
    setSteps(store, 17);
    await settle();
    expect(Object.keys(store.getState().conflicts)).toEqual([planId]);
    return { server, store, stop };
  };

  it('is noticed while a conflict waits and nothing is sent', async () => {
    const { server, store, stop } = await conflicted();
    server.state.gone = true;
    await vi.advanceTimersByTimeAsync(16_000);
    expect(store.getState().save).toEqual({ kind: 'gone', message: expect.stringContaining('deleted in another window') as unknown });
    stop();
  });

  it('is told to who takes theirs, and goes on where it is still there', async () => {
    const there = await conflicted();
    takeTheirs(there.store, planId);
    await settle();
    expect([there.store.getState().save.kind, specOf(there.store.getState(), 'plan', planId).name]).toEqual(['saved', 'Theirs']);
    there.stop();
    const { server, store, stop } = await conflicted();
    server.state.gone = true;
    takeTheirs(store, planId);
    await settle();
    expect(store.getState().save.kind).toBe('gone');
    stop();
  });
});

describe('saving by itself', () => {
  it('sends all that changed as one, with the versions it was read at', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    const stop = start(store, server);
    setSteps(store, 14);
    setSteps(store, 15);
    setName(store, 'Round');
    await settle();
    expect(server.state.asked).toHaveLength(1);
    expect(server.state.asked[0]!.changes.map((c) => [c.id, c.version])).toEqual([
      [planId, 1],
      [gaitId, 1],
    ]);
    expect(store.getState()).toMatchObject({ save: { kind: 'saved' }, dirty: [], pending: null });
    setSteps(store, 16);
    await settle();
    expect(server.state.asked[1]!.changes).toMatchObject([{ version: 2, spec: { steps: 16 } }]);
    stop();
    // The steps come back after a reload with the same versions, and not with others.
    const reload = (list: readonly Item[]) => {
      const fresh = createDocument(list);
      loadHistory(fresh, list);
      return fresh.getState().undo.length;
    };
    expect([reload(server.present()), reload(items)]).toEqual([4, 0]);
  });

  it('knows its own save again when the answer was lost: no conflict, nothing twice', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    server.state.mode = 'lose';
    setSteps(store, 21);
    await vi.advanceTimersByTimeAsync(1000);
    expect(store.getState().save.kind).toBe('offline');
    setSteps(store, 22);
    server.state.mode = 'well';
    await settle();
    expect(store.getState()).toMatchObject({ save: { kind: 'saved' }, conflicts: {} });
    expect(server.rows.get(planId)).toMatchObject({ version: 3, spec: { steps: 22 } });
  });

  it('adding and removing are steps like any other, before and after they were saved', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    const spec = { ...specOf(store.getState(), 'gait', gaitId), name: 'Trot' } as GaitSpec;
    addGait(store, spec, 'new');
    undo(store);
    await settle();
    expect(server.state.asked.flatMap((b) => b.changes.map((c) => c.id))).not.toContain('new');
    redo(store);
    await settle();
    expect(server.rows.get('new')).toMatchObject({ version: 1, spec: { name: 'Trot' } });
    undo(store);
    await settle();
    expect([server.rows.get('new')!.spec, idsOf(store.getState(), 'gait').includes('new')]).toEqual([null, false]);
    // A reload in between: what was removed can still be made again.
    const fresh = createDocument(server.present());
    loadHistory(fresh, server.present());
    start(fresh, server, 'w2');
    redo(fresh);
    await settle();
    expect(server.rows.get('new')).toMatchObject({ version: 3, spec: { name: 'Trot' } });
    expect(server.state.asked.at(-1)!.changes.find((c) => c.id === 'new')).toMatchObject({ back: true });
    removeGait(fresh, 'new');
    await settle();
    undo(fresh);
    await settle();
    expect([fresh.getState().save.kind, server.rows.get('new')!.spec?.name]).toEqual(['saved', 'Trot']);
  });

  it('does not let a refused item hold up the others, and sends it again once it is changed', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    server.state.refuse = (b) => b.changes.some((c) => c.id === planId && (c.spec as { steps?: number }).steps === 999);
    setSteps(store, 999);
    setName(store, 'Saved all the same');
    await settle();
    expect(server.rows.get(gaitId)!.spec!.name).toBe('Saved all the same');
    expect(store.getState().save).toMatchObject({ kind: 'refused', message: 'steps: must be at most 200' });
    const asked = server.state.asked.length;
    await settle();
    expect(server.state.asked.length).toBe(asked);
    setSteps(store, 20);
    await settle();
    expect([store.getState().save.kind, server.rows.get(planId)!.version]).toEqual(['saved', 2]);
  });
});

describe('a conflict', () => {
  const met = async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    server.elsewhere(gaitId, (g) => ({ ...g, name: 'Theirs' }));
    setName(store, 'Mine');
    setSteps(store, 33);
    await settle();
    return { server, store };
  };
  const name = (store: DocumentStore, id = gaitId) => store.getState().specs[id]?.name;

  it('loses nothing, holds up nothing else, and never writes over the other window', async () => {
    const { server, store } = await met();
    expect([name(store), server.rows.get(gaitId)!.spec!.name]).toEqual(['Mine', 'Theirs']);
    expect(server.rows.get(planId)).toMatchObject({ version: 2, spec: { steps: 33 } });
    setName(store, 'Mine still');
    setSteps(store, 34);
    await settle();
    expect([server.rows.get(gaitId)!.spec!.name, server.rows.get(planId)!.version]).toEqual(['Theirs', 3]);
    expect(store.getState().undo.length).toBe(4);
  });

  it('is ended by taking theirs; undo gives mine back, over theirs', async () => {
    const { server, store } = await met();
    takeTheirs(store, gaitId);
    await settle();
    expect([name(store), store.getState().dirty, store.getState().conflicts]).toEqual(['Theirs', [], {}]);
    undo(store);
    await settle();
    expect([name(store), server.rows.get(gaitId)!.spec!.name, server.rows.get(gaitId)!.version]).toEqual(['Mine', 'Mine', 3]);
    undo(store);
    undo(store);
    expect([name(store), steps(store)]).toEqual(['Walk', 10]);
  });

  it('is ended by keeping mine as a new one: both are there, and undo takes it back', async () => {
    const { server, store } = await met();
    keepMineAsNew(store, gaitId, 'mine-id', 'Walk (mine)');
    await settle();
    expect([name(store), name(store, 'mine-id'), soleItem(store.getState(), 'project').spec.gait]).toEqual(['Theirs', 'Walk (mine)', 'mine-id']);
    expect([server.rows.get(gaitId)!.spec!.name, server.rows.get('mine-id')!.spec!.name]).toEqual(['Theirs', 'Walk (mine)']);
    undo(store);
    await settle();
    expect([name(store), server.rows.get('mine-id')!.spec]).toEqual(['Mine', null]);
  });

  it('over something removed elsewhere can bring it back or let it go', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    server.elsewhere(gaitId, () => null);
    setName(store, 'Mine');
    await settle();
    keepMine(store, gaitId);
    await settle();
    expect(server.rows.get(gaitId)).toMatchObject({ version: 3, spec: { name: 'Mine' } });
    server.elsewhere(gaitId, () => null);
    setName(store, 'Again');
    await settle();
    takeTheirs(store, gaitId);
    await settle();
    expect([name(store), store.getState().save.kind, server.rows.get(gaitId)!.spec]).toEqual([undefined, 'saved', null]);
  });

  it('of the project’s own record joins what both changed', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    server.elsewhere('project-1', (p) => ({ ...p, name: 'Renamed there' }));
    const other = idsOf(store.getState(), 'gait')[1]!;
    editItem<'project'>(store, 'project-1', 'gait', (p) => void (p.gait = other));
    await settle();
    expect(server.rows.get('project-1')).toMatchObject({ version: 3, spec: { name: 'Renamed there', gait: other } });
    expect(store.getState().conflicts).toEqual({});
  });
});

describe('work that could not be saved', () => {
  const offline = async () => {
    const server = fakeServer();
    const store = createDocument(items);
    const stop = start(store, server);
    server.state.mode = 'away';
    setSteps(store, 40);
    setSteps(store, 41);
    await vi.advanceTimersByTimeAsync(1000);
    stop();
    return server;
  };

  it('survives the closing of the tab with its undo steps, and is saved once it is taken up', async () => {
    const server = await offline();
    expect(findKeptWork('project-1', new Set(['w1']))).toEqual([]);
    const [kept] = findKeptWork('project-1', new Set());
    server.state.mode = 'well';
    const fresh = createDocument(server.present());
    start(fresh, server, 'w2');
    expect(isStored(fresh.getState(), kept!)).toBe(false);
    takeUp(fresh, kept!);
    expect(steps(fresh)).toBe(41);
    await settle();
    expect(server.rows.get(planId)).toMatchObject({ spec: { steps: 41 } });
    undo(fresh);
    expect(steps(fresh)).toBe(40);
  });

  it('meets what another window did since as a conflict', async () => {
    const server = await offline();
    server.state.mode = 'well';
    server.elsewhere(planId, (p) => ({ ...p, steps: 7 }) as Item['spec']);
    const fresh = createDocument(server.present());
    start(fresh, server, 'w2');
    takeUp(fresh, findKeptWork('project-1', new Set())[0]!);
    await settle();
    expect(fresh.getState().conflicts[planId]).toMatchObject({ spec: { steps: 7 } });
    keepMine(fresh, planId);
    await settle();
    expect(server.rows.get(planId)).toMatchObject({ spec: { steps: 41 } });
    undo(fresh);
    expect(steps(fresh)).toBe(40);
  });

  it('is not offered where it was saved after all, and knows a save again whose answer the tab did not live to hear', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    const stop = start(store, server);
    server.state.mode = 'lose';
    setSteps(store, 50);
    await vi.advanceTimersByTimeAsync(1000);
    stop();
    server.state.mode = 'well';
    const kept = findKeptWork('project-1', new Set())[0]!;
    expect(isStored(createDocument(server.present()).getState(), kept)).toBe(true);
    // Opened from what was read before the save arrived, it is the same save and no conflict.
    const early = createDocument(items);
    start(early, server, 'w3');
    takeUp(early, kept);
    await settle();
    expect([early.getState().save.kind, early.getState().conflicts, server.rows.get(planId)!.version]).toEqual(['saved', {}, 2]);
  });

  it('is gone from the machine once it is saved, and broken leftovers do no harm', async () => {
    const server = fakeServer();
    const store = createDocument(items);
    start(store, server);
    server.state.mode = 'away';
    setSteps(store, 60);
    await vi.advanceTimersByTimeAsync(1000);
    expect(findKeptWork('project-1', new Set())).toHaveLength(1);
    server.state.mode = 'well';
    await settle();
    expect(findKeptWork('project-1', new Set())).toEqual([]);
    storage.set('nimbret:kept:project-1:w9', '{"items": 3');
    expect(findKeptWork('project-1', new Set())).toEqual([]);
  });
});
