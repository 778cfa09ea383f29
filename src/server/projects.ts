import { randomUUID } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import { demoProjectItems, newProjectItems } from '@/core/project/contents';
import { describeIssue } from '@/core/formats/json/decode';
import { ITEM_KINDS, SPEC_SCHEMAS, type Item, type ItemKind, type ProjectSpec } from '@/core/project/items';
import { PROJECT_LIMIT } from './config';
import type { Database } from './database';
import type { ItemRow } from './models';
import { notFound, Problem } from './problem';

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly updatedAt: string;
}

/** MariaDB hands JSON columns back as text. */
function specOf(kind: ItemKind, row: ItemRow): Item['spec'] {
  const raw = typeof row.spec === 'string' ? (JSON.parse(row.spec) as unknown) : row.spec;
  const parsed = SPEC_SCHEMAS[kind].safeParse(raw);
  if (!parsed.success) throw new Problem(500, 'Stored data not readable', `The stored ${kind} "${row.name}" does not fit its schema. Nothing was changed.`);
  return parsed.data;
}

const toItem = (kind: ItemKind, row: ItemRow): Item => ({ id: row.id, kind, version: row.version, spec: specOf(kind, row) });
const summaryOf = (row: ItemRow): ProjectSummary => ({ id: row.id, name: row.name, version: row.version, updatedAt: row.updatedAt.toISOString() });

/** Live projects, latest first. */
export async function listProjects({ models }: Database): Promise<ProjectSummary[]> {
  const rows = await models.items.project.findAll({ where: { deletedAt: { [Op.is]: null } }, order: [['updatedAt', 'DESC']] });
  return rows.map(summaryOf);
}

async function liveProject({ models }: Database, id: string, transaction?: Transaction): Promise<ItemRow> {
  const row = await models.items.project.findOne({ where: { id, deletedAt: { [Op.is]: null } }, transaction });
  if (!row) throw notFound('project');
  return row;
}

/** A project with all its items, the project itself first. */
export async function loadProject(db: Database, id: string): Promise<Item[]> {
  const project = await liveProject(db, id);
  const items: Item[] = [toItem('project', project)];
  for (const kind of ITEM_KINDS)
    if (kind !== 'project')
      for (const row of await db.models.items[kind].findAll({
        where: { projectId: id, deletedAt: { [Op.is]: null } },
        order: [['position', 'ASC']],
      }))
        items.push(toItem(kind, row));
  return items;
}

async function insertItems(db: Database, projectId: string, items: readonly Pick<Item, 'id' | 'kind' | 'spec'>[]): Promise<ProjectSummary> {
  return db.sequelize.transaction(async (transaction) => {
    if ((await db.models.items.project.count({ where: { deletedAt: { [Op.is]: null } }, transaction })) >= PROJECT_LIMIT)
      throw new Problem(409, 'Too many projects', `There are ${PROJECT_LIMIT} projects, which is the limit. Delete one first.`);
    for (const [position, { id, kind, spec }] of items.entries()) {
      await db.models.items[kind].create({ id, projectId, position, name: spec.name, spec, version: 1 }, { transaction });
      await db.models.revisions.create({ kind, itemId: id, projectId, version: 1, spec }, { transaction });
    }
    return summaryOf((await db.models.items.project.findByPk(projectId, { transaction }))!);
  });
}

export async function createProject(db: Database, name: string): Promise<ProjectSummary> {
  const id = randomUUID();
  return insertItems(db, id, newProjectItems(id, name, randomUUID));
}

/** Makes the demo project unless one is there already. */
export async function ensureDemoProject(db: Database): Promise<ProjectSummary> {
  const found = await db.models.items.project.findOne({ where: { name: 'The tidal post', deletedAt: { [Op.is]: null } } });
  if (found) return summaryOf(found);
  const id = randomUUID();
  return insertItems(db, id, demoProjectItems(id, randomUUID));
}

/** A copy of a project with new ids throughout. */
export async function duplicateProject(db: Database, id: string): Promise<ProjectSummary> {
  const items = await loadProject(db, id);
  const ids = new Map(items.map((i) => [i.id, randomUUID() as string]));
  const moved = (old: string) => ids.get(old) ?? old;
  const copies = items.map(({ id: old, kind, spec }) => {
    const copy = { ...spec } as Record<string, unknown>;
    if (kind === 'project')
      Object.assign(copy, { name: `${spec.name} (copy)`.slice(0, 80), body: moved((spec as ProjectSpec).body), gait: moved((spec as ProjectSpec).gait) });
    if ((kind === 'plan' || kind === 'set') && typeof copy.gait === 'string') copy.gait = moved(copy.gait);
    return { id: moved(old), kind, spec: copy as unknown as Item['spec'] };
  });
  return insertItems(db, moved(id), copies);
}

/** Deleting hides a project; `restoreProject` brings it back. */
export async function deleteProject(db: Database, id: string): Promise<void> {
  const row = await liveProject(db, id);
  await row.update({ deletedAt: new Date() });
}

export async function restoreProject(db: Database, id: string): Promise<ProjectSummary> {
  const row = await db.models.items.project.findByPk(id);
  if (!row) throw notFound('project');
  await row.update({ deletedAt: null });
  return summaryOf(row);
}

/**
 * Saves one item if it still has the version the client knows; every save writes a revision. A newer version elsewhere is
 * answered with 409 and the version there is, and nothing is changed.
 */
export async function saveItem(db: Database, projectId: string, kind: ItemKind, id: string, baseVersion: number, input: unknown): Promise<{ version: number }> {
  const spec = readSpec(kind, input);
  return db.sequelize.transaction(async (transaction) => {
    await liveProject(db, projectId, transaction);
    const version = baseVersion + 1;
    const [changed] = await db.models.items[kind].update({ spec, name: spec.name, version }, { where: { id, projectId, version: baseVersion }, transaction });
    if (changed === 0) {
      const row = await db.models.items[kind].findOne({ where: { id, projectId }, transaction });
      if (!row) throw notFound(kind);
      throw new Problem(409, 'Changed elsewhere', `This ${kind} was changed in another window. Reload to see it; what you did here is kept until then.`, {
        version: row.version,
      });
    }
    await db.models.revisions.create({ kind, itemId: id, projectId, version, spec }, { transaction });
    // The list of projects shows the latest work first.
    if (kind !== 'project') await db.sequelize.query('UPDATE projects SET updatedAt = ? WHERE id = ?', { replacements: [new Date(), projectId], transaction });
    return { version };
  });
}

/** Most items of one kind in a project. */
const ITEM_LIMIT = 300;

/** Reads a spec of a kind through its schema; what does not fit is answered with every fault. */
function readSpec(kind: ItemKind, input: unknown): Item['spec'] {
  const parsed = SPEC_SCHEMAS[kind].safeParse(input);
  if (!parsed.success) throw new Problem(422, 'Not valid', parsed.error.issues.map(describeIssue).join('; '));
  return parsed.data;
}

/** Adds an item at the end of its kind. */
export async function addItem(db: Database, projectId: string, kind: ItemKind, input: unknown): Promise<{ id: string; version: number }> {
  const spec = readSpec(kind, input);
  return db.sequelize.transaction(async (transaction) => {
    await liveProject(db, projectId, transaction);
    const model = db.models.items[kind];
    if ((await model.count({ where: { projectId, deletedAt: { [Op.is]: null } }, transaction })) >= ITEM_LIMIT)
      throw new Problem(409, 'Too many', `A project may have ${ITEM_LIMIT} of these. Remove one first.`);
    const last = (await model.max('position', { where: { projectId }, transaction })) as number | null;
    const id = randomUUID();
    await model.create({ id, projectId, position: (last ?? 0) + 1, name: spec.name, spec, version: 1 }, { transaction });
    await db.models.revisions.create({ kind, itemId: id, projectId, version: 1, spec }, { transaction });
    return { id, version: 1 };
  });
}

/** Takes an item out of its project, or with `removed` false brings it back. The last of its kind stays. */
export async function setItemRemoved(db: Database, projectId: string, kind: ItemKind, id: string, removed: boolean): Promise<void> {
  await db.sequelize.transaction(async (transaction) => {
    await liveProject(db, projectId, transaction);
    const model = db.models.items[kind];
    const row = await model.findOne({ where: { id, projectId }, transaction });
    if (!row) throw notFound(kind);
    if (removed && (await model.count({ where: { projectId, deletedAt: { [Op.is]: null } }, transaction })) <= 1)
      throw new Problem(409, 'The last one', `A project needs at least one ${kind}.`);
    await row.update({ deletedAt: removed ? new Date() : null }, { transaction });
  });
}

/** A saved state of an item in a list. */
export interface RevisionSummary {
  readonly version: number;
  readonly savedAt: string;
}

/** Most revisions listed. */
const REVISIONS_SHOWN = 100;

/** Saved states of an item, latest first. */
export async function listRevisions(db: Database, projectId: string, kind: ItemKind, itemId: string): Promise<RevisionSummary[]> {
  await liveProject(db, projectId);
  const rows = await db.models.revisions.findAll({
    where: { projectId, kind, itemId },
    attributes: ['version', 'createdAt'],
    order: [['version', 'DESC']],
    limit: REVISIONS_SHOWN,
  });
  return rows.map((r) => ({ version: r.version, savedAt: r.createdAt.toISOString() }));
}

/** One saved state of an item, brought to the present version of its format. */
export async function loadRevision(db: Database, projectId: string, kind: ItemKind, itemId: string, version: number): Promise<{ spec: Item['spec'] }> {
  await liveProject(db, projectId);
  const row = await db.models.revisions.findOne({ where: { projectId, kind, itemId, version } });
  if (!row) throw notFound('saved state');
  const raw = typeof row.spec === 'string' ? (JSON.parse(row.spec) as unknown) : row.spec;
  return { spec: readSpec(kind, raw) };
}
