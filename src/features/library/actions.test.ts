import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { newProjectItems } from '@/core/project/contents';
import type { Item } from '@/core/project/kinds';
import { idsOf, specOf } from '../document/context';
import { gaitIdOf } from '../document/selectors';
import { createDocument, undo } from '../document/store';
import { addGait, freeName, gaitFileName, readGaitFile, removeGait } from './actions';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];
const open = () => createDocument(items);

describe('the gait library', () => {
  it('adds a gait and takes it up, takes one out and goes on with another, each as one step', () => {
    const store = open();
    const start = gaitIdOf(store.getState());
    addGait(store, { ...specOf(store.getState(), 'gait', start), name: 'Mine' }, 'new');
    expect([gaitIdOf(store.getState()), idsOf(store.getState(), 'gait').at(-1)]).toEqual(['new', 'new']);
    removeGait(store, 'new');
    expect([gaitIdOf(store.getState()), store.getState().undo.length]).toEqual([start, 2]);
    undo(store);
    expect(gaitIdOf(store.getState())).toBe('new');
    undo(store);
    expect([gaitIdOf(store.getState()), idsOf(store.getState(), 'gait').includes('new')]).toEqual([start, false]);
  });

  it('keeps the last gait', () => {
    const store = open();
    for (const id of idsOf(store.getState(), 'gait')) removeGait(store, id);
    expect(idsOf(store.getState(), 'gait')).toHaveLength(1);
  });

  it('reads a file of version 1 fitted to the body in use, and says in words what is wrong with others', async () => {
    const v1 = readFileSync(new URL('../../core/tests/files/sneak.v1.json', import.meta.url), 'utf8');
    const file = (text: string) => new File([text], 'gait.json');
    const gait = await readGaitFile(file(v1), 0.6);
    expect(gait).toMatchObject({ version: 3, name: 'Sneak', legLength: 0.6 });
    await expect(readGaitFile(file('{"format":'), 0.6)).rejects.toThrow('not JSON');
    await expect(readGaitFile(file('{"format":"nimbret.gait","version":2}'), 0.6)).rejects.toThrow(/gait\.json: .*timing/s);
    await expect(readGaitFile(file('x'.repeat(1_000_001)), 0.6)).rejects.toThrow('at most');
  });

  it('finds free names and safe file names', () => {
    expect([freeName('Walk', []), freeName('Walk', ['Walk']), freeName('Walk', ['Walk', 'Walk 2'])]).toEqual(['Walk', 'Walk 2', 'Walk 3']);
    expect(gaitFileName({ name: 'Bosun’s heavy / plod!' } as never, 'json')).toBe('bosun-s-heavy-plod.json');
  });
});
