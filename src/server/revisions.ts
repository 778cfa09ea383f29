import type { Transaction } from 'sequelize';
import { differences } from '@/core/gait/compare';
import { fitGait } from '@/core/gait/fit';
import type { GaitSpec } from '@/core/gait/spec';
import type { Item, ItemKind } from '@/core/project/kinds';
import type { Database } from './database';
import { jsonOf, type RevisionRow } from './models';
import { notFound } from './problem';
import { readSpec } from './specs';
import { fadedStates } from './thinning';
import { lockProject, transact } from './transact';

/** A saved state of an item, with what changed since the one listed before it. */
export interface SavedState {
  readonly version: number;
  readonly savedAt: string;
  readonly keptAs: string | null;
  readonly changed: readonly string[];
  readonly spec: Item['spec'];
}

/** Lets the saved states of an item that have aged go. */
export async function thin({ models }: Database, itemId: string, transaction: Transaction, now = Date.now()): Promise<void> {
  const rows = await models.revisions.findAll({ where: { itemId }, attributes: ['id', 'createdAt', 'keptAs'], order: [['version', 'ASC']], transaction });
  const faded = fadedStates(
    rows.map((r) => ({ id: r.id, savedAt: r.createdAt.getTime(), kept: r.keptAs !== null })),
    now,
  );
  if (faded.length > 0) await models.revisions.destroy({ where: { id: faded }, transaction });
}

/** Saved states of an item, latest first. */
export async function listSavedStates(db: Database, projectId: string, kind: ItemKind, itemId: string): Promise<SavedState[]> {
  return transact(db, async (transaction) => {
    await lockProject(db, projectId, transaction);
    await thin(db, itemId, transaction);
    const rows = await db.models.revisions.findAll({ where: { projectId, kind, itemId, removed: false }, order: [['version', 'ASC']], transaction });
    const states = rows.map((r) => ({ row: r, spec: readSpec(kind, jsonOf(r.spec)) }));
    return states.map(({ row, spec }, i) => stateOf(row, spec, i > 0 ? states[i - 1]!.spec : null)).reverse();
  });
}

const stateOf = (row: RevisionRow, spec: Item['spec'], before: Item['spec'] | null): SavedState => ({
  version: row.version,
  savedAt: row.createdAt.toISOString(),
  keptAs: row.keptAs,
  changed: before ? changedWords(row.kind, before, spec) : [],
  spec,
});

/** Labels of what differs between two states of an item. */
function changedWords(kind: ItemKind, before: Item['spec'], after: Item['spec']): string[] {
  if (kind === 'gait') {
    const was = before as GaitSpec,
      is = after as GaitSpec;
    const words = differences(fitGait(was, is.legLength), is).map((d) => d.label);
    if (was.legLength !== is.legLength) words.unshift('Fitted to other legs');
    if (was.name !== is.name) words.unshift('Name');
    return [...new Set(words)];
  }
  return Object.keys(after).filter((k) => JSON.stringify((after as never)[k]) !== JSON.stringify((before as never)[k]));
}

/** Gives a saved state a name under which it is kept for good, or with null lets it age again. */
export async function keepSavedState(db: Database, projectId: string, itemId: string, version: number, keptAs: string | null): Promise<void> {
  await transact(db, async (transaction) => {
    await lockProject(db, projectId, transaction);
    const row = await db.models.revisions.findOne({ where: { projectId, itemId, version, removed: false }, transaction });
    if (!row) throw notFound('saved state');
    await row.update({ keptAs }, { transaction });
  });
}
