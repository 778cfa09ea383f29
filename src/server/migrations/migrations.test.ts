import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { migrate, type Database } from '../database';
import { listProjects, loadProject } from '../projects';
import { listSavedStates } from '../revisions';
import { setItemRemoved } from '../single';
import { closeTestDatabase, openTestDatabase, rowsOf } from '../tests/database';
import { oneItemsTable } from './002-one-items-table';

/** A dump of a database as the version before wrote it: the demo with edits, one project deleted, one with a gait of version 1. */
const DUMP = gunzipSync(readFileSync(new URL('../tests/stored-before-one-table.sql.gz', import.meta.url))).toString('utf8');
const OLD = { projects: 'project', bodies: 'body', gaits: 'gait', plans: 'plan', sets: 'set', assets: 'asset' } as const;

interface OldRow {
  readonly id: string;
  readonly kind: string;
  readonly projectId: string;
  readonly name: string;
  readonly spec: string;
  readonly version: number;
  readonly position: number;
  readonly updatedAt: Date;
  readonly deletedAt: Date | null;
}

let db: Database;
let before: OldRow[] = [];
let revisions: object[] = [];
beforeAll(async () => {
  db = await openTestDatabase('migrations');
  await db.sequelize.transaction(async (transaction) => {
    await db.sequelize.query('SET FOREIGN_KEY_CHECKS = 0', { transaction });
    const statements = DUMP.split(/;\n/).filter((s) => /^(\s*\/\*[^\n]*\n?)*\s*(CREATE|INSERT)/.test(s));
    for (const statement of statements) await db.sequelize.query(statement, { transaction });
    await db.sequelize.query('SET FOREIGN_KEY_CHECKS = 1', { transaction });
  });
  before = (await Promise.all(Object.entries(OLD).map(([table, kind]) => rowsOf<OldRow>(db, `SELECT '${kind}' AS kind, t.* FROM ${table} t`)))).flat();
  revisions = await rowsOf(db, 'SELECT id, kind, itemId, projectId, version, spec, createdAt FROM revisions ORDER BY id');
  expect(await migrate(db)).toEqual(['002-one-items-table', '003-files-in-parts']);
});
afterAll(() => closeTestDatabase(db));

describe('what the version before stored', () => {
  it('is all there: every item and every saved state, as it was', async () => {
    expect(before.length).toBeGreaterThan(30);
    const after = await rowsOf<OldRow>(db, 'SELECT * FROM items');
    expect(after).toHaveLength(before.length);
    const facts = ({ id, kind, projectId, name, spec, version, updatedAt }: OldRow) => ({ id, kind, projectId, name, spec, version, updatedAt });
    const sorted = (rows: readonly OldRow[]) => rows.map(facts).sort((a, b) => (a.id < b.id ? -1 : 1));
    expect(sorted(after)).toEqual(sorted(before));
    expect(await rowsOf(db, 'SELECT id, kind, itemId, projectId, version, spec, createdAt FROM revisions ORDER BY id')).toEqual(revisions);
  });

  it('opens: names, order, what was removed stays removed, what was deleted stays deleted', async () => {
    const projects = await listProjects(db);
    expect(projects.map((p) => p.name).sort()).toEqual(['Low water', 'The tidal post']);
    for (const p of projects) {
      const items = await loadProject(db, p.id);
      const old = before.filter((r) => r.projectId === p.id && r.deletedAt === null);
      expect(items.map((i) => i.id).sort()).toEqual(old.map((r) => r.id).sort());
      const order = (kind: string) => old.filter((r) => r.kind === kind).sort((a, b) => a.position - b.position);
      expect(items.filter((i) => i.kind === 'gait').map((i) => i.spec.name)).toEqual(order('gait').map((r) => r.name));
    }
    const deleted = before.filter((r) => r.deletedAt !== null && r.kind === 'gait');
    expect(deleted).toHaveLength(1);
    await setItemRemoved(db, deleted[0]!.projectId, 'gait', deleted[0]!.id, false);
    expect((await loadProject(db, deleted[0]!.projectId)).some((i) => i.id === deleted[0]!.id)).toBe(true);
  });

  it('keeps its saved states listable', async () => {
    const tidal = (await listProjects(db)).find((p) => p.name === 'The tidal post')!;
    const gait = (await loadProject(db, tidal.id)).find((i) => i.spec.name.startsWith('Marlo’s round'))!;
    expect((await listSavedStates(db, tidal.id, 'gait', gait.id)).map((s) => s.version)).toContain(gait.version);
  });

  it('is not touched by a second run, nor by one after a break in the middle', async () => {
    const facts = () => rowsOf(db, 'SELECT * FROM items ORDER BY id');
    const once = await facts();
    expect(await migrate(db)).toEqual([]);
    await oneItemsTable.up(db.sequelize.getQueryInterface());
    expect(await facts()).toEqual(once);
  });
});
