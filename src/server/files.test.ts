import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newClipSpec } from '@/core/travel/clip-spec';
import { FILE_PART_BYTES } from './config';
import { migrate, type Database } from './database';
import { fileParts, fileSize, keepPart, partTold } from './files';
import { createProject } from './projects';
import { purge } from './purge';
import { addItem, setItemRemoved } from './single';
import { closeTestDatabase, openTestDatabase, problemOf, rowsOf } from './tests/database';

let db: Database;
beforeAll(async () => {
  db = await openTestDatabase('files');
  await migrate(db);
});
afterAll(() => closeTestDatabase(db));

const made = (size: number, seed: number) => Buffer.from({ length: size } as ArrayLike<number>).map((_, i) => (i * seed) % 251) as Buffer;
const hashOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
const part = (bytes: Buffer, n: number) => bytes.subarray(n * FILE_PART_BYTES, (n + 1) * FILE_PART_BYTES);
async function keep(bytes: Buffer, hash = hashOf(bytes), order?: number[]): Promise<void> {
  const parts = order ?? Array.from({ length: Math.ceil(bytes.length / FILE_PART_BYTES) }, (_, n) => n);
  for (const n of parts) await keepPart(db, { hash, size: bytes.length, part: n }, part(bytes, n));
}
const read = async (hash: string) => {
  const parts: Buffer[] = [];
  for await (const p of fileParts(db, hash)) parts.push(p);
  return Buffer.concat(parts);
};

describe('files brought in', () => {
  it('come back byte for byte, whatever order their parts came in, and twice are one', async () => {
    const bytes = made(2 * FILE_PART_BYTES + 777, 7);
    const hash = hashOf(bytes);
    await keepPart(db, { hash, size: bytes.length, part: 2 }, part(bytes, 2));
    expect((await problemOf(fileSize(db, hash))).status).toBe(404);
    await keep(bytes, hash, [0, 1]);
    expect(await fileSize(db, hash)).toBe(bytes.length);
    expect((await read(hash)).equals(bytes)).toBe(true);
    await keep(bytes);
    expect(await rowsOf(db, 'SELECT COUNT(*) AS n FROM blob_parts WHERE hash = ?', hash)).toEqual([{ n: 3 }]);
  });

  it('that are not what their name says are let go, and parts of the wrong size refused', async () => {
    const bytes = made(5000, 3);
    const other = hashOf(made(10, 1));
    expect((await problemOf(keep(bytes, other))).status).toBe(422);
    expect((await problemOf(fileSize(db, other))).status).toBe(404);
    expect(await rowsOf(db, 'SELECT COUNT(*) AS n FROM blob_parts WHERE hash = ?', other)).toEqual([{ n: 0 }]);
    expect((await problemOf(keepPart(db, { hash: hashOf(bytes), size: 5000, part: 0 }, bytes.subarray(1)))).status).toBe(422);
  });

  it('are told by hash, part and size, and by nothing else', async () => {
    const good = 'a'.repeat(64);
    expect(partTold(good, '0', '12')).toEqual({ hash: good, size: 12, part: 0 });
    for (const [hash, n, size, status] of [
      ['../x', '0', '12', 422],
      [good, '1', '12', 422],
      [good, '-1', '12', 422],
      [good, '0', '999999999999', 413],
      [good, '0', 'NaN', 413],
      [good, '0', null, 413],
    ] as const)
      expect((await problemOf((async () => partTold(hash, n, size))())).status).toBe(status);
  });

  it('stay while a clip or a saved state names them, and go some days after', async () => {
    const [used, loose] = [made(3000, 11), made(3000, 13)];
    await keep(used);
    await keep(loose);
    const project = await createProject(db, 'Quay');
    const file = { hash: hashOf(used), name: 'walk.bvh', bytes: used.length, index: 0, skeleton: '1-x' };
    const { id } = await addItem(db, project.id, 'clip', newClipSpec('Walk', file));
    // A project may have no clip at all: the last one can go.
    await setItemRemoved(db, project.id, 'clip', id, true);
    const day = 24 * 3600 * 1000;
    await purge(db, Date.now() + 3 * day);
    expect(await fileSize(db, hashOf(used))).toBe(3000);
    expect((await problemOf(fileSize(db, hashOf(loose)))).status).toBe(404);
    await purge(db, Date.now() + 40 * day);
    expect((await problemOf(fileSize(db, hashOf(used)))).status).toBe(404);
  });
});
