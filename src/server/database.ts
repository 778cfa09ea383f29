import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { databaseUrl } from './config';
import { MIGRATIONS } from './migrations';
import { defineModels, type Models } from './models';

export interface Database {
  readonly sequelize: Sequelize;
  readonly models: Models;
}

/** Opens a database by its URL. Close `sequelize` when done. */
export function openDatabase(url: string): Database {
  const sequelize = new Sequelize(url.replace(/^mysql:/, 'mariadb:'), {
    dialect: 'mariadb',
    logging: false,
    pool: { max: 8, acquire: 20_000 },
    dialectOptions: { connectTimeout: 15_000 },
  });
  return { sequelize, models: defineModels(sequelize) };
}

// One pool a process; a development reload keeps it instead of leaking connections.
const shared = globalThis as { nimbretDatabase?: Database };

/** The server's database. */
export function database(): Database {
  return (shared.nimbretDatabase ??= openDatabase(databaseUrl()));
}

/** Runs the migrations that have not run yet; returns their names. */
export async function migrate({ sequelize }: Database): Promise<string[]> {
  const umzug = new Umzug({
    migrations: MIGRATIONS.map((m) => ({ name: m.name, up: () => m.up(sequelize.getQueryInterface()) })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  return (await umzug.up()).map((m) => m.name);
}
