import { createHash, randomUUID } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import { demoProjectItems, newProjectItems, withMissing } from '@/core/project/contents';
import { demoRecording } from '@/core/project/demo-recording';
import { ITEM_KINDS, withReferences, type Item, type ItemKind, type ProjectSpec } from '@/core/project/kinds';
import { newClipSpec, type ClipSpec } from '@/core/travel/clip-spec';
import { FILE_PART_BYTES, PROJECT_LIMIT } from './config';
import type { Database } from './database';
import { keepPart } from './files';
import type { ItemRow, ProjectRow } from './models';
import { notFound, Problem } from './problem';
import { itemIfWhole, itemOf } from './specs';
import { lockProject, transact } from './transact';

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly updatedAt: string;
  /** Names of its gaits and bodies, in order. */
  readonly gaits: readonly string[];
  readonly bodies: readonly string[];
}

const LIVE = { deletedAt: { [Op.is]: null } } as const;

function summaryOf(project: ProjectRow, items: readonly Pick<ItemRow, 'kind' | 'name' | 'version'>[]): ProjectSummary {
  const own = items.find((i) => i.kind === 'project');
  const names = (kind: string) => items.filter((i) => i.kind === kind).map((i) => i.name);
  const { id, updatedAt } = project;
  return { id, name: own?.name ?? '', version: own?.version ?? 0, updatedAt: updatedAt.toISOString(), gaits: names('gait'), bodies: names('body') };
}

/** Live projects, latest first. */
export async function listProjects({ models }: Database, only?: string, transaction: Transaction | null = null): Promise<ProjectSummary[]> {
  const rows = await models.projects.findAll({ where: only === undefined ? LIVE : { ...LIVE, id: only }, order: [['updatedAt', 'DESC']], transaction });
  const items = await models.items.findAll({
    where: { ...LIVE, projectId: rows.map((r) => r.id), kind: ['project', 'gait', 'body'] },
    attributes: ['projectId', 'kind', 'name', 'version'],
    order: [['position', 'ASC']],
    transaction,
  });
  return rows.map((row) =>
    summaryOf(
      row,
      items.filter((i) => i.projectId === row.id),
    ),
  );
}

async function summary(db: Database, id: string, transaction: Transaction | null = null): Promise<ProjectSummary> {
  const [found] = await listProjects(db, id, transaction);
  if (!found) throw notFound('project');
  return found;
}

/** An item whose stored spec cannot be read: it is shown as such, and stays as it is. */
export interface BrokenItem {
  readonly id: string;
  readonly kind: ItemKind;
  readonly name: string;
}

/**
 * A project with all its items that can be read, the project itself first, and those that cannot. What it cannot do without and
 * has not is there at version 0.
 */
export async function openProject(db: Database, id: string): Promise<{ items: Item[]; broken: BrokenItem[] }> {
  const row = await db.models.projects.findOne({ where: { ...LIVE, id } });
  if (!row) throw notFound('project');
  const rows = await db.models.items.findAll({ where: { ...LIVE, projectId: id }, order: [['position', 'ASC']] });
  // Without its own record there is nothing to open it by.
  const read = rows.map((r) => (r.kind === 'project' ? itemOf(r) : itemIfWhole(r)));
  const items = read.filter((i) => i !== null);
  const broken = rows.filter((_, i) => read[i] === null).map(({ id: itemId, kind, name }) => ({ id: itemId, kind, name }));
  // The same ids at every opening: two windows that store what was missing meet in one item.
  let n = 0;
  const whole = withMissing(
    ITEM_KINDS.flatMap((kind) => items.filter((i) => i.kind === kind)),
    () => `${id.slice(0, 24)}-put-in-${++n}`,
  );
  return { items: whole, broken };
}

/** A project with all its items that can be read. */
export const loadProject = async (db: Database, id: string): Promise<Item[]> => (await openProject(db, id)).items;

/** A saved state that comes with a project. */
export interface SavedBefore {
  readonly itemId: string;
  readonly version: number;
  readonly spec: Item['spec'];
  readonly keptAs: string | null;
  readonly createdAt: Date;
}

/** Stores a whole project. Saved states may come along, which then lie before the state of now; else each item has one, of now. */
export async function insertProject(
  db: Database,
  projectId: string,
  items: readonly Pick<Item, 'id' | 'kind' | 'spec'>[],
  before: readonly SavedBefore[] = [],
  within: Transaction | null = null,
): Promise<ProjectSummary> {
  const kinds = new Map(items.map((i) => [i.id, i.kind]));
  const latest = new Map<string, number>();
  for (const { itemId, version } of before) latest.set(itemId, Math.max(latest.get(itemId) ?? 0, version));
  const versionOf = (id: string) => (latest.get(id) ?? 0) + 1;
  const store = async (transaction: Transaction) => {
    if ((await db.models.projects.count({ where: LIVE, transaction })) >= PROJECT_LIMIT)
      throw new Problem(409, 'Too many projects', `There are ${PROJECT_LIMIT} projects, which is the limit. Delete one first.`);
    await db.models.projects.create({ id: projectId }, { transaction });
    await db.models.items.bulkCreate(
      items.map(({ id, kind, spec }, position) => ({ id, projectId, kind, position, name: spec.name, spec, version: versionOf(id) })),
      { transaction },
    );
    await db.models.revisions.bulkCreate(
      [
        ...before.map((state) => ({ ...state, projectId, kind: kinds.get(state.itemId)! })),
        ...items.map(({ id, kind, spec }) => ({ kind, itemId: id, projectId, version: versionOf(id), spec })),
      ],
      { transaction },
    );
  };
  await transact(db, store, within);
  return summary(db, projectId, within);
}

export async function createProject(db: Database, name: string): Promise<ProjectSummary> {
  const id = randomUUID();
  return insertProject(db, id, newProjectItems(id, name, randomUUID));
}

/** Keeps the file of the demo's made-up recording, so that the Travel station is never empty there; its clip. */
async function keepDemoRecording(db: Database): Promise<ClipSpec> {
  const { bytes, title, file } = demoRecording();
  const hash = createHash('sha256').update(bytes).digest('hex');
  for (let part = 0; part * FILE_PART_BYTES < bytes.byteLength; part++)
    await keepPart(db, { hash, size: bytes.byteLength, part }, Buffer.from(bytes.subarray(part * FILE_PART_BYTES, (part + 1) * FILE_PART_BYTES)));
  return newClipSpec(title, { ...file, hash, bytes: bytes.byteLength });
}

/** Makes the demo project unless one is there already. */
export async function ensureDemoProject(db: Database): Promise<ProjectSummary> {
  const found = (await listProjects(db)).find((p) => p.name === 'The tidal post');
  if (found) return found;
  const id = randomUUID();
  return insertProject(db, id, demoProjectItems(id, randomUUID, await keepDemoRecording(db)));
}

/** The same items under new ids that belong together as the old ones did, the project under a name of its own. */
export function underNewIds(items: readonly Pick<Item, 'id' | 'kind' | 'spec'>[], name: string): { id: string; items: Pick<Item, 'id' | 'kind' | 'spec'>[] } {
  const ids = new Map(items.map((i) => [i.id, randomUUID() as string]));
  const moved = (old: string) => ids.get(old) ?? old;
  const copies = items.map(({ id, kind, spec }) => {
    const copy = withReferences(kind, spec, moved);
    return { id: moved(id), kind, spec: kind === 'project' ? { ...(copy as ProjectSpec), name: name.slice(0, 80) } : copy };
  });
  return { id: moved(items.find((i) => i.kind === 'project')!.id), items: copies };
}

/** A copy of a project with new ids throughout. */
export async function duplicateProject(db: Database, id: string): Promise<ProjectSummary> {
  const items = await loadProject(db, id);
  const copy = underNewIds(items, `${items[0]!.spec.name} (copy)`);
  return insertProject(db, copy.id, copy.items);
}

/** Deleting hides a project; `restoreProject` brings it back. */
export async function deleteProject(db: Database, id: string): Promise<void> {
  await transact(db, async (transaction) => void (await (await lockProject(db, id, transaction)).update({ deletedAt: new Date() }, { transaction })));
}

export async function restoreProject(db: Database, id: string): Promise<ProjectSummary> {
  await transact(db, async (transaction) => void (await (await lockProject(db, id, transaction, true)).update({ deletedAt: null }, { transaction })));
  return summary(db, id);
}
