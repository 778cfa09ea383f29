import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { parameterAt } from '@/core/gait/access';
import { newProjectItems } from '@/core/project/contents';
import type { Item } from '@/core/project/items';
import { chooseBody, setCurve, setParameter, setSplit, setTimingValue } from '../cycle/editing';
import { startAutosave } from './autosave';
import { idsOf, soleItem, specOf } from './context';
import { freshMark } from './history';
import { loadHistory, saveHistory } from './history-storage';
import { addItem, createDocument, dropItem, editItem, redo, undo } from './store';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];
const open = () => createDocument(items);
const gaitId = items.find((i) => i.kind === 'gait')!.id;
const planId = items.find((i) => i.kind === 'plan')!.id;
const steps = (store: ReturnType<typeof open>) => soleItem(store.getState(), 'plan').spec.steps;
const setSteps = (store: ReturnType<typeof open>, v: number, mark: string | null = null) =>
  editItem<'plan'>(store, planId, 'steps', (p) => void (p.steps = v), mark);

describe('undo and redo', () => {
  it('take back single edits and whole drags, and make them again', () => {
    const store = open();
    setSteps(store, 12);
    for (const v of [13, 14, 15, 16]) setSteps(store, v, 'drag#1');
    for (const v of [17, 18]) setSteps(store, v, 'drag#2');
    const seen: number[] = [steps(store)];
    for (let i = 0; i < 4; i++) {
      undo(store);
      seen.push(steps(store));
    }
    expect(seen).toEqual([18, 16, 12, 10, 10]);
    redo(store);
    redo(store);
    expect(steps(store)).toBe(16);
    setSteps(store, 30);
    redo(store);
    expect(steps(store)).toBe(30);
  });

  it('do not join a drag with a step that was made again', () => {
    const store = open();
    setSteps(store, 12, 'drag#1');
    undo(store);
    redo(store);
    setSteps(store, 20, 'drag#1');
    undo(store);
    expect(steps(store)).toBe(12);
  });

  it('ignore edits that change nothing and keep the document whole under random play', () => {
    const store = open();
    setSteps(store, steps(store));
    expect(store.getState().undo.length).toBe(0);
    const before = store.getState().specs;
    for (let i = 0; i < 50; i++) setParameter(store, gaitId, parameterAt('hips.rise')!, 'amount', 0.001 * i, i % 3 === 0 ? null : `d${Math.floor(i / 6)}`);
    while (store.getState().undo.length > 0) undo(store);
    expect(store.getState().specs).toEqual(before);
  });
});

describe('editing a gait', () => {
  it('keeps speed × stride time = stride length and refuses what runs out of range', () => {
    const store = open();
    setTimingValue(store, gaitId, 'speed', 1.8, null);
    const { timing } = specOf(store.getState(), 'gait', gaitId);
    expect(timing.strideTime).toBe(1.05);
    expect(timing.strideLength).toBeCloseTo(1.89, 9);
    setTimingValue(store, gaitId, 'speed', 11, null);
    expect(specOf(store.getState(), 'gait', gaitId).timing.speed).toBeCloseTo(1.8, 9);
  });

  it('fits every gait when another body steps on, as one step', () => {
    const store = open();
    const pip = idsOf(store.getState(), 'body')[1]!;
    chooseBody(store, pip);
    expect(specOf(store.getState(), 'gait', gaitId).timing.strideLength).toBeLessThan(1.1);
    undo(store);
    expect(specOf(store.getState(), 'gait', gaitId).timing.strideLength).toBe(1.42);
  });
});

describe('saving by itself', () => {
  const storage = new Map<string, string>();
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal('localStorage', { getItem: (k: string) => storage.get(k) ?? null, setItem: (k: string, v: string) => void storage.set(k, v) });
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const reply = (status: number, body: object) => Promise.resolve(new Response(JSON.stringify(body), { status }));

  it('sends what changed with the version it was read at, and the next with the new one', async () => {
    const store = open();
    const send = vi.fn<typeof fetch>(() => reply(200, { version: 2 }));
    const stop = startAutosave(store, send);
    setSteps(store, 14);
    setSteps(store, 15);
    await vi.advanceTimersByTimeAsync(1000);
    expect(send).toHaveBeenCalledTimes(1);
    expect(JSON.parse(send.mock.calls[0]![1]!.body as string)).toMatchObject({ version: 1, spec: { steps: 15 } });
    expect(store.getState().save.kind).toBe('saved');
    setSteps(store, 16);
    await vi.advanceTimersByTimeAsync(1000);
    expect(JSON.parse(send.mock.calls[1]![1]!.body as string)).toMatchObject({ version: 2 });
    stop();
    // The steps come back after a reload with the same versions, and not with others.
    const saved = items.map((i) => ({ ...i, version: store.getState().meta[i.id]!.version }));
    expect(loadHistory(saved).undo.length).toBe(3);
    expect(loadHistory(items).undo.length).toBe(0);
  });

  it('keeps changes while the server is away and saves them when it is back', async () => {
    const store = open();
    let away = true;
    const send = vi.fn<typeof fetch>(() => (away ? Promise.reject(new TypeError('network')) : reply(200, { version: 2 })));
    const stop = startAutosave(store, send);
    setSteps(store, 21);
    await vi.advanceTimersByTimeAsync(1000);
    expect(store.getState().save.kind).toBe('offline');
    away = false;
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.getState().save.kind).toBe('saved');
    expect(store.getState().dirty).toEqual([]);
    stop();
  });

  it('never writes over another window’s work', async () => {
    const store = open();
    const send = vi.fn<typeof fetch>(() => reply(409, { detail: 'changed elsewhere', version: 7 }));
    const stop = startAutosave(store, send);
    setSteps(store, 31);
    await vi.advanceTimersByTimeAsync(1000);
    setSteps(store, 32);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(send).toHaveBeenCalledTimes(1);
    expect(store.getState().save.kind).toBe('conflict');
    expect(steps(store)).toBe(32);
    stop();
  });
});

describe('items that come and go', () => {
  it('a new gait stands after the others; taken out, it leaves no step behind that would bring a part of it back', () => {
    const store = open();
    const gaits = () => idsOf(store.getState(), 'gait');
    addItem(store, 'gait', 'new', 1, specOf(store.getState(), 'gait', gaitId));
    expect(gaits()[gaits().length - 1]).toBe('new');
    setSteps(store, 11);
    editItem<'gait'>(store, 'new', 'name', (g) => void (g.name = 'Mine'));
    expect(store.getState().dirty).toContain('new');
    dropItem(store, 'new');
    expect(gaits()).not.toContain('new');
    expect(store.getState().dirty).not.toContain('new');
    expect(store.getState().undo.map((s) => s.label)).toEqual(['steps']);
    undo(store);
    expect(store.getState().specs['new']).toBeUndefined();
  });
});

describe('left and right of a value', () => {
  it('are split with the value both had, edited apart, and joined again', () => {
    const store = open();
    const lift = parameterAt('feet.lift')!;
    const gait = () => specOf(store.getState(), 'gait', gaitId);
    setSplit(store, gaitId, lift, true);
    expect(gait().right['feet.lift']).toBe(gait().feet.lift);
    setParameter(store, gaitId, lift, null, 0.2, null, 'right');
    setParameter(store, gaitId, lift, null, 0.1, null, 'left');
    expect([gait().feet.lift, gait().right['feet.lift']]).toEqual([0.1, 0.2]);
    setSplit(store, gaitId, lift, false);
    expect(gait().right).toEqual({});
    setParameter(store, gaitId, lift, null, 0.05, null, 'right');
    expect(gait().feet.lift).toBe(0.05);
  });

  it('a curve is given, kept while the amount is 0, and taken back', () => {
    const store = open();
    const turn = parameterAt('hips.turn')!;
    const gait = () => specOf(store.getState(), 'gait', gaitId);
    setCurve(
      store,
      gaitId,
      turn,
      [
        { at: 0.6, value: -1, tangent: 'flat' },
        { at: 0.1, value: 1, tangent: 'held' },
      ],
      null,
    );
    setParameter(store, gaitId, turn, 'amount', 0, null);
    expect(gait().hips.turn.curve!.map((k) => k.at)).toEqual([0.1, 0.6]);
    setCurve(store, gaitId, turn, null, null);
    expect(gait().hips.turn.curve).toBeUndefined();
  });
});

describe('marks', () => {
  it('are never the same twice, and steps kept over a reload take in no later drag', () => {
    expect(freshMark('lift')).not.toBe(freshMark('lift'));
    const store = open();
    setSteps(store, 11, 'lift#1');
    const kept = new Map<string, string>();
    vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) });
    saveHistory(store.getState());
    store.setState(loadHistory(items));
    vi.unstubAllGlobals();
    setSteps(store, 12, 'lift#1');
    expect(store.getState().undo).toHaveLength(2);
  });
});
