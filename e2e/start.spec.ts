import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Server, type Socket } from 'node:net';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { cleanUp, folder, homeOf, nimbret } from '../scripts/tests/places';

// They start databases on one port: one after another.
test.describe.configure({ mode: 'default' });

/** Places made here: gone afterwards, with their databases. */
const places: string[] = [];
test.afterAll(() => cleanUp(places));

/** A place of its own for one start: its data are nobody else's. */
const place = () => {
  const state = join(folder(), 'state');
  places.push(state);
  return state;
};
const environment = (state: string, more: Record<string, string> = {}) => {
  const env = { ...process.env };
  delete env.NIMBRET_DATABASE_URL;
  return { ...env, NIMBRET_STATE: state, NIMBRET_DB_PORT: '33091', ...more };
};
const run = (state: string, args: string[], more: Record<string, string> = {}) => {
  const { status, stdout, stderr } = spawnSync('bash', [nimbret, ...args], { env: environment(state, more), encoding: 'utf8', timeout: 80_000 });
  return { status, out: stdout, err: stderr, lines: stderr.trim().split('\n').filter(Boolean) };
};

/** Starts the application in a place and waits until it answers. */
async function start(state: string, port: number): Promise<ChildProcess> {
  const child = spawn('bash', [nimbret, 'demo', '--port', String(port)], { env: environment(state), stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  child.stdout.on('data', (part) => (said += String(part)));
  child.stderr.on('data', (part) => (said += String(part)));
  await expect.poll(() => said, { timeout: 60_000 }).toContain('ready:');
  return child;
}
const ended = (child: ChildProcess) => new Promise<void>((done) => (child.exitCode !== null || child.signalCode ? done() : child.once('exit', () => done())));
const api = (port: number, path: string, init?: RequestInit) =>
  fetch(`http://127.0.0.1:${port}/api/projects${path}`, { ...init, signal: AbortSignal.timeout(8000) });
const write = (port: number, path: string, body: unknown) =>
  api(port, path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

/** The number of a process whose command line holds all of the words. */
function processOf(...words: string[]): number {
  const found = spawnSync('ps', ['-eo', 'pid=,args='], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter((l) => words.every((w) => l.includes(w)) && !l.includes('ps -eo'));
  return Number(found[0]?.trim().split(/\s+/)[0] ?? 0);
}

test('options are looked at first: a wrong one costs nothing and is said in one line', () => {
  for (const [args, words] of [
    [['demo', '--port', 'abc'], '--port needs a number from 1 to 65535, not abc'],
    [['demo', '--port', '70000'], '--port needs a number from 1 to 65535, not 70000'],
    [['demo', '--port'], '--port needs a number'],
    [['demo', '--frsh'], 'unknown option --frsh'],
    [['stop', 'now'], 'stop takes no options'],
  ] as const) {
    const state = place();
    const { status, lines } = run(state, [...args]);
    expect([status, lines.length, lines[0]], args.join(' ')).toEqual([2, 1, expect.stringContaining(words)]);
    expect(existsSync(state)).toBe(false);
  }
});

test('what cannot be used is said in one line: a folder that cannot be written, a port that is mute or foreign', async () => {
  const file = place();
  writeFileSync(join(file, '..', 'state'), 'a file where the folder should be');
  const blocked = run(file, ['demo']);
  expect([blocked.status, blocked.lines.length, blocked.lines[0]]).toEqual([1, 1, expect.stringContaining('cannot be written')]);

  const open: Server[] = [];
  const listen = (onConnection: (socket: Socket) => void) =>
    new Promise<number>((done) => {
      const server = createServer((socket) => {
        // Who asked may be gone before it is answered.
        socket.on('error', () => undefined);
        onConnection(socket);
      }).listen(0, '127.0.0.1', () => done((server.address() as { port: number }).port));
      open.push(server);
    });
  const mute = await listen(() => {});
  const foreign = await listen((socket) => socket.end('HTTP/1.1 200 OK\r\nContent-Type: application/json\r\nContent-Length: 2\r\n\r\n[]'));
  for (const port of [mute, foreign]) {
    const child = spawn('bash', [nimbret, 'demo', '--port', String(port)], { env: environment(place()), stdio: ['ignore', 'ignore', 'pipe'] });
    let err = '';
    child.stderr.on('data', (part) => (err += String(part)));
    await ended(child);
    expect([child.exitCode, err.trim()]).toEqual([
      1,
      expect.stringMatching(new RegExp(`^\\[nimbret\\] cannot go on: port ${port} is taken by another program[^\\n]*$`)),
    ]);
  }
  for (const server of open) server.close();
});

test('kill −9 of server and database loses no acknowledged save; a second start mends and stops nothing; stop ends it all', async () => {
  test.setTimeout(240_000);
  const state = place();
  const port = 4291;
  let app = await start(state, port);
  const { id } = (await (await write(port, '', { name: 'Through the storm' })).json()) as { id: string };
  const items = (await (await api(port, `/${id}`)).json()) as { id: string; kind: string; version: number; spec: { steps: number } }[];
  const plan = items.find((i) => i.kind === 'plan')!;
  let version = 1;
  let acknowledged = 0;
  let saving = true;
  const saves = (async () => {
    for (let steps = 10; saving; steps = 10 + ((steps - 9) % 150)) {
      try {
        const answer = await write(port, `/${id}/changes`, {
          token: `storm-${version}-${steps}`,
          changes: [{ kind: 'plan', id: plan.id, version, spec: { ...plan.spec, steps } }],
        });
        if (answer.ok) {
          version = ((await answer.json()) as { versions: Record<string, number> }).versions[plan.id]!;
          acknowledged++;
        } else if (answer.status === 409) version = ((await answer.json()) as { version: number }).version;
        else await new Promise((done) => setTimeout(done, 100));
      } catch {
        await new Promise((done) => setTimeout(done, 100));
      }
    }
  })();
  const stored = async () => ((await (await api(port, `/${id}`)).json()) as typeof items).find((i) => i.id === plan.id)!.version;

  homeOf(state);
  // Somebody else's folder does not take this one for its own.
  const foreign = run(place(), ['demo', '--port', String(port)]);
  expect([foreign.status, foreign.lines]).toEqual([1, [expect.stringContaining(`port ${port} is taken by the Nimbret of another folder`)]]);

  // The database dies under the running application: a second start brings it back, and leaves both when it ends.
  await expect.poll(() => acknowledged).toBeGreaterThan(20);
  process.kill(processOf('mariadbd', '--port=3309'), 'SIGKILL');
  const before = version;
  const second = run(state, ['demo', '--port', String(port)]);
  expect([second.status, second.out]).toEqual([0, expect.stringContaining('already running')]);
  await expect.poll(() => version, { timeout: 30_000 }).toBeGreaterThan(before + 5);

  // The application dies, and the script that started it.
  app.kill('SIGKILL');
  process.kill(processOf('scripts/serve.ts', `--port ${port}`), 'SIGKILL');
  await ended(app);
  const known = version;
  app = await start(state, port);
  expect(await stored()).toBeGreaterThanOrEqual(known);
  await expect.poll(() => version, { timeout: 30_000 }).toBeGreaterThan(known + 5);
  saving = false;
  await saves;
  expect(await stored()).toBe(version);

  const stopped = run(state, ['stop']);
  expect([stopped.status, stopped.out]).toEqual([0, expect.stringContaining('stopped')]);
  await ended(app);
  await expect(api(port, '')).rejects.toThrow();
  expect(processOf('mariadbd', state)).toBe(0);
  expect(run(state, ['stop']).out).toContain('nothing was running');

  // An odd password file and a creation that was broken off are mended without a word from anybody.
  writeFileSync(join(state, 'db-password'), 'too short\n');
  chmodSync(join(state, 'db-password'), 0o644);
  writeFileSync(join(state, 'db-socket'), '/nowhere/db.sock\n');
  app = await start(state, port);
  expect(await stored()).toBe(version);
  expect(readFileSync(join(state, 'db-password'), 'utf8')).toMatch(/^[A-Za-z0-9]{16,}$/);
  expect(run(state, ['stop']).status).toBe(0);
  await ended(app);

  // Beginning anew puts the old data aside and says where and how they come back.
  const fresh = spawn('bash', [nimbret, 'demo', '--port', String(port), '--fresh'], { env: environment(state), stdio: ['ignore', 'pipe', 'ignore'] });
  let said = '';
  fresh.stdout.on('data', (part) => (said += String(part)));
  await expect.poll(() => said, { timeout: 60_000 }).toContain('ready:');
  const [, aside = ''] = /beginning anew: .* was put aside as (\S+);/.exec(said) ?? [];
  expect(said).toContain(`move ${join(homeOf(state), 'mariadb')} away and ${aside} to its place`);
  expect(existsSync(join(aside, 'nimbret', 'items.ibd'))).toBe(true);
  expect((await (await api(port, '')).json()) as { name: string }[]).toEqual([expect.objectContaining({ name: 'The tidal post' })]);
  expect(run(state, ['stop']).status).toBe(0);
  await ended(fresh);
});
