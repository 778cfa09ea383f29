import { QueryTypes } from 'sequelize';
import { databaseUrl } from '../config';
import { openDatabase, type Database } from '../database';
import { Problem } from '../problem';

/** A real MariaDB: an empty database `nimbret_test_NAME` beside the one of NIMBRET_DATABASE_URL, whose tables are never touched. */
export async function openTestDatabase(name: string): Promise<Database> {
  const own = `nimbret_test_${name}`;
  const server = openDatabase(databaseUrl());
  await server.sequelize.query(`DROP DATABASE IF EXISTS ${own}`);
  await server.sequelize.query(`CREATE DATABASE ${own} CHARACTER SET utf8mb4`);
  await server.sequelize.close();
  return openDatabase(databaseUrl().replace(/\/[^/]*$/, `/${own}`));
}

export async function closeTestDatabase(db: Database): Promise<void> {
  await db.sequelize.query(`DROP DATABASE ${db.sequelize.getDatabaseName()}`);
  await db.sequelize.close();
}

/** The problem a call ends with; fails where it ends well or otherwise. */
export async function problemOf(run: Promise<unknown>): Promise<Problem> {
  const error = await run.then(
    () => null,
    (e: unknown) => e,
  );
  if (!(error instanceof Problem)) throw new Error(`expected a problem, got ${String(error)}`);
  return error;
}

export const rowsOf = <T extends object>(db: Database, sql: string, ...replacements: unknown[]): Promise<T[]> =>
  db.sequelize.query<T>(sql, { replacements, type: QueryTypes.SELECT });
