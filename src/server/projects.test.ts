import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { QueryTypes } from 'sequelize';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import type { Item } from '@/core/project/kinds';
import { saveChanges } from './changes';
import { migrate, type Database } from './database';
import { fileSize } from './files';
import { createProject, deleteProject, duplicateProject, ensureDemoProject, listProjects, loadProject, openProject, restoreProject } from './projects';
import { jsonOf } from './models';
import { listSavedStates } from './revisions';
import { addItem, saveItem, setItemRemoved } from './single';
import { closeTestDatabase, openTestDatabase, problemOf } from './tests/database';

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase('projects');
  await migrate(db);
});
afterAll(() => closeTestDatabase(db));

describe('projects in MariaDB', () => {
  let id = '';
  let items: Item[] = [];
  const of = (kind: Item['kind']) => items.find((i) => i.kind === kind)!;
  beforeEach(async () => {
    id = (await createProject(db, 'Harbour steps')).id;
    items = await loadProject(db, id);
  });

  it('migrate once; a second run changes nothing', async () => {
    expect(await migrate(db)).toEqual([]);
  });

  it('start with three bodies, three gaits, a plan, a set and a hand-over, all valid', () => {
    expect(items.map((i) => i.kind)).toEqual(['project', 'body', 'body', 'body', 'gait', 'gait', 'gait', 'plan', 'set', 'asset']);
    expect(items.every((i) => i.version === 1)).toBe(true);
  });

  it('open with an item that cannot be read shown as broken, and never overwrite it', async () => {
    const [plan, second] = [of('plan') as Item<'plan'>, of('gait')];
    const { id: added } = await addItem(db, id, 'plan', { ...plan.spec, name: 'Whole' });
    const broken = JSON.stringify({ ...plan.spec, steps: -3 });
    await db.sequelize.query('UPDATE items SET spec = ? WHERE id = ?', { replacements: [broken, plan.id] });
    await db.sequelize.query('UPDATE items SET spec = ? WHERE id = ?', { replacements: ['{}', second.id] });
    const opened = await openProject(db, id);
    expect(opened.broken).toEqual([
      { id: second.id, kind: 'gait', name: second.spec.name },
      { id: plan.id, kind: 'plan', name: plan.spec.name },
    ]);
    expect(opened.items.filter((i) => i.kind === 'plan').map((i) => i.id)).toEqual([added]);
    await saveItem(db, id, 'plan', added, 1, { ...plan.spec, name: 'Still whole' });
    const [row] = await db.sequelize.query<{ spec: unknown }>('SELECT spec FROM items WHERE id = ?', { replacements: [plan.id], type: QueryTypes.SELECT });
    expect(jsonOf(row!.spec)).toEqual(JSON.parse(broken));
  });

  it('refuse a height field that is none when it is saved', async () => {
    const plan = of('plan') as Item<'plan'>;
    const field = { kind: 'field', id: 'f', name: 'f', x: 0, z: 0, headingDeg: 0, length: 5, breadth: 5, columns: 2, rows: 2, low: 0, high: 1 } as const;
    const save = (heights: string) =>
      saveItem(db, id, 'plan', plan.id, 1, { ...plan.spec, ground: { ...plan.spec.ground, features: [{ ...field, heights }] } });
    for (const bad of ['no base64!!', '', 'AAAAAAAAAA==', 'AAAAAAAAA===', 'AAAAAAAAAAAAAAAA'])
      expect((await problemOf(save(bad))).message).toMatch(/heights: must be base64 of columns × rows heights/);
    expect(await save('AAAAAAAAAAA=')).toEqual({ version: 2 });
  });

  it('save with the version that was read, and write a revision every time', async () => {
    const gait = of('gait') as Item<'gait'>;
    const next: GaitSpec = { ...fitGait(gait.spec, gait.spec.legLength), name: 'Quicker' };
    expect(await saveItem(db, id, 'gait', gait.id, 1, next)).toEqual({ version: 2 });
    expect(await saveItem(db, id, 'gait', gait.id, 2, { ...next, name: 'Quicker still' })).toEqual({ version: 3 });
    const rows = await db.sequelize.query<{ version: number }>('SELECT version FROM revisions WHERE itemId = ? ORDER BY version', {
      replacements: [gait.id],
      type: QueryTypes.SELECT,
    });
    expect(rows.map((r) => r.version)).toEqual([1, 2, 3]);
    expect((await loadProject(db, id)).find((i) => i.id === gait.id)).toMatchObject({ version: 3, spec: { name: 'Quicker still' } });
  });

  it('refuse a save over a newer version and change nothing', async () => {
    const plan = of('plan') as Item<'plan'>;
    await saveItem(db, id, 'plan', plan.id, 1, { ...plan.spec, steps: 12 });
    const problem = await problemOf(saveItem(db, id, 'plan', plan.id, 1, { ...plan.spec, steps: 99 }));
    expect([problem.status, problem.more.version]).toEqual([409, 2]);
    expect((await loadProject(db, id)).find((i) => i.id === plan.id)!.spec).toMatchObject({ steps: 12 });
  });

  it('let only one of two saves at the same moment through', async () => {
    const plan = of('plan') as Item<'plan'>;
    const both = await Promise.allSettled([8, 9].map((steps) => saveItem(db, id, 'plan', plan.id, 1, { ...plan.spec, steps })));
    expect(both.filter((r) => r.status === 'fulfilled').length).toBe(1);
  });

  it('refuse specs that do not fit their schema, unknown items, and items of other projects', async () => {
    const plan = of('plan') as Item<'plan'>;
    expect((await problemOf(saveItem(db, id, 'plan', plan.id, 1, { ...plan.spec, steps: 1 }))).status).toBe(422);
    expect((await problemOf(saveItem(db, id, 'plan', 'nobody', 1, plan.spec))).status).toBe(404);
    const other = await createProject(db, 'Other');
    expect((await problemOf(saveItem(db, other.id, 'plan', plan.id, 1, plan.spec))).status).toBe(404);
    expect((await problemOf(loadProject(db, "x' OR 1=1 --"))).status).toBe(404);
  });

  it('duplicate with new ids that still belong together', async () => {
    const copy = await duplicateProject(db, id);
    const copied = await loadProject(db, copy.id);
    expect(copy.name).toBe('Harbour steps (copy)');
    expect(copied.some((c) => items.some((i) => i.id === c.id))).toBe(false);
    const plan = copied.find((c) => c.kind === 'plan') as Item<'plan'>;
    const project = copied[0] as Item<'project'>;
    expect(copied.find((c) => c.id === project.spec.body)!.kind).toBe('body');
    expect(plan.spec.gait === 'walk' || copied.some((c) => c.id === plan.spec.gait)).toBe(true);
  });

  it('disappear when deleted and come back when restored', async () => {
    await deleteProject(db, id);
    expect((await listProjects(db)).some((p) => p.id === id)).toBe(false);
    expect((await problemOf(loadProject(db, id))).status).toBe(404);
    expect((await problemOf(saveItem(db, id, 'plan', of('plan').id, 1, of('plan').spec))).status).toBe(404);
    await restoreProject(db, id);
    expect((await loadProject(db, id)).length).toBe(items.length);
  });

  it('make the demo once', async () => {
    const first = await ensureDemoProject(db);
    expect((await ensureDemoProject(db)).id).toBe(first.id);
    const demo = await loadProject(db, first.id);
    expect(demo.filter((i) => i.kind === 'gait').map((i) => i.spec.name)).toContain('Past the terns');
    // Travel is not empty there: a made-up recording comes with it, its file as well.
    const clips = demo.filter((i): i is Item<'clip'> => i.kind === 'clip');
    expect(clips).toHaveLength(1);
    expect(await fileSize(db, clips[0]!.spec.file.hash)).toBe(clips[0]!.spec.file.bytes);
  });

  it('take in a new gait at the end of the others, let it go again, and bring it back', async () => {
    const gait = { ...(of('gait') as Item<'gait'>).spec, name: 'Pip’s trot' };
    const added = await addItem(db, id, 'gait', gait);
    const names = async () => (await loadProject(db, id)).filter((i) => i.kind === 'gait').map((i) => i.spec.name);
    expect(await names()).toEqual(['Walk', 'Run', 'Sneak', 'Pip’s trot']);
    await setItemRemoved(db, id, 'gait', added.id, true);
    expect(await names()).toEqual(['Walk', 'Run', 'Sneak']);
    await setItemRemoved(db, id, 'gait', added.id, false);
    expect(await names()).toHaveLength(4);
    expect((await problemOf(addItem(db, id, 'gait', { ...gait, feet: 3 }))).status).toBe(422);
    expect((await problemOf(addItem(db, 'nowhere', 'gait', gait))).status).toBe(404);
    expect((await problemOf(setItemRemoved(db, id, 'gait', 'nothing', true))).status).toBe(404);
  });

  it('keep the last gait', async () => {
    const gaits = items.filter((i) => i.kind === 'gait');
    for (const g of gaits.slice(1)) await setItemRemoved(db, id, 'gait', g.id, true);
    expect((await problemOf(setItemRemoved(db, id, 'gait', gaits[0]!.id, true))).status).toBe(409);
  });

  it('list the saved states of a gait, latest first, with what changed; those of version 1 are upgraded', async () => {
    const gait = of('gait') as Item<'gait'>;
    await saveItem(db, id, 'gait', gait.id, 1, { ...gait.spec, name: 'Second', hips: { ...gait.spec.hips, crouch: 0.05 } });
    const list = await listSavedStates(db, id, 'gait', gait.id);
    expect(list.map((r) => r.version)).toEqual([2, 1]);
    expect(Date.parse(list[0]!.savedAt)).toBeGreaterThanOrEqual(Date.parse(list[1]!.savedAt));
    expect(list.map((r) => r.changed)).toEqual([['Name', 'Crouch'], []]);
    expect(list[1]!.spec).toEqual(gait.spec);
    const v1 = readFileSync(new URL('../core/tests/files/sneak.v1.json', import.meta.url), 'utf8');
    await db.sequelize.query('UPDATE revisions SET spec = ? WHERE itemId = ? AND version = 1', { replacements: [v1, gait.id] });
    await db.sequelize.query('UPDATE items SET spec = ? WHERE id = ?', { replacements: [v1, gait.id] });
    expect((await listSavedStates(db, id, 'gait', gait.id))[1]!.spec).toMatchObject({ version: 3, name: 'Sneak' });
    expect((await loadProject(db, id)).find((i) => i.id === gait.id)).toMatchObject({ spec: { version: 3, name: 'Sneak' } });
  });

  it('that lost their last gait open all the same, with one that is stored when it is first saved', async () => {
    await db.sequelize.query("DELETE FROM items WHERE projectId = ? AND kind IN ('gait', 'plan')", { replacements: [id] });
    const opened = await loadProject(db, id);
    expect(opened.filter((i) => i.version === 0).map((i) => i.kind)).toEqual(['gait', 'plan']);
    const gait = opened.find((i) => i.kind === 'gait') as Item<'gait'>;
    await saveChanges(db, id, { token: 'a-token-of-its-own', changes: [{ kind: 'gait', id: gait.id, version: 0, spec: gait.spec }] });
    expect((await loadProject(db, id)).find((i) => i.kind === 'gait')).toEqual({ ...gait, version: 1 });
  });
});
