import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { newProjectItems } from '@/core/project/contents';
import type { Item } from '@/core/project/items';
import { idsOf, specOf } from '../document/context';
import { gaitIdOf } from '../document/selectors';
import { createDocument, editItem } from '../document/store';
import { addGait, freeName, gaitFileName, readGaitFile, removeGait } from './actions';

let n = 0;
const items = newProjectItems('project-1', 'Test', () => `id-${++n}`).map((i) => ({ ...i, version: 1 })) as Item[];
const open = () => createDocument(items);

/** Answers of the server in turn; what was asked is kept. */
function server(...answers: { status: number; body?: unknown }[]) {
  const asked: string[] = [];
  vi.stubGlobal('fetch', (url: string, init: { method: string }) => {
    asked.push(`${init.method} ${url}`);
    const { status, body } = answers.shift()!;
    return Promise.resolve(new Response(body === undefined ? null : JSON.stringify(body), { status }));
  });
  return asked;
}
afterEach(() => vi.unstubAllGlobals());

describe('the gait library', () => {
  it('adds what the server took in, and takes it up', async () => {
    const asked = server({ status: 200, body: { id: 'new', version: 1 } });
    const store = open();
    const gait = { ...specOf(store.getState(), 'gait', gaitIdOf(store.getState())), name: 'Mine' };
    await addGait(store, gait);
    expect(asked).toEqual(['POST /api/projects/project-1/items/gait']);
    expect(gaitIdOf(store.getState())).toBe('new');
    expect(store.getState().specs['new']).toEqual(gait);
  });

  it('changes nothing where the server refuses', async () => {
    server({ status: 409, body: { detail: 'A project may have 300 of these.' } });
    const store = open();
    const before = store.getState();
    await expect(addGait(store, specOf(before, 'gait', gaitIdOf(before)))).rejects.toThrow('300 of these');
    expect(store.getState()).toBe(before);
  });

  it('removes a gait, goes on with another, and brings it back whole', async () => {
    const asked = server({ status: 204 }, { status: 204 });
    const store = open();
    const id = gaitIdOf(store.getState());
    const spec = store.getState().specs[id];
    const back = await removeGait(store, id);
    expect(idsOf(store.getState(), 'gait')).not.toContain(id);
    expect(gaitIdOf(store.getState())).toBe(idsOf(store.getState(), 'gait')[0]);
    await back();
    expect(store.getState().specs[id]).toBe(spec);
    expect(gaitIdOf(store.getState())).toBe(id);
    expect(asked.map((a) => a.split('/items/')[1])).toEqual([`gait/${id}`, `gait/${id}/restore`]);
  });

  it('does not remove what is still to be saved', async () => {
    const asked = server();
    const store = open();
    const id = gaitIdOf(store.getState());
    editItem<'gait'>(store, id, 'name', (g) => void (g.name = 'Changed'));
    await expect(removeGait(store, id)).rejects.toThrow('still being saved');
    expect(asked).toEqual([]);
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
