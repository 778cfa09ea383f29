import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Item } from '@/core/project/kinds';
import { saveChanges, type Batch } from './changes';
import { migrate, type Database } from './database';
import { createProject, loadProject } from './projects';
import { addItem, saveItem, setItemRemoved } from './single';
import { closeTestDatabase, openTestDatabase, problemOf, rowsOf } from './tests/database';

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase('changes');
  await migrate(db);
});
afterAll(() => closeTestDatabase(db));

describe('a save of several items', () => {
  let id = '';
  let items: Item[] = [];
  let n = 0;
  const token = () => `token-of-save-${++n}`;
  const of = <K extends Item['kind']>(kind: K, at = 0) => items.filter((i) => i.kind === kind)[at] as Item<K>;
  const named = (item: Item, name: string, version = item.version) => ({ kind: item.kind, id: item.id, version, spec: { ...item.spec, name } });
  const save = (...changes: Batch['changes']) => saveChanges(db, id, { token: token(), changes });
  const names = async () => (await loadProject(db, id)).map((i) => i.spec.name);
  beforeEach(async () => {
    id = (await createProject(db, 'Slipway')).id;
    items = await loadProject(db, id);
  });

  it('keeps all of them or none', async () => {
    expect(await save(named(of('gait'), 'One'), named(of('plan'), 'Two'))).toEqual({ versions: { [of('gait').id]: 2, [of('plan').id]: 2 } });
    const before = await names();
    const problem = await problemOf(save(named(of('gait', 1), 'Three'), named(of('plan'), 'Stale')));
    expect(problem.status).toBe(409);
    expect(problem.more.conflicts).toMatchObject([{ id: of('plan').id, kind: 'plan', version: 2, spec: { name: 'Two' } }]);
    expect(await names()).toEqual(before);
    expect((await problemOf(save(named(of('gait', 1), 'Three'), { ...named(of('plan'), 'x', 2), spec: { steps: -1 } }))).status).toBe(422);
    expect(await names()).toEqual(before);
  });

  it('names each item once, as the database tells ids apart', async () => {
    const gait = of('gait');
    const twice = await problemOf(save(named(gait, 'One'), named({ ...gait, id: gait.id.toUpperCase() }, 'Two')));
    expect([twice.status, twice.detail]).toEqual([422, 'changes: an id stands twice']);
    expect((await problemOf(save(named({ ...gait, id: gait.id.toUpperCase() }, 'Two', 0)))).status).toBe(404);
    expect((await names()).includes('Two')).toBe(false);
  });

  it('whose answer was lost is known again, and changes nothing twice', async () => {
    const batch = { token: token(), changes: [named(of('gait'), 'One'), { kind: 'gait' as const, id: 'new-gait', version: 0, spec: of('gait', 1).spec }] };
    const first = await saveChanges(db, id, batch);
    expect(await saveChanges(db, id, batch)).toEqual(first);
    expect((await rowsOf(db, 'SELECT id FROM revisions WHERE itemId = ?', of('gait').id)).length).toBe(2);
    // Somebody else's save with the same version is still refused.
    expect((await problemOf(saveChanges(db, id, { ...batch, token: token() }))).status).toBe(409);
    await save(named(of('gait'), 'Later', 2));
    expect(await saveChanges(db, id, batch)).toEqual(first);
    expect((await loadProject(db, id)).find((i) => i.id === of('gait').id)!.spec.name).toBe('Later');
  });

  it('adds, removes and brings back; a removed item cannot be saved to', async () => {
    const gait = of('gait', 2);
    await save({ kind: 'gait', id: gait.id, version: 1, spec: null }, named(of('plan'), 'Without'));
    expect(await names()).not.toContain(gait.spec.name);
    const stale = await problemOf(save(named(gait, 'Stale')));
    expect(stale.more.conflicts).toMatchObject([{ id: gait.id, version: 2, spec: null }]);
    expect((await problemOf(save(named(gait, 'Knows the version', 2)))).status).toBe(409);
    expect((await problemOf(saveItem(db, id, 'gait', gait.id, 2, gait.spec))).status).toBe(409);
    await save({ ...named(gait, 'Back', 2), back: true });
    expect(await names()).toContain('Back');
    // Of a set there is one, neither less nor more; walks come and go.
    expect((await problemOf(save({ kind: 'set', id: of('set').id, version: of('set').version, spec: null }))).status).toBe(409);
    expect((await problemOf(save({ kind: 'set', id: 'second-set', version: 0, spec: of('set').spec }))).status).toBe(409);
    await save({ kind: 'plan', id: 'second-plan', version: 0, spec: { ...of('plan').spec, name: 'Second' } as never });
    expect(await names()).toContain('Second');
  });

  it('never takes the last gait, whoever races for it', async () => {
    for (let round = 0; round < 5; round++) {
      const all = (await loadProject(db, id)).filter((i) => i.kind === 'gait');
      await Promise.allSettled(all.map((g) => setItemRemoved(db, id, 'gait', g.id, true)));
      expect((await loadProject(db, id)).filter((i) => i.kind === 'gait' && i.version > 0)).toHaveLength(1);
      for (const g of all) await setItemRemoved(db, id, 'gait', g.id, false);
    }
  });

  it('of two windows at once ends in an answer or a conflict, never in a fault', async () => {
    const kinds = [of('gait'), of('gait', 1), of('plan'), of('set'), of('asset'), of('project')];
    const windows = Array.from({ length: 6 }, async (_, w) => {
      const known = new Map(items.map((i) => [i.id, i.version]));
      let saved = 0;
      for (let k = 0; k < 20; k++) {
        const two = [kinds[(k + w) % 6]!, kinds[(k * 5 + w + 1) % 6]!].filter((i, at, all) => all.indexOf(i) === at);
        // Each window asks in its own order, which made them wait for each other's rows.
        const asked = (w % 2 ? two : two.reverse()).map((i) => named(i, `${i.kind} ${w} ${k}`, known.get(i.id)!));
        try {
          for (const [item, version] of Object.entries((await save(...asked)).versions)) known.set(item, version);
          saved++;
        } catch (error) {
          const problem = await problemOf(Promise.reject(error));
          expect(problem.status).toBe(409);
          for (const c of problem.more.conflicts as { id: string; version: number }[]) known.set(c.id, c.version);
        }
        if (k % 7 === 0) await addItem(db, id, 'gait', of('gait').spec);
      }
      return saved;
    });
    expect((await Promise.all(windows)).reduce((a, b) => a + b)).toBeGreaterThan(10);
    const odd = await rowsOf(
      db,
      'SELECT i.id FROM items i JOIN revisions r ON r.itemId = i.id WHERE i.projectId = ? GROUP BY i.id, i.version HAVING MAX(r.version) <> i.version',
      id,
    );
    expect(odd).toEqual([]);
  });

  it('refuses ids that belong elsewhere', async () => {
    const other = await createProject(db, 'Other');
    const gait = of('gait');
    expect((await problemOf(saveChanges(db, other.id, { token: token(), changes: [named(gait, 'Stolen')] }))).status).toBe(404);
    expect((await problemOf(saveChanges(db, other.id, { token: token(), changes: [{ ...named(gait, 'Stolen'), version: 0 }] }))).status).toBe(404);
    expect((await problemOf(save({ ...named(gait, 'x'), kind: 'body' }))).status).toBe(422);
  });
});
