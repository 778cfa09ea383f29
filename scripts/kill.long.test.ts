import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, expect, it } from 'vitest';
import { newProjectItems } from '../src/core/project/contents';
import { newClipSpec } from '../src/core/travel/clip-spec';
import { FILE_PART_BYTES } from '../src/server/config';
import { cleanUp, folder, homeOf, nimbret, nimbretIn } from './tests/places';

/**
 * kill −9 of the importer and its database while a backup with a clip of 70 MB comes in: what was acknowledged is there, nothing by
 * halves. Three kills here, ten and more by NIMBRET_KILLS.
 */
const ROUNDS = Number(process.env.NIMBRET_KILLS ?? 3);
const CLIP_BYTES = 70_000_000;
const base = folder();
const state = join(base, 'state');
const out = join(base, 'out.json');
afterAll(() => cleanUp([state]));

const bytes = randomBytes(CLIP_BYTES);
const partsOf = (from: number, to: number): string[] => {
  const parts: string[] = [];
  for (let at = from; at < to; at += FILE_PART_BYTES)
    parts.push(gzipSync(bytes.subarray(at, Math.min(to, at + FILE_PART_BYTES)), { level: 1 }).toString('base64'));
  return parts;
};
const later = partsOf(FILE_PART_BYTES, CLIP_BYTES);

/** A backup of a project with a clip of random bytes, another each time, and saved states of a gait. */
function backup(): { path: string; hash: string } {
  randomBytes(64).copy(bytes);
  const hash = createHash('sha256').update(bytes).digest('hex');
  const items = newProjectItems('storm', 'Through the storm', () => crypto.randomUUID()).map(({ id, kind, spec }) => ({ id, kind, spec }));
  const clip = newClipSpec('Long recording', { name: 'long.bvh', hash, bytes: CLIP_BYTES, index: 0, skeleton: 'none' });
  const gait = items.find((i) => i.kind === 'gait')!;
  const states = Array.from({ length: 40 }, (_, i) => ({ item: gait.id, version: i + 1, savedAt: '2026-01-01T00:00:00.000Z', keptAs: null, spec: gait.spec }));
  const path = join(base, 'storm.json');
  writeFileSync(
    path,
    JSON.stringify({
      format: 'nimbret.backup',
      version: 1,
      items: [...items, { id: crypto.randomUUID(), kind: 'clip', spec: clip }],
      states,
      files: [{ hash, size: CLIP_BYTES, parts: [...partsOf(0, FILE_PART_BYTES), ...later] }],
    }),
  );
  return { path, hash };
}

/** Ids of the projects there are: the refusal of one that is not there names them. Starts the database where it is down. */
function projects(): string[] {
  const { said } = nimbretIn(state, ['export', 'no such project', '--out', out]);
  expect(said).toContain('there is no project');
  return [...said.matchAll(/" \(([0-9a-z-]{5,36})\)/g)].map((m) => m[1]!);
}

/** Imports; after so long (ms) everything is killed. Whether it was acknowledged before, and how long it took where nothing was. */
async function bringIn(path: string, killAfter: number | null): Promise<{ acknowledged: boolean; ms: number }> {
  const env = { ...process.env, NIMBRET_STATE: state, NIMBRET_DB_PORT: '33120' };
  delete (env as Record<string, string | undefined>).NIMBRET_DATABASE_URL;
  const start = performance.now();
  const child = spawn('bash', [nimbret, 'import', path], { env, detached: true, stdio: ['ignore', 'pipe', 'ignore'] });
  let said = '';
  child.stdout.on('data', (part) => (said += String(part)));
  const ended = new Promise<void>((done) => child.on('close', () => done()));
  const killed = () => {
    spawnSync('pkill', ['-9', '-f', `datadir=${join(homeOf(state), 'mariadb')}`]);
    process.kill(-child.pid!, 'SIGKILL');
  };
  const timer = killAfter === null ? null : setTimeout(killed, killAfter);
  await ended;
  if (timer) clearTimeout(timer);
  return { acknowledged: said.includes('Through the storm'), ms: performance.now() - start };
}

it('kills of importer and database lose nothing acknowledged and leave no half project', async () => {
  const { path, hash } = backup();
  expect(projects()).toEqual([]);
  const whole = await bringIn(path, null);
  expect(whole.acknowledged).toBe(true);
  let known = projects();
  expect(known).toHaveLength(1);
  let broken = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const { acknowledged } = await bringIn(path, whole.ms * (0.3 + (0.75 * round) / (ROUNDS - 1)));
    const now = projects();
    expect(now.slice().sort()).toEqual(expect.arrayContaining(known.slice().sort()));
    expect(now.length - known.length, `round ${round}`).toBeLessThanOrEqual(1);
    if (acknowledged) expect(now.length).toBe(known.length + 1);
    if (now.length === known.length) broken++;
    known = now;
  }
  // Otherwise nothing was broken off.
  expect(broken).toBeGreaterThan(0);
  // What is there is there whole: items, history, file.
  for (const id of new Set([known[0]!, known.at(-1)!])) {
    expect(nimbretIn(state, ['export', id, '--out', out]).status).toBe(0);
    const stored = JSON.parse(readFileSync(out, 'utf8')) as { items: { kind: string }[]; states: unknown[]; files: { hash: string; size: number }[] };
    expect(stored.items.filter((i) => i.kind === 'clip')).toHaveLength(1);
    expect(stored.states.length).toBeGreaterThanOrEqual(40);
    expect(stored.files.map((f) => [f.hash, f.size])).toEqual([[hash, CLIP_BYTES]]);
  }
}, 600_000);
