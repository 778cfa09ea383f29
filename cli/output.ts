import { rmSync } from 'node:fs';
import { mkdir, readdir, rename, rm, rmdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { InputFault } from './input';

/** What is being written and not whole yet; taken away again when the command is broken off. */
const unfinished = new Set<string>();

/** Takes unfinished files and folders away when the command is interrupted, and ends with the signal's status. */
export function cleanUpOnSignals(): void {
  for (const [signal, number] of [
    ['SIGINT', 2],
    ['SIGTERM', 15],
    ['SIGHUP', 1],
  ] as const)
    process.on(signal, () => {
      for (const path of unfinished) rmSync(path, { recursive: true, force: true });
      process.stderr.write('nimbret: interrupted; nothing was left behind\n');
      process.exit(128 + number);
    });
}

/** Words for a standard output that is closed or full; a reader that has had enough is no fault. */
export function watchOutput(): void {
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') process.stderr.write(`nimbret: the output cannot be written (${reasonOf(error)})\n`);
    process.exit(error.code === 'EPIPE' ? 0 : 2);
  });
  process.stderr.on('error', () => process.exit(2));
}

const REASONS: Readonly<Record<string, string>> = {
  ENOSPC: 'the disk is full',
  EDQUOT: 'the quota is used up',
  EACCES: 'no permission',
  EROFS: 'the disk is read only',
  ENOENT: 'its folder does not exist',
  ENOTDIR: 'a file stands where a folder should be',
  EISDIR: 'a folder of that name is there',
  EFBIG: 'the file is too large for the disk',
};
const reasonOf = (error: unknown): string => {
  const { code } = error as NodeJS.ErrnoException;
  return (code && REASONS[code]) ?? code ?? String(error);
};

async function whole<T>(path: string, beside: string, work: () => Promise<T>): Promise<T> {
  unfinished.add(beside);
  try {
    return await work();
  } catch (error) {
    await rm(beside, { recursive: true, force: true }).catch(() => undefined);
    throw error instanceof InputFault ? error : new InputFault([`${path}: cannot be written (${reasonOf(error)}); nothing was left behind`]);
  } finally {
    unfinished.delete(beside);
  }
}

/** Writes beside, then renames: a file is never left half written. */
export async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
  const beside = `${path}.${process.pid}.part`;
  await whole(path, beside, async () => {
    await writeFile(beside, bytes);
    await rename(beside, path);
  });
}

/**
 * Fills a folder with files: all are written beside it first. Of one that is there already `last` is taken away before anything
 * else is replaced and comes in at the end, so that a folder with it is always whole.
 */
export async function writeFolder(folder: string, files: readonly { readonly name: string; readonly bytes: Uint8Array }[], last: string): Promise<void> {
  const beside = `${folder.replace(/\/+$/, '')}.${process.pid}.part`;
  await whole(folder, beside, async () => {
    await mkdir(dirname(beside), { recursive: true });
    await mkdir(beside);
    for (const { name, bytes } of files) await writeFile(join(beside, name), bytes);
    const there = await readdir(folder).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return null;
      throw error;
    });
    if (there === null || there.length === 0) {
      if (there) await rmdir(folder);
      return rename(beside, folder);
    }
    await rm(join(folder, last), { force: true });
    for (const { name } of [...files].sort((a, b) => Number(a.name === last) - Number(b.name === last))) await rename(join(beside, name), join(folder, name));
    await rmdir(beside);
  });
}
