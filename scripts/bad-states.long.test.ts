import { spawnSync } from 'node:child_process';
import { chmodSync, cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { basename, dirname, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cleanUp, folder, homeOf, isRoot, nimbret, nimbretIn } from './tests/places';

/** Starts in bad states: never a deletion, always a sentence. `export` starts the database as `demo` does, without the page. */
const base = folder();
const state = join(base, 'state');
const states = [state];
const start = (at = state, env: Record<string, string> = {}) => nimbretIn(at, ['export', '--all', '--out', join(base, 'out')], env);
const data = (at = state) => join(homeOf(at), 'mariadb');

/** Names and sizes of everything in a folder. */
const listing = (path: string) =>
  (readdirSync(path, { recursive: true }) as string[])
    .sort()
    .map((name) => [name, statSync(join(path, name)).size])
    .filter(([name]) => name !== 'aria_log_control');
const asides = (path: string) => readdirSync(dirname(path)).filter((n) => n.startsWith(`${basename(path)}.aside-`));
/** The one thing that was put aside since `before`. */
const putAside = (path: string, before: readonly string[]) => {
  const fresh = asides(path).filter((n) => !before.includes(n));
  expect(fresh).toHaveLength(1);
  return join(dirname(path), fresh[0]!);
};

beforeAll(() => {
  const first = start();
  expect(first.status, first.said).toBe(0);
}, 120_000);
afterAll(() => cleanUp(states));

describe('pieces of the data folder', () => {
  it.each(['mysql', 'ibdata1', 'ib_logfile0', 'aria_log_control'])('%s is missing: all the rest is put aside, whole, and said', (piece) => {
    renameSync(join(data(), piece), join(base, `${piece}.lost`));
    const [before, was] = [asides(data()), listing(data())];
    const { status, said } = start();
    expect(status, said).toBe(0);
    const aside = putAside(data(), before);
    expect(said).toContain(`the database is damaged (${piece} is missing)`);
    expect(said).toContain(aside);
    expect(said).toContain('./nimbret import');
    expect(listing(aside)).toEqual(was);
  });

  it('a file, or a link to nowhere, stands where the folder should be', () => {
    for (const put of [() => writeFileSync(data(), 'letters of somebody'), () => symlinkSync('/nowhere/at/all', data())]) {
      renameSync(data(), join(base, `data-${asides(data()).length}`));
      put();
      const before = asides(data());
      const { status, said } = start();
      expect(status, said).toBe(0);
      expect(said).toContain(putAside(data(), before));
    }
  });

  it('files that the database itself refuses stay as they are, and the way out is said', () => {
    const whole = readFileSync(join(data(), 'ibdata1'));
    writeFileSync(join(data(), 'ibdata1'), Buffer.alloc(whole.length, 7));
    const { status, said } = start();
    expect(status).toBe(1);
    expect(said).toMatch(/the database in .* does not start; its log is in .*It was left as it is: .*--fresh/);
    expect(readFileSync(join(data(), 'ibdata1')).subarray(0, 64)).toEqual(Buffer.alloc(64, 7));
    writeFileSync(join(data(), 'ibdata1'), whole);
    expect(start().status).toBe(0);
  });
});

describe('what stands at the places of small files', () => {
  it('folders with something in them are put aside', () => {
    const names = ['db-password', 'db-port', 'db-socket', 'id', 'mariadb.log', 'lock'];
    const id = readFileSync(join(state, 'id'), 'utf8');
    const before = names.map((name) => asides(join(state, name)));
    for (const name of names) {
      rmSync(join(state, name));
      mkdirSync(join(state, name));
      writeFileSync(join(state, name, 'diary'), 'of somebody');
    }
    const { status, said } = start();
    expect(status, said).toBe(0);
    for (const [n, name] of names.entries()) {
      const aside = putAside(join(state, name), before[n]!);
      expect(said).toContain(aside);
      expect(readFileSync(join(aside, 'diary'), 'utf8')).toBe('of somebody');
    }
    // Without its id a folder is another one; what was there is still there, and is taken up again.
    homeOf(state);
    if (isRoot) expect(nimbretIn(state, ['stop', '--list']).said).toContain(`--take-up ${id.trim()}`);
    writeFileSync(join(state, 'id'), id);
  });

  it('what links point to is neither written nor given away', () => {
    const names = ['db-password', 'db-port', 'mariadb.log', 'mariadb-install.log'];
    const target = (name: string) => join(base, `target of ${name}`);
    for (const name of names) {
      writeFileSync(target(name), 'of somebody');
      chmodSync(target(name), 0o644);
      rmSync(join(state, name), { force: true });
      symlinkSync(target(name), join(state, name));
    }
    renameSync(data(), join(base, 'moved away'));
    const { status, said } = start();
    expect(status, said).toBe(0);
    for (const name of names) {
      const { mode, uid } = statSync(target(name));
      expect([readFileSync(target(name), 'utf8'), mode & 0o777, uid]).toEqual(['of somebody', 0o644, process.getuid!()]);
    }
  });

  it('a password that is none of ours is put aside, not overwritten', () => {
    const path = join(state, 'db-password');
    writeFileSync(path, 'my own secret, with spaces\n');
    const before = asides(path);
    const { status, said } = start();
    expect(status, said).toBe(0);
    expect(readFileSync(putAside(path, before), 'utf8')).toBe('my own secret, with spaces\n');
  });

  it('a port that somebody else has by now is left to them', async () => {
    const server = createServer((socket) => socket.end());
    const port = await new Promise<number>((done) => server.listen(0, '127.0.0.1', () => done((server.address() as { port: number }).port)));
    writeFileSync(join(state, 'db-port'), `${port}\n`);
    const { status, said } = start();
    server.close();
    expect(status, said).toBe(0);
    expect(readFileSync(join(state, 'db-port'), 'utf8').trim()).not.toBe(String(port));
  });
});

it.runIf(isRoot)('a start by root gives nothing away that a link in the data folder points to', () => {
  const target = join(base, 'target of a link');
  writeFileSync(target, 'of somebody');
  for (const place of [homeOf(state), data()]) symlinkSync(target, join(place, 'link'));
  expect(start().status).toBe(0);
  expect(statSync(target).uid).toBe(0);
});

describe('folders that move', () => {
  it('a renamed folder finds its data again; a copy gets an id and data of its own, and says so', () => {
    const id = readFileSync(join(state, 'id'), 'utf8');
    const mark = join(data(), 'a mark of mine');
    writeFileSync(mark, '');
    const moved = join(base, 'moved');
    renameSync(state, moved);
    const again = start(moved);
    expect(again.status, again.said).toBe(0);
    expect([readFileSync(join(moved, 'id'), 'utf8'), existsSync(mark) || existsSync(join(data(moved), 'a mark of mine'))]).toEqual([id, true]);

    cpSync(moved, state, { recursive: true });
    const copy = start(state);
    expect(copy.status, copy.said).toBe(0);
    expect(copy.said).toContain(`is a copy of ${moved}`);
    expect(readFileSync(join(state, 'id'), 'utf8')).not.toBe(id);
    expect(readFileSync(join(moved, 'id'), 'utf8')).toBe(id);
    expect(data(state)).not.toBe(data(moved));
    states.push(moved);
  });

  it.runIf(isRoot)('data whose folder is gone are listed, and taken up by another; data in use are not', () => {
    const [old, owner] = [readFileSync(join(state, 'id'), 'utf8').trim(), join(base, 'moved')];
    rmSync(state, { recursive: true });
    const other = join(base, 'other');
    states.push(other);
    expect(start(other).status).toBe(0);
    homeOf(other);
    const list = nimbretIn(other, ['stop', '--list']).said;
    expect(list).toMatch(new RegExp(`${old} .*abandoned: was of ${state}; ./nimbret demo --take-up ${old}`));
    expect(list).toMatch(new RegExp(`${readFileSync(join(owner, 'id'), 'utf8').trim()} .* of ${owner}\\n`));
    const inUse = nimbretIn(other, ['demo', '--take-up', readFileSync(join(owner, 'id'), 'utf8').trim()]);
    expect([inUse.status, inUse.said]).toEqual([1, expect.stringContaining(`belongs to ${owner}, which is still there`)]);
    expect(nimbretIn(other, ['demo', '--take-up', 'abcdef']).said).toContain('./nimbret stop --list');
  });
});

describe('the checkout', () => {
  /** A checkout whose packages are not all there, and an npm that finds no registry. */
  const checkout = (): string => {
    const at = join(folder(), 'checkout');
    mkdirSync(join(at, 'node_modules'), { recursive: true });
    for (const name of ['nimbret', 'package.json', 'package-lock.json', 'scripts']) cpSync(join(dirname(nimbret), name), join(at, name), { recursive: true });
    cpSync(join(at, 'package-lock.json'), join(at, 'node_modules', '.nimbret-lock'));
    mkdirSync(join(at, 'bin'));
    writeFileSync(join(at, 'bin', 'npm'), '#!/bin/sh\necho "npm error network" >&2\nexit 1\n', { mode: 0o755 });
    return at;
  };

  it('half-installed packages without a network are said', () => {
    const at = checkout();
    const { status, said } = nimbretIn(join(at, 'state'), ['demo', '--port', '4399'], { PATH: `${join(at, 'bin')}:${process.env.PATH}` }, [
      'bash',
      join(at, 'nimbret'),
    ]);
    expect([status, said]).toEqual([1, expect.stringContaining('npm ci failed; is the npm registry reachable?')]);
  });

  it.runIf(isRoot)('a checkout that cannot be written, started by somebody who is not root', () => {
    const at = checkout();
    chmodSync(dirname(at), 0o755);
    const own = join(folder(), 'state');
    mkdirSync(own);
    spawnSync('chown', ['-R', 'nobody', own]);
    chmodSync(dirname(own), 0o755);
    const { status, said } = nimbretIn(own, ['demo', '--port', '4399'], {}, ['runuser', '-u', 'nobody', '--', 'bash', join(at, 'nimbret')]);
    expect([status, said]).toEqual([1, expect.stringContaining(`npm packages are missing, and ${at} cannot be written`)]);
  });
});

it('export and import run from any folder and from cron, whose shell knows next to nothing', () => {
  const bare = ['env', '-i', 'PATH=/usr/bin:/bin', `NIMBRET_STATE=${join(base, 'moved')}`, 'NIMBRET_DB_PORT=33120', 'bash', nimbret];
  const out = join(base, 'cron');
  const exported = nimbretIn('', ['export', '--all', '--out', out], {}, bare);
  expect(exported.status, exported.said).toBe(0);
  writeFileSync(join(base, 'none.json'), '{}');
  expect(nimbretIn('', ['import', join(base, 'none.json')], {}, bare)).toEqual({
    status: 2,
    said: expect.stringContaining('format: must be "nimbret.backup"') as unknown,
  });
});
