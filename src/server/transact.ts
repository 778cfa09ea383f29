import { DatabaseError, Transaction } from 'sequelize';
import type { Database } from './database';
import type { ProjectRow } from './models';
import { notFound } from './problem';

/** Deadlock, lock wait timeout, and a row changed since it was read: nothing was done, so the whole can be tried again. */
const TRY_AGAIN = new Set([1213, 1205, 1020]);
const TRIES = 6;

/** The database's own number of an error, as Sequelize tells it or the connector itself. */
const errno = (error: unknown): number => ((error instanceof DatabaseError ? error.original : error) as { errno?: number }).errno ?? 0;

/**
 * Runs a transaction; where the database breaks it off for another's sake it is run again after a little while. `within` one
 * that runs already it is part of that one.
 */
export async function transact<T>({ sequelize }: Database, run: (transaction: Transaction) => Promise<T>, within: Transaction | null = null): Promise<T> {
  if (within) return run(within);
  for (let tried = 1; ; tried++) {
    try {
      return await sequelize.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.READ_COMMITTED }, run);
    } catch (error) {
      if (tried === TRIES || !TRY_AGAIN.has(errno(error))) throw error;
      await new Promise((done) => setTimeout(done, 10 * tried * (1 + Math.random())));
    }
  }
}

/**
 * Locks a project for the rest of the transaction. Always the first thing asked for, so that two saves wait for each other
 * instead of each for a row of the other.
 */
export async function lockProject({ models }: Database, id: string, transaction: Transaction, deleted = false): Promise<ProjectRow> {
  const row = await models.projects.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
  if (!row || (row.deletedAt !== null && !deleted)) throw notFound('project');
  return row;
}
