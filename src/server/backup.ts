import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { describeIssue } from '@/core/formats/json/decode';
import { ITEM_KINDS, KINDS, type Item, type ItemKind } from '@/core/project/kinds';
import { FILE_LIMIT_BYTES, FILE_PART_BYTES } from './config';
import type { Database } from './database';
import { fileParts, fileSize, keepPart } from './files';
import { jsonOf } from './models';
import { Problem } from './problem';
import { insertProject, loadProject, underNewIds, type ProjectSummary } from './projects';
import { readSpec } from './specs';
import { transact } from './transact';

/** Largest backup that is written or read, bytes: what one text may have, with some room. */
export const BACKUP_LIMIT_BYTES = 480 * 1024 * 1024;

/** What the database's columns hold: versions that can still grow, and times. */
const MOST_VERSION = 2_000_000_000;
const EPOCH = /^(19[7-9]|2\d\d)\d-/;

const itemSchema = z.strictObject({ id: z.string().regex(/^[\w-]{1,36}$/), kind: z.enum(ITEM_KINDS as [ItemKind, ...ItemKind[]]), spec: z.unknown() });
const backupSchema = z.strictObject({
  format: z.literal('nimbret.backup'),
  version: z.literal(1),
  items: z.array(itemSchema).min(1).max(2000),
  states: z
    .array(
      z.strictObject({
        item: z.string().max(36),
        version: z.int().min(1).max(MOST_VERSION),
        savedAt: z.iso.datetime().refine((text) => EPOCH.test(text), { message: 'must be a time between 1970 and 2999' }),
        keptAs: z.string().max(80).nullable(),
        spec: z.unknown(),
      }),
    )
    .max(200_000),
  /** Files that clips were brought in from: their parts one after the other, each as gzip in base64. */
  files: z
    .array(
      z.strictObject({
        hash: z.string().regex(/^[0-9a-f]{64}$/),
        size: z.int().min(1).max(FILE_LIMIT_BYTES),
        parts: z
          .array(z.base64())
          .min(1)
          .max(Math.ceil(FILE_LIMIT_BYTES / FILE_PART_BYTES)),
      }),
    )
    .max(2000)
    .default([]),
});
type Backup = z.infer<typeof backupSchema>;

const zip = promisify(gzip);
const unzip = promisify(gunzip);

/** Hashes of the files that clips among these specs are of. */
const filesOf = (specs: readonly { kind: ItemKind; spec: unknown }[]): string[] => [
  ...new Set(specs.filter((s) => s.kind === 'clip').map((s) => (s.spec as Item<'clip'>['spec']).file.hash)),
];

/** The files of these hashes that are wholly there. Throws Problem where they are more than one backup may hold. */
async function filesOut(db: Database, hashes: readonly string[]): Promise<Backup['files']> {
  const files: Backup['files'] = [];
  let written = 0;
  for (const hash of hashes) {
    const size = await fileSize(db, hash).catch(() => null);
    if (size === null) continue;
    const parts: string[] = [];
    for await (const part of fileParts(db, hash)) parts.push((await zip(part)).toString('base64'));
    written += parts.reduce((sum, p) => sum + p.length, 0);
    if (written > BACKUP_LIMIT_BYTES)
      throw new Problem(413, 'Too large', `The files of its clips are more than a backup may hold, ${BACKUP_LIMIT_BYTES} bytes.`);
    files.push({ hash, size, parts });
  }
  return files;
}

/** Keeps the files of a backup. Throws Problem where one is not what its name says. */
async function filesIn(db: Database, files: Backup['files'], transaction: Transaction): Promise<void> {
  for (const { hash, size, parts } of files)
    for (const [part, text] of parts.entries()) {
      const bytes = await unzip(Buffer.from(text, 'base64'), { maxOutputLength: FILE_PART_BYTES }).catch(() => {
        throw new Problem(422, 'Not a backup', `part ${part} of the file ${hash.slice(0, 8)} is damaged`);
      });
      await keepPart(db, { hash, size, part }, bytes, transaction);
    }
}

/** A project as one value: its items as they stand, the saved states of each, and the files its clips are of. */
export async function exportProject(db: Database, projectId: string): Promise<Backup> {
  const items = await loadProject(db, projectId);
  const rows = await db.models.revisions.findAll({
    where: { projectId, removed: false, itemId: items.map((i) => i.id) },
    order: [
      ['itemId', 'ASC'],
      ['version', 'ASC'],
    ],
  });
  const kinds = new Map(items.map((i) => [i.id, i.kind]));
  return {
    format: 'nimbret.backup',
    version: 1,
    items: items.map(({ id, kind, spec }) => ({ id, kind, spec })),
    files: await filesOut(db, filesOf([...items, ...rows.map((r) => ({ kind: kinds.get(r.itemId)!, spec: jsonOf(r.spec) }))])),
    states: rows.map((r) => ({ item: r.itemId, version: r.version, savedAt: r.createdAt.toISOString(), keptAs: r.keptAs, spec: jsonOf(r.spec) })),
  };
}

/**
 * Brings a project in with its saved states and files: all of it, or where anything fails nothing. Under its own ids where they
 * are free, else as a copy; nothing that is there is touched. Throws Problem with every fault of a file that is none.
 */
export async function importProject(db: Database, input: unknown): Promise<ProjectSummary> {
  const parsed = backupSchema.safeParse(input);
  if (!parsed.success) throw new Problem(422, 'Not a backup', parsed.error.issues.map(describeIssue).join('; '));
  const { items: stored, states, files } = parsed.data;
  const items = stored.map(({ id, kind, spec }) => ({ id, kind, spec: readSpec(kind, spec) }));
  checkWhole(items, states);
  const kinds = new Map(items.map((i) => [i.id, i.kind]));
  const specs = states.map((s) => ({ ...s, spec: readSpec(kinds.get(s.item)!, s.spec) }));
  const project = items.find((i) => i.kind === 'project')!;
  return transact(db, async (transaction) => {
    const taken =
      (await db.models.items.count({ where: { id: items.map((i) => i.id) }, transaction })) +
      (await db.models.projects.count({ where: { id: project.id }, transaction }));
    const copy = taken > 0 ? underNewIds(items, `${project.spec.name} (imported)`) : { id: project.id, items };
    const newId = new Map(items.map((item, at) => [item.id, copy.items[at]!.id]));
    await filesIn(db, files, transaction);
    const before = specs.map(({ item, version, savedAt, keptAs, spec }) => ({
      itemId: newId.get(item)!,
      version,
      spec,
      keptAs,
      createdAt: new Date(savedAt),
    }));
    return insertProject(db, copy.id, copy.items, before, transaction);
  });
}

/** One project, every id and every saved state once (the database takes capitals for small letters), one each of the kinds of which a project has one. */
function checkWhole(items: readonly Pick<Item, 'id' | 'kind'>[], states: Backup['states']): void {
  const faults: string[] = [];
  const twice = (keys: readonly string[]) => new Set(keys.map((k) => k.toLowerCase())).size !== keys.length;
  if (twice(items.map((i) => i.id))) faults.push('an id stands twice');
  const ids = new Set(items.map((i) => i.id));
  const lost = states.find((s) => !ids.has(s.item));
  if (lost) faults.push(`a saved state is of an item that is not there, ${lost.item}`);
  if (twice(states.map((s) => `${s.item} ${s.version}`))) faults.push('a saved state stands twice');
  for (const kind of ITEM_KINDS) {
    const count = items.filter((i) => i.kind === kind).length;
    if (!KINDS[kind].many && count !== 1 && (kind === 'project' || count > 1)) faults.push(`there must be one ${KINDS[kind].label}, not ${count}`);
  }
  if (faults.length > 0) throw new Problem(422, 'Not a backup', faults.join('; '));
}
