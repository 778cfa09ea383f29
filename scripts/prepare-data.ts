import { databaseUrl } from '../src/server/config';
import { migrate, openDatabase, putTablesAside } from '../src/server/database';
import { purge } from '../src/server/purge';
import { ensureDemoProject } from '../src/server/projects';

/**
 * Runs the migrations and makes the demo project. `--aside` first gives what tables are there names of their own, with the date;
 * `--empty`, for the data of tests, drops them.
 */
const db = openDatabase(databaseUrl());
const tables = db.sequelize.getQueryInterface();
try {
  if (process.argv.includes('--empty')) await tables.dropAllTables();
  if (process.argv.includes('--aside')) {
    const kept = await putTablesAside(db);
    if (kept) console.log(`  the tables that were there are kept as ${kept}…`);
  }
  const ran = await migrate(db);
  console.log(ran.length > 0 ? `  migrations: ${ran.join(', ')}` : '  migrations: up to date');
  const gone = await purge(db);
  if (gone.projects + gone.items > 0) console.log(`  let go for good: ${gone.projects} projects, ${gone.items} items`);
  const demo = await ensureDemoProject(db);
  console.log(`  demo project: ${demo.name}`);
} catch (error) {
  console.error(`  ${error instanceof Error ? error.message : String(error)}`);
  process.exitCode = 1;
} finally {
  await db.sequelize.close();
}
