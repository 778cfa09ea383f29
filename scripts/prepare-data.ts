import { databaseUrl } from '../src/server/config';
import { migrate, openDatabase } from '../src/server/database';
import { purge } from '../src/server/purge';
import { ensureDemoProject } from '../src/server/projects';

/** Runs the migrations and makes the demo project; `--fresh` drops every table first. */
const db = openDatabase(databaseUrl());
try {
  if (process.argv.includes('--fresh')) await db.sequelize.getQueryInterface().dropAllTables();
  const ran = await migrate(db);
  console.log(ran.length > 0 ? `  migrations: ${ran.join(', ')}` : '  migrations: up to date');
  const gone = await purge(db);
  if (gone.projects + gone.items > 0) console.log(`  let go for good: ${gone.projects} projects, ${gone.items} items`);
  const demo = await ensureDemoProject(db);
  console.log(`  demo project: ${demo.name}`);
} finally {
  await db.sequelize.close();
}
