import { randomUUID } from 'node:crypto';
import type { ItemKind } from '@/core/project/kinds';
import { KINDS } from '@/core/project/kinds';
import { saveChanges } from './changes';
import type { Database } from './database';
import { jsonOf } from './models';
import { notFound } from './problem';

/** Saves one item if it still has the version the client knows. */
export async function saveItem(db: Database, projectId: string, kind: ItemKind, id: string, version: number, spec: unknown): Promise<{ version: number }> {
  if (version < 1) throw notFound(KINDS[kind].label);
  const { versions } = await saveChanges(db, projectId, { token: randomUUID(), changes: [{ kind, id, version, spec }] });
  return { version: versions[id]! };
}

/** Adds an item at the end of its kind. */
export async function addItem(db: Database, projectId: string, kind: ItemKind, spec: unknown): Promise<{ id: string; version: number }> {
  const id = randomUUID();
  await saveChanges(db, projectId, { token: randomUUID(), changes: [{ kind, id, version: 0, spec }] });
  return { id, version: 1 };
}

/** Takes an item out of its project as it stands, or with `removed` false brings it back. The last of its kind stays. */
export async function setItemRemoved(db: Database, projectId: string, kind: ItemKind, id: string, removed: boolean): Promise<void> {
  const row = await db.models.items.findOne({ where: { id, projectId, kind } });
  if (!row) throw notFound(KINDS[kind].label);
  if ((row.deletedAt !== null) === removed) return;
  const { version } = row;
  await saveChanges(db, projectId, {
    token: randomUUID(),
    changes: [removed ? { kind, id, version, spec: null } : { kind, id, version, spec: jsonOf(row.spec), back: true }],
  });
}
