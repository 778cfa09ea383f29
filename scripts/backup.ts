import { mkdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { cleanUpOnSignals, watchOutput, writeWhole } from '../cli/output';
import { BACKUP_LIMIT_BYTES, exportProject, importProject } from '../src/server/backup';
import { databaseUrl } from '../src/server/config';
import { migrate, openDatabase, type Database } from '../src/server/database';
import { listProjects, type ProjectSummary } from '../src/server/projects';

/** `export` and `import`: one file a project. */
class Refusal extends Error {}

const [command, ...args] = process.argv.slice(2);

/** The project an id or a name means. */
function named(all: readonly ProjectSummary[], word: string): ProjectSummary {
  const found = all.filter((p) => p.id === word || p.name === word);
  if (found.length === 1) return found[0]!;
  if (found.length > 1) throw new Refusal(`${found.length} projects are called "${word}"; name one by its id: ${found.map((p) => p.id).join(', ')}`);
  throw new Refusal(`there is no project "${word}"; there are: ${all.map((p) => `"${p.name}" (${p.id})`).join(', ') || 'none'}`);
}

const fileName = ({ name, id }: ProjectSummary): string =>
  `${
    name
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '') || 'project'
  }-${id.slice(0, 8)}.json`;

async function writeOut(db: Database): Promise<void> {
  const { values, positionals } = parseArgs({ args, options: { all: { type: 'boolean' }, out: { type: 'string' } }, allowPositionals: true });
  if (values.out === undefined) throw new Refusal('--out is needed: a file, or with --all a folder');
  if ((values.all ? 0 : 1) !== positionals.length)
    throw new Refusal(values.all ? '--all takes no project beside it' : 'export needs one project, by name or id, or --all');
  const all = await listProjects(db);
  const write = async (project: ProjectSummary, path: string) => {
    await writeWhole(path, Buffer.from(`${JSON.stringify(await exportProject(db, project.id), null, 1)}\n`));
    process.stdout.write(`${path}: ${project.name}\n`);
  };
  if (!values.all) return write(named(all, positionals[0]!), values.out);
  await mkdir(values.out, { recursive: true });
  for (const project of all) await write(project, join(values.out, fileName(project)));
}

async function bringIn(db: Database): Promise<void> {
  const { positionals } = parseArgs({ args, options: {}, allowPositionals: true });
  if (positionals.length === 0) throw new Refusal('import needs a file');
  for (const path of positionals) {
    const { size } = await stat(path).catch(() => {
      throw new Refusal(`${path}: cannot be read`);
    });
    if (size > BACKUP_LIMIT_BYTES) throw new Refusal(`${path}: ${size} bytes; the limit is ${BACKUP_LIMIT_BYTES}`);
    const text = await readFile(path, 'utf8').catch(() => {
      throw new Refusal(`${path}: cannot be read`);
    });
    let json: unknown;
    try {
      json = JSON.parse(text);
    } catch {
      throw new Refusal(`${path}: not JSON`);
    }
    const made = await importProject(db, json).catch((error: unknown) => {
      throw new Refusal(`${path}: ${error instanceof Error ? error.message : String(error)}`);
    });
    process.stdout.write(`${path}: ${made.name} (${made.id})\n`);
  }
}

watchOutput();
cleanUpOnSignals();
const db = openDatabase(databaseUrl());
try {
  await migrate(db);
  await (command === 'export' ? writeOut(db) : bringIn(db));
} catch (error) {
  process.stderr.write(`nimbret: ${error instanceof Error ? error.message : String(error)}\n`);
  process.exitCode = 2;
} finally {
  await db.sequelize.close();
}
