import { describe, expect, it, vi } from 'vitest';
import { bodyOf } from '@/core/body/body';
import { parameterAt } from '@/core/gait/access';
import { newProjectItems } from '@/core/project/contents';
import type { Item } from '@/core/project/kinds';
import { gaitSpecSchema } from '@/core/gait/schema';
import { chooseBody, setCurve, setHeld, setParameter, setSplit, setTimingValue } from '../cycle/editing';
import { idsOf, soleItem, specOf } from './context';
import { freshMark } from './history';
import { loadHistory, saveHistory } from './history-storage';
import { createDocument, editItem, redo, undo } from './store';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];
const open = () => createDocument(items);
const gaitId = items.find((i) => i.kind === 'gait')!.id;
const planId = items.find((i) => i.kind === 'plan')!.id;
const steps = (store: ReturnType<typeof open>) => soleItem(store.getState(), 'plan').spec.steps!;
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
  it('keeps speed × stride time = stride length and takes what runs out of range to the nearest that does not, with a word', () => {
    const store = open();
    setTimingValue(store, gaitId, 'speed', 1.8, null);
    const { timing } = specOf(store.getState(), 'gait', gaitId);
    expect(timing.strideTime).toBe(1.05);
    expect(timing.strideLength).toBeCloseTo(1.89, 9);
    expect(setTimingValue(store, gaitId, 'speed', 1.8, null)).toBeNull();
    setHeld(store, gaitId, 'strideTime');
    expect(setTimingValue(store, gaitId, 'speed', 11, null)).toBe('stride time held: at most 5.71 m/s');
    expect(specOf(store.getState(), 'gait', gaitId).timing).toMatchObject({ strideTime: 1.05, strideLength: 6 });
    expect(gaitSpecSchema.safeParse(specOf(store.getState(), 'gait', gaitId)).success).toBe(true);
  });

  it('leaves every gait as it is stored when another body steps on and off again', () => {
    const store = open();
    const before = store.getState().specs;
    const [marlo, pip] = idsOf(store.getState(), 'body');
    chooseBody(store, pip!);
    expect(store.getState().dirty).toEqual(['project-1']);
    chooseBody(store, marlo!);
    for (const id of idsOf(store.getState(), 'gait')) expect(store.getState().specs[id]).toBe(before[id]);
  });

  it('makes the gait one for the legs it is edited on: what is changed is what is seen', () => {
    const store = open();
    chooseBody(store, idsOf(store.getState(), 'body')[1]!);
    setParameter(store, gaitId, parameterAt('feet.lift')!, null, 0.08, null);
    const gait = specOf(store.getState(), 'gait', gaitId);
    expect([gait.feet.lift, gait.legLength]).toEqual([0.08, bodyOf(specOf(store.getState(), 'body', idsOf(store.getState(), 'body')[1]!)).legLength]);
    undo(store);
    expect(specOf(store.getState(), 'gait', gaitId).timing.strideLength).toBe(1.42);
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
    loadHistory(store, items);
    vi.unstubAllGlobals();
    setSteps(store, 12, 'lift#1');
    expect(store.getState().undo).toHaveLength(2);
  });

  it('of a hand-over kept before its fields were others are let go; all other steps stay', () => {
    const store = open();
    const asset = items.find((i) => i.kind === 'asset')!;
    setSteps(store, 11, null);
    editItem<'asset'>(store, asset.id, 'rate', (h) => void (h.rate = 25));
    const kept = new Map<string, string>();
    vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) });
    saveHistory(store.getState());
    loadHistory(store, items);
    expect(store.getState().undo.map((s) => s.label)).toEqual(['steps', 'rate']);
    for (const [key, text] of kept) kept.set(key, JSON.stringify({ ...(JSON.parse(text) as object), layout: undefined }));
    loadHistory(store, items);
    expect(store.getState().undo.map((s) => s.label)).toEqual(['steps']);
    vi.unstubAllGlobals();
  });
});
