import { Op } from 'sequelize';
import type { Database } from './database';
import { transact } from './transact';

/** How long deleted projects and removed items can be brought back, days. */
const KEPT_DAYS = 30;
const DAY_MS = 24 * 3600 * 1000;

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
    return { projects, items };
  });
}
