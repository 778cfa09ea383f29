import { Op, type Transaction } from 'sequelize';
import type { Database } from './database';
import { transact } from './transact';

/** How long deleted projects and removed items can be brought back, days. */
const KEPT_DAYS = 30;
const DAY_MS = 24 * 3600 * 1000;

/** A file no clip is of any more, nor any saved state of one, is kept for so many days: a window may be about to use it. */
const FILE_DAYS = 2;

/** Lets go for good what was deleted longer than KEPT_DAYS ago; returns how many projects and items that were. */
export async function purge(db: Database, now = Date.now()): Promise<{ projects: number; items: number }> {
  const { models } = db;
  const before = { deletedAt: { [Op.lt]: new Date(now - KEPT_DAYS * DAY_MS) } };
  return transact(db, async (transaction) => {
    const gone = await models.items.findAll({ where: before, attributes: ['id'], transaction });
    await models.revisions.destroy({ where: { itemId: gone.map((i) => i.id) }, transaction });
    const items = await models.items.destroy({ where: before, transaction });
    // Items and saved states of a project go with it.
    const projects = await models.projects.destroy({ where: before, transaction });
    await purgeFiles(db, now, transaction);
    return { projects, items };
  });
}

/** Lets files go that nothing names. */
async function purgeFiles({ models, sequelize }: Database, now: number, transaction: Transaction): Promise<void> {
  const unused = await models.blobs.findAll({
    where: {
      createdAt: { [Op.lt]: new Date(now - FILE_DAYS * DAY_MS) },
      hash: {
        [Op.notIn]: sequelize.literal(
          "(SELECT JSON_VALUE(spec, '$.file.hash') FROM items WHERE kind = 'clip' UNION SELECT JSON_VALUE(spec, '$.file.hash') FROM revisions WHERE kind = 'clip')",
        ) as never,
      },
    },
    attributes: ['hash'],
    transaction,
  });
  const hashes = unused.map((b) => b.hash);
  if (hashes.length === 0) return;
  await models.blobParts.destroy({ where: { hash: hashes }, transaction });
  await models.blobs.destroy({ where: { hash: hashes }, transaction });
}
