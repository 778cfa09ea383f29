import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const nimbret = join(import.meta.dirname, '..', '..', 'nimbret');
export const isRoot = process.getuid?.() === 0;

const folders: string[] = [];
const homes = new Set<string>();

/** A folder of its own, gone after `cleanUp`. */
export function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'nimbret-place-'));
  folders.push(made);
  return made;
}

/** Where the data of a state folder lie: as root where the database's own user may go. */
export function homeOf(state: string): string {
  if (!isRoot) return state;
  const home = join('/var/lib/nimbret', readFileSync(join(state, 'id'), 'utf8').trim());
  homes.add(home);
  return home;
}

/** Ends what runs in these folders and removes them, and the data that root keeps elsewhere. */
export function cleanUp(states: readonly string[]): void {
  for (const state of states) nimbretIn(state, ['stop']);
  for (const path of [...folders.splice(0), ...homes]) rmSync(path, { recursive: true, force: true });
}

/** Runs a command on a state folder, from a folder that is none of the project's. */
export function nimbretIn(state: string, args: readonly string[], env: Record<string, string> = {}, program: readonly string[] = ['bash', nimbret]) {
  const own = { ...process.env, NIMBRET_STATE: state, NIMBRET_DB_PORT: '33120', ...env };
  delete (own as Record<string, string | undefined>).NIMBRET_DATABASE_URL;
  const { status, stdout, stderr } = spawnSync(program[0]!, [...program.slice(1), ...args], { env: own, cwd: tmpdir(), encoding: 'utf8', timeout: 150_000 });
  return { status, said: stdout + stderr };
}
