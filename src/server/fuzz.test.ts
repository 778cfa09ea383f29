import { afterAll, beforeAll, expect, it } from 'vitest';
import { mutantJson } from '@/core/formats/tests/mutants';
import { seeded } from '@/core/math/random';
import { exportProject, importProject } from './backup';
import { FILE_LIMIT_BYTES } from './config';
import { migrate, type Database } from './database';
import { keepPart, partTold } from './files';
import { Problem } from './problem';
import { createProject, openProject } from './projects';
import { closeTestDatabase, openTestDatabase, rowsOf } from './tests/database';

/** Mutants of each kind; `npm run fuzz` takes many more. */
const MUTANTS = Number(process.env.NIMBRET_FUZZ ?? 400);

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase('fuzz');
  await migrate(db);
});
afterAll(() => closeTestDatabase(db));

it(`${MUTANTS} mutants of a backup are refused in our words and leave nothing, or come in and open whole`, { timeout: 1_800_000 }, async () => {
  const { id } = await createProject(db, 'Shore');
  const backup = JSON.parse(JSON.stringify(await exportProject(db, id))) as unknown;
  const seen = { read: 0, refused: 0 };
  for (let n = 0; n < MUTANTS; n++) {
    await db.sequelize.query('DELETE FROM projects');
    const mutant = mutantJson(backup, seeded(3000 + n));
    try {
      const made = await importProject(db, mutant);
      const { broken } = await openProject(db, made.id);
      expect([n, broken]).toEqual([n, []]);
      seen.read++;
    } catch (error) {
      if (!(error instanceof Problem) || error.status >= 500) throw new Error(`backup ${n}: ${String(error).slice(0, 300)}`, { cause: error });
      expect([n, await rowsOf(db, 'SELECT id FROM items')]).toEqual([n, []]);
      seen.refused++;
    }
  }
  expect(Math.min(seen.read, seen.refused)).toBeGreaterThan(MUTANTS / 50);
});

it(`${MUTANTS} odd parts of files are refused in our words`, { timeout: 600_000 }, async () => {
  const odd = ['', '0', '1', '-1', '1e9', '9999', '00', 'x', '0x10', ' 0', '99999999999', String(FILE_LIMIT_BYTES), 'NaN', '3'];
  const kinds = new Set<number>();
  for (let n = 0; n < MUTANTS; n++) {
    const rand = seeded(n);
    const any = () => odd[Math.floor(rand() * odd.length)]!;
    const hash = rand() < 0.7 ? 'ab'.repeat(32) : any().padEnd(64, 'G');
    try {
      await keepPart(db, partTold(hash, any(), rand() < 0.1 ? null : any()), Buffer.alloc(Math.floor(rand() * 5)));
    } catch (error) {
      if (!(error instanceof Problem)) throw new Error(`part ${n}: ${String(error)}`, { cause: error });
      kinds.add(error.status);
    }
  }
  expect([...kinds].sort()).toEqual([413, 422]);
});
