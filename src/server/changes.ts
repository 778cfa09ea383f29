import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import { z } from 'zod';
import { ITEM_KINDS, KINDS, type Item, type ItemKind } from '@/core/project/kinds';
import type { Database } from './database';
import type { ItemRow } from './models';
import { notFound, Problem } from './problem';
import { thin } from './revisions';
import { itemOf, readSpec } from './specs';
import { lockProject, transact } from './transact';

/** Most items of one kind in a project. */
const ITEM_LIMIT = 300;

const id = z.string().regex(/^[\w-]{1,36}$/, 'must be an id of letters, digits and dashes');

/**
 * What one save asks for. Each change names the version it was made from: 0 adds an item, `spec` null removes it, `back`
 * brings a removed one back. `token` names the save, so that one whose answer was lost is known again.
 */
export interface Batch {
  readonly token: string;
  readonly changes: readonly Change[];
}
interface Change {
  readonly kind: ItemKind;
  readonly id: string;
  readonly version: number;
  readonly spec?: unknown;
  readonly back?: boolean | undefined;
}

export const batchSchema: z.ZodType<Batch> = z.strictObject({
  token: z.string().min(8).max(64),
  changes: z
    .array(
      z.strictObject({ kind: z.enum(ITEM_KINDS as [ItemKind, ...ItemKind[]]), id, version: z.int().min(0), spec: z.unknown(), back: z.boolean().optional() }),
    )
    .min(1)
    .max(ITEM_LIMIT),
});

/** An item that stands otherwise than a save supposed: its version there, and its spec, null where it is removed. */
interface Conflict {
  readonly id: string;
  readonly kind: ItemKind;
  readonly version: number;
  readonly spec: Item['spec'] | null;
}

/**
 * Saves several items as one: all of them, or where one of them was changed elsewhere none, answered with 409 and what stands
 * there. Every change writes a revision. Returns the new version of each item by its id.
 */
export async function saveChanges(db: Database, projectId: string, { token, changes }: Batch): Promise<{ versions: Record<string, number> }> {
  // The database takes capitals for small letters.
  if (new Set(changes.map((c) => c.id.toLowerCase())).size < changes.length) throw new Problem(422, 'Not valid', 'changes: an id stands twice');
  const specs = changes.map((c) => (c.spec === null ? null : readSpec(c.kind, c.spec)));
  return transact(db, async (transaction) => {
    const project = await lockProject(db, projectId, transaction);
    const rows = new Map((await db.models.items.findAll({ where: { id: changes.map((c) => c.id) }, transaction })).map((r) => [r.id.toLowerCase(), r]));
    const conflicts: Conflict[] = [];
    const versions: Record<string, number> = {};
    for (const [i, change] of changes.entries()) {
      const row = rows.get(change.id.toLowerCase()) ?? null;
      if (row && (row.id !== change.id || row.projectId !== projectId || row.kind !== change.kind)) throw notFound(KINDS[change.kind].label);
      if (!row && change.version !== 0) throw notFound(KINDS[change.kind].label);
      if (await doneBefore(db, change, token, transaction)) versions[change.id] = change.version + 1;
      else if (row && !fits(row, change)) conflicts.push(standing(row));
      else versions[change.id] = await apply(db, projectId, change, specs[i]!, row, token, transaction);
    }
    if (conflicts.length > 0)
      throw new Problem(409, 'Changed elsewhere', `${conflicts.length === 1 ? 'This was' : `${conflicts.length} items were`} changed in another window.`, {
        conflicts,
        version: conflicts[0]!.version,
      });
    await refuseWithoutLast(db, projectId, changes, transaction);
    // The list of projects shows the latest work first.
    project.changed('updatedAt', true);
    await project.update({ updatedAt: new Date() }, { transaction });
    return { versions };
  });
}

const fits = (row: ItemRow, change: Change): boolean =>
  row.version === change.version && (row.deletedAt === null ? !change.back : change.back === true && change.spec !== null);

const standing = (row: ItemRow): Conflict => ({
  id: row.id,
  kind: row.kind,
  version: row.version,
  spec: row.deletedAt === null ? itemOf(row).spec : null,
});

/** Whether this very save was made before and only its answer was lost. */
async function doneBefore(db: Database, change: Change, token: string, transaction: Transaction): Promise<boolean> {
  return (await db.models.revisions.count({ where: { itemId: change.id, version: change.version + 1, token }, transaction })) > 0;
}

async function apply(
  db: Database,
  projectId: string,
  { kind, id: itemId, version }: Change,
  spec: Item['spec'] | null,
  row: ItemRow | null,
  token: string,
  transaction: Transaction,
): Promise<number> {
  const { items, revisions } = db.models;
  if (spec === null && !row) throw notFound(KINDS[kind].label);
  if (spec === null && !KINDS[kind].many) throw new Problem(409, 'Belongs to the project', `A project always has its ${KINDS[kind].label}.`);
  if (row && spec !== null) await row.update({ spec, name: spec.name, version: version + 1, deletedAt: null }, { transaction });
  else if (row) await row.update({ version: version + 1, deletedAt: new Date() }, { transaction });
  else {
    const live = await items.count({ where: { projectId, kind, deletedAt: { [Op.is]: null } }, transaction });
    if (live >= (KINDS[kind].many ? ITEM_LIMIT : 1))
      throw new Problem(
        409,
        'Too many',
        KINDS[kind].many ? `A project may have ${ITEM_LIMIT} of these. Remove one first.` : `A project has one ${KINDS[kind].label}.`,
      );
    const last = ((await items.max('position', { where: { projectId, kind }, transaction })) as number | null) ?? 0;
    await items.create({ id: itemId, projectId, kind, position: last + 1, name: spec!.name, spec, version: 1 }, { transaction });
  }
  const kept = spec ?? itemOf(row!).spec;
  await revisions.create({ kind, itemId, projectId, version: version + 1, spec: kept, token, removed: spec === null }, { transaction });
  await thin(db, itemId, transaction);
  return version + 1;
}

/** Under the project's lock no two windows can each remove the other's last one. */
async function refuseWithoutLast(db: Database, projectId: string, changes: readonly Change[], transaction: Transaction): Promise<void> {
  for (const kind of new Set(changes.filter((c) => c.spec === null && !KINDS[c.kind].none).map((c) => c.kind)))
    if ((await db.models.items.count({ where: { projectId, kind, deletedAt: { [Op.is]: null } }, transaction })) === 0)
      throw new Problem(409, 'The last one', `A project needs at least one ${KINDS[kind].label}.`, { last: kind });
}
