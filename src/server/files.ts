import { createHash } from 'node:crypto';
import type { Connection } from 'mariadb';
import type { Transaction } from 'sequelize';
import type { Database } from './database';
import { FILE_LIMIT_BYTES, FILE_PART_BYTES } from './config';
import { notFound, Problem } from './problem';
import { transact } from './transact';

/** What is known of a file that is coming in. */
export interface FileTold {
  readonly hash: string;
  readonly size: number;
}

const HASH = /^[0-9a-f]{64}$/;

/** Reads what an address says of a file's part; throws Problem where it makes no sense. */
export function partTold(hash: string, part: string, size: string | null): FileTold & { part: number } {
  const bytes = Number(size),
    n = Number(part);
  if (!HASH.test(hash)) throw new Problem(422, 'Not valid', 'A file is named by the SHA-256 of its bytes.');
  if (!Number.isInteger(bytes) || bytes < 1 || bytes > FILE_LIMIT_BYTES)
    throw new Problem(413, 'Too large', `A file may have up to ${FILE_LIMIT_BYTES} bytes.`);
  if (!/^\d{1,4}$/.test(part) || n >= Math.ceil(bytes / FILE_PART_BYTES)) throw new Problem(422, 'Not valid', 'There is no such part of a file of this size.');
  return { hash, size: bytes, part: n };
}

/** Keeps one part of a file. Once the last one is there the whole is measured; one that is not what its name says is let go. */
export async function keepPart(
  db: Database,
  { hash, size, part }: FileTold & { part: number },
  bytes: Buffer,
  within: Transaction | null = null,
): Promise<{ whole: boolean }> {
  const { blobs, blobParts } = db.models;
  const parts = Math.ceil(size / FILE_PART_BYTES);
  const expected = part + 1 < parts ? FILE_PART_BYTES : size - (parts - 1) * FILE_PART_BYTES;
  if (bytes.byteLength !== expected) throw new Problem(422, 'Not valid', `Part ${part} of this file has ${expected} bytes, not ${bytes.byteLength}.`);
  return transact(
    db,
    async (transaction) => {
      const known = await blobs.findByPk(hash, { transaction, lock: transaction.LOCK.UPDATE });
      if (known?.whole) return { whole: true };
      if (known && known.size !== size) throw new Problem(409, 'Changed elsewhere', 'The same file is coming in with another size.');
      if (!known) await blobs.create({ hash, mediaType: 'application/octet-stream', size, parts }, { transaction });
      await putPart(transaction, hash, part, bytes);
      if ((await blobParts.count({ where: { hash }, transaction })) < parts) return { whole: false };
      const sum = createHash('sha256');
      for (let n = 0; n < parts; n++) sum.update((await blobParts.findOne({ where: { hash, part: n }, transaction }))!.bytes);
      if (sum.digest('hex') === hash) await blobs.update({ whole: true }, { where: { hash }, transaction });
      else {
        await blobParts.destroy({ where: { hash }, transaction });
        await blobs.destroy({ where: { hash }, transaction });
        return { whole: false, broken: true };
      }
      return { whole: true };
    },
    within,
  ).then((result) => {
    if ('broken' in result) throw new Problem(422, 'Not valid', 'The file that came in is not the one that was named: it was let go.');
    return result;
  });
}

/** Writes a part by the connector itself, which sends bytes as they are; through Sequelize they would go as text twice as long. */
async function putPart(transaction: Transaction, hash: string, part: number, bytes: Buffer): Promise<void> {
  const { connection } = transaction as unknown as { connection: Connection };
  await connection.query('REPLACE INTO blob_parts (hash, part, bytes) VALUES (?, ?, ?)', [hash, part, bytes]);
}

/** Size of a file that is wholly there. */
export async function fileSize(db: Database, hash: string): Promise<number> {
  const row = HASH.test(hash) ? await db.models.blobs.findByPk(hash) : null;
  if (!row?.whole) throw notFound('file');
  return row.size;
}

/** The bytes of a file, part by part. */
export async function* fileParts(db: Database, hash: string): AsyncGenerator<Buffer> {
  const row = await db.models.blobs.findByPk(hash);
  for (let part = 0; part < (row?.parts ?? 0); part++) {
    const found = await db.models.blobParts.findOne({ where: { hash, part } });
    if (!found) throw notFound('file');
    yield found.bytes;
  }
}
