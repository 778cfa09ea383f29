import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { withReferences, type Item } from '@/core/project/kinds';
import { newClipSpec } from '@/core/travel/clip-spec';
import { exportProject, importProject } from './backup';
import { FILE_PART_BYTES } from './config';
import { migrate, putTablesAside, type Database } from './database';
import { fileParts, keepPart } from './files';
import { createProject, deleteProject, ensureDemoProject, listProjects, loadProject } from './projects';
import { purge } from './purge';
import { keepSavedState, listSavedStates } from './revisions';
import { addItem, saveItem, setItemRemoved } from './single';
import { closeTestDatabase, openTestDatabase, problemOf, rowsOf } from './tests/database';

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase('backup');
  await migrate(db);
});
afterAll(() => closeTestDatabase(db));

const specs = (items: readonly Item[]) =>
  items
    .filter((i) => i.kind !== 'project')
    .map((i) => (i.kind === 'set' ? { ...i.spec, gait: '' } : i.kind === 'plan' ? withReferences('plan', i.spec as Item<'plan'>['spec'], () => '') : i.spec));

it('a project goes out as one file and comes back whole, with its saved states: over itself as a copy, into an empty place as itself', async () => {
  const { id } = await ensureDemoProject(db);
  const gait = (await loadProject(db, id)).find((i) => i.kind === 'gait') as Item<'gait'>;
  await saveItem(db, id, 'gait', gait.id, 1, { ...gait.spec, name: 'Wet feet' });
  await keepSavedState(db, id, gait.id, 1, 'before the rain');
  const file = JSON.parse(JSON.stringify(await exportProject(db, id))) as unknown;
  const before = await loadProject(db, id);

  const copy = await importProject(db, file);
  expect(copy.name).toBe('The tidal post (imported)');
  const copied = await loadProject(db, copy.id);
  expect(specs(copied)).toEqual(specs(before));
  expect(copied.some((c) => before.some((b) => b.id === c.id))).toBe(false);
  const plan = copied.find((i) => i.kind === 'plan') as Item<'plan'>;
  expect(copied.some((c) => c.id === plan.spec.gait)).toBe(true);

  await db.sequelize.query('DELETE FROM projects');
  const back = await importProject(db, file);
  expect(back.id).toBe(id);
  const after = await loadProject(db, id);
  expect(after.map((i) => [i.id, i.spec])).toEqual(before.map((i) => [i.id, i.spec]));
  const states = await listSavedStates(db, id, 'gait', gait.id);
  expect(states.map((s) => s.keptAs)).toContain('before the rain');
  const now = after.find((i) => i.id === gait.id) as Item<'gait'>;
  expect((await saveItem(db, id, 'gait', gait.id, now.version, now.spec)).version).toBe(now.version + 1);
});

it('carries the files of its clips, and refuses one that is not what its name says', async () => {
  const bytes = Buffer.alloc(FILE_PART_BYTES + 99, 'HIERARCHY ');
  const hash = createHash('sha256').update(bytes).digest('hex');
  const file = { hash, size: bytes.length };
  for (const part of [0, 1]) await keepPart(db, { ...file, part }, bytes.subarray(part * FILE_PART_BYTES, (part + 1) * FILE_PART_BYTES));
  const { id } = await createProject(db, 'Shore');
  await addItem(db, id, 'clip', newClipSpec('Shore walk', { hash, bytes: bytes.length, name: 'walk.bvh', index: 0, skeleton: '1-x' }));
  const backup = JSON.parse(JSON.stringify(await exportProject(db, id))) as Awaited<ReturnType<typeof exportProject>>;
  const clear = async () => {
    await db.sequelize.query('DELETE FROM projects');
    await db.sequelize.query('DELETE FROM blob_parts');
    await db.sequelize.query('DELETE FROM blobs');
  };
  await clear();
  await importProject(db, backup);
  const back: Buffer[] = [];
  for await (const part of fileParts(db, hash)) back.push(part);
  expect(Buffer.concat(back).equals(bytes)).toBe(true);

  await clear();
  const other = {
    ...backup.files[0]!,
    parts: backup.files[0]!.parts.map((p, i) => (i === 0 ? gzipSync(Buffer.alloc(FILE_PART_BYTES)).toString('base64') : p)),
  };
  expect((await problemOf(importProject(db, { ...backup, files: [other] }))).message).toMatch(/not the one that was named/);
  expect((await problemOf(importProject(db, { ...backup, files: [{ ...other, parts: ['AAAA'] }] }))).message).toMatch(/damaged/);
  expect(await listProjects(db)).toEqual([]);
});

it('what is no backup is refused with every fault, and nothing is stored', async () => {
  const { id } = await ensureDemoProject(db);
  const file = await exportProject(db, id);
  const count = async () => (await rowsOf(db, 'SELECT id FROM items')).length;
  const before = await count();
  for (const [broken, words] of [
    [{}, /format: must be "nimbret.backup"/],
    [{ ...file, items: [...file.items, file.items[0]!] }, /an id stands twice.*one project, not 2/],
    [{ ...file, items: file.items.map((i) => (i.kind === 'plan' ? { ...i, spec: { steps: 1 } } : i)) }, /steps: must be at least/],
    [{ ...file, states: [{ item: 'x' }] }, /states.0.version/],
    [{ ...file, states: [file.states[0]!, file.states[0]!] }, /a saved state stands twice/],
    [{ ...file, states: [{ ...file.states[0]!, version: 2 ** 31 }] }, /states.0.version/],
    [{ ...file, states: [{ ...file.states[0]!, savedAt: '0000-01-01T00:00:00Z' }] }, /between 1970 and 2999/],
    [{ ...file, states: [{ ...file.states[0]!, item: 'nobody' }] }, /of an item that is not there, nobody/],
  ] as const)
    expect((await problemOf(importProject(db, broken))).message).toMatch(words);
  expect(await count()).toBe(before);
});

it('a backup that fails on its way in leaves nothing: no project without its history, no file', async () => {
  const { id } = await ensureDemoProject(db);
  const file = await exportProject(db, id);
  await db.sequelize.query('DELETE FROM projects');
  await db.sequelize.query('DELETE FROM blobs');
  const tables = ['projects', 'items', 'revisions', 'blobs', 'blob_parts'];
  const counts = () => Promise.all(tables.map(async (table) => (await rowsOf<{ n: number }>(db, `SELECT COUNT(*) AS n FROM ${table}`))[0]!.n));
  // The very last row that is written is refused by the database.
  await db.sequelize.query("ALTER TABLE revisions ADD CONSTRAINT stormy CHECK (kind <> 'asset')");
  await expect(importProject(db, file)).rejects.toThrow(/stormy/);
  await db.sequelize.query('ALTER TABLE revisions DROP CONSTRAINT stormy');
  expect(await counts()).toEqual([0, 0, 0, 0, 0]);
  expect((await importProject(db, file)).id).toBe(id);
});

it('tables that are put aside keep everything, and new ones are made in their places', async () => {
  const { name } = await ensureDemoProject(db);
  const prefix = await putTablesAside(db, new Date('2026-12-02T03:04:05Z'));
  expect(prefix).toBe('aside_20261202T030405_');
  await migrate(db);
  expect(await listProjects(db)).toEqual([]);
  expect(await rowsOf(db, `SELECT name FROM ${prefix}items WHERE kind = 'project' AND name = ?`, name)).toHaveLength(1);
  await ensureDemoProject(db);
  expect(await putTablesAside(db, new Date('2026-12-03T03:04:05Z'))).toBe('aside_20261203T030405_');
  await migrate(db);
});

it('what was deleted can be brought back for thirty days and is gone after', async () => {
  const { id } = await ensureDemoProject(db);
  const gait = (await loadProject(db, id)).find((i) => i.kind === 'gait')!;
  await setItemRemoved(db, id, 'gait', gait.id, true);
  const inDays = (days: number) => Date.now() + days * 24 * 3600 * 1000;
  expect(await purge(db, inDays(29))).toEqual({ projects: 0, items: 0 });
  expect(await purge(db, inDays(31))).toEqual({ projects: 0, items: 1 });
  await deleteProject(db, id);
  expect(await purge(db, inDays(31))).toMatchObject({ projects: 1 });
  expect(await rowsOf(db, 'SELECT id FROM revisions WHERE projectId = ?', id)).toEqual([]);
  expect((await listProjects(db)).some((p) => p.id === id)).toBe(false);
});
