import { QueryTypes, Sequelize } from 'sequelize';
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

/** Tables put aside begin with this. */
const ASIDE = 'aside_';

/** Gives every table a name with the date, all in one step; returns how those names begin, null where there were none. */
export async function putTablesAside({ sequelize }: Database, now = new Date()): Promise<string | null> {
  const all = await sequelize.query<{ name: string }>('SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()', {
    type: QueryTypes.SELECT,
  });
  const tables = all.map((t) => t.name).filter((name) => !name.startsWith(ASIDE));
  if (tables.length === 0) return null;
  const prefix = `${ASIDE}${now.toISOString().slice(0, 19).replace(/[-:]/g, '')}_`;
  await sequelize.query(`RENAME TABLE ${tables.map((t) => `\`${t}\` TO \`${prefix}${t}\``).join(', ')}`);
  return prefix;
}
