import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { connect } from 'node:net';
import { request as httpRequest } from 'node:http';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from '@playwright/test';
import { createConnection } from 'mariadb';
import { openProject, test } from './demo';

const port = Number(process.env.NIMBRET_PORT ?? 4170);

interface Answer {
  readonly status: number;
  readonly headers: Record<string, string | string[] | undefined>;
  readonly body: string;
}

/** A request exactly as written, which a browser would not send. */
const ask = (method: string, path: string, headers: Record<string, string> = {}, body?: string): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const req = httpRequest({ host: '127.0.0.1', port, method, path, headers: { host: `127.0.0.1:${port}`, ...headers } }, (res) => {
      let text = '';
      res.setEncoding('utf8');
      res.on('data', (part: string) => (text += part));
      res.on('end', () => resolve({ status: res.statusCode!, headers: res.headers, body: text }));
    });
    req.on('error', reject);
    req.end(body);
  });
/** Bytes exactly as written. */
const raw = (text: string): Promise<string> =>
  new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1', () => socket.end(text));
    let got = '';
    socket.setTimeout(5000, () => socket.destroy());
    socket.on('data', (part) => (got += part.toString('latin1')));
    socket.on('close', () => resolve(got));
    socket.on('error', () => resolve(got));
  });
const json = { 'content-type': 'application/json' };
const create = JSON.stringify({ name: 'By the back door' });

test('only 127.0.0.1 and localhost are hosts', async () => {
  for (const host of ['evil.example', `evil.example:${port}`, '127.0.0.1.evil.example', '10.0.0.1'])
    for (const path of ['/', '/api/projects', '/icon.svg']) expect((await ask('GET', path, { host })).status, `${host} ${path}`).toBeGreaterThanOrEqual(400);
  expect((await ask('GET', '/api/projects', { host: `localhost:${port}` })).status).toBe(200);
});

test('writing is for our own pages, as JSON', async () => {
  const own = `http://127.0.0.1:${port}`;
  for (const headers of [
    { ...json, origin: 'http://evil.example' },
    { ...json, origin: 'null' },
    { ...json, origin: `http://localhost:${port}` },
    { ...json, origin: `https://127.0.0.1:${port}` },
    { ...json, 'sec-fetch-site': 'cross-site' },
  ] as Record<string, string>[])
    expect((await ask('POST', '/api/projects', headers, create)).status, JSON.stringify(headers)).toBe(403);
  for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x', ''])
    expect((await ask('POST', '/api/projects', { 'content-type': type, origin: own }, create)).status, type).toBe(415);
  expect((await ask('POST', '/api/projects', { ...json, origin: own }, create)).status).toBe(200);
  expect((await ask('POST', '/api/projects', { ...json }, create)).status).toBe(200);
  const left = JSON.parse((await ask('GET', '/api/projects')).body) as { id: string; name: string }[];
  for (const p of left.filter((x) => x.name === 'By the back door')) expect((await ask('DELETE', `/api/projects/${p.id}`, { origin: own })).status).toBe(204);
});

test('every answer forbids frames, guessing and telling where one came from; data are not cached', async () => {
  for (const path of ['/', '/api/projects', '/api/projects/none', '/p/none/cycle', '/nowhere']) {
    const { headers } = await ask('GET', path);
    expect(headers, path).toMatchObject({
      'x-frame-options': 'DENY',
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'no-referrer',
      'cross-origin-resource-policy': 'same-origin',
    });
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).toMatch(/script-src 'self' 'nonce-[A-Za-z0-9+/=]{20,}' 'strict-dynamic'/);
    expect(policy).not.toMatch(/https?:|\*/);
    if (path.startsWith('/api')) expect(headers['cache-control']).toBe('no-store');
  }
  const nonces = await Promise.all([1, 2].map(async () => /nonce-([^']+)/.exec(String((await ask('GET', '/')).headers['content-security-policy']))![1]));
  expect(nonces[0]).not.toBe(nonces[1]);
});

test('no station breaks its own policy, and a script of somebody else does not run', async ({ page }) => {
  const broken: string[] = [];
  page.on('console', (message) => /content security policy/i.test(message.text()) && broken.push(message.text()));
  await openProject(page, 'Policy');
  for (const station of ['Steps', 'Directions', 'Hand-over', 'Cycle']) {
    await page.getByRole('link', { name: new RegExp(station) }).click();
    await expect(page.getByRole('link', { name: new RegExp(station) })).toHaveAttribute('aria-current', 'page');
    await page.waitForTimeout(500);
  }
  await page.goto('/nowhere');
  await expect(page.getByText('Nothing stands here')).toBeVisible();
  expect(broken).toEqual([]);
  await page.goto('/');
  const ran = await page.evaluate(async () => {
    const script = document.createElement('div');
    script.innerHTML = '<img src="data:," onerror="window.__ran = 1">';
    document.body.append(script);
    await new Promise((done) => setTimeout(done, 300));
    return '__ran' in window;
  });
  expect(ran).toBe(false);
});

test('odd paths, methods and texts are refused, never a fault of the server', async () => {
  const paths = [
    '/%',
    '/%E0%A4%A',
    '/p/%ED%A0%80/cycle',
    '/p/%00/cycle',
    '/p/..%2f..%2fetc/cycle',
    '//evil.example',
    '/api/projects/%ED%BF%BF',
    `/p/${'a'.repeat(5000)}/cycle`,
    '/p/%F0%9F%92%A9/cycle',
    "/api/projects/x'%20OR%201=1",
    '/_next/static/../../package.json',
    '/api/projects/%/items/gait/x/revisions',
    '/p/__proto__/cycle',
    '/p/none/__proto__',
  ];
  const { id } = JSON.parse((await ask('POST', '/api/projects', { ...json, origin: `http://127.0.0.1:${port}` }, create)).body) as { id: string };
  for (const nowhere of [`/p/${id}/nonsense`, `/p/${id}/cycle/more`, '/p/none/cycle', '/nonsense'])
    expect((await ask('GET', nowhere)).status, nowhere).toBe(404);
  expect((await ask('GET', `/p/${id}/steps`)).status).toBe(200);
  for (const path of paths) for (const method of ['GET', 'HEAD']) expect((await ask(method, path)).status, `${method} ${path}`).toBeLessThan(500);
  for (const method of ['POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS', 'PROPFIND', 'TRACE'])
    for (const path of ['/', '/p/none/cycle', '/api/projects', '/api/projects/none', '/icon.svg'])
      expect((await ask(method, path, json, method === 'POST' || method === 'PUT' ? '{}' : undefined)).status, `${method} ${path}`).toBeLessThan(500);
  expect(await raw('BREW / HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n')).not.toContain(' 500');
  expect(await raw('GET / HTTP/1.1\r\n\r\n')).not.toContain(' 500');
  for (const body of [
    '{"name":"\\ud800"}',
    '{"name":"a\\udfffb"}',
    '{"name":"\\u0000"}',
    '{"__proto__":{"name":"x"}}',
    '['.repeat(100_000),
    '"',
    'null',
    '{"name":1e999}',
    '\u0000',
    '{"name":"' + 'x'.repeat(2_000_000) + '"}',
  ]) {
    const { status } = await ask('POST', '/api/projects', json, body);
    expect([400, 413, 422], body.slice(0, 20)).toContain(status);
  }
});

test('a body that does not come is not waited for', async () => {
  const began = Date.now();
  const status = await new Promise<number>((resolve, reject) => {
    const req = httpRequest(
      { host: '127.0.0.1', port, method: 'POST', path: '/api/projects', headers: { ...json, host: `127.0.0.1:${port}`, 'content-length': '100' } },
      (res) => resolve(res.statusCode!),
    );
    req.on('error', reject);
    req.write('{"name"');
  });
  expect([400, 408]).toContain(status);
  expect(Date.now() - began).toBeLessThan(30_000);
});

test('the database lets in by its private socket alone, as its own user, and writes no files for anyone', async () => {
  const socket = process.env.NIMBRET_DB_SOCKET!;
  const { port: dbPort, password } = new URL(process.env.NIMBRET_DATABASE_URL!.replace('mariadb:', 'http:'));
  expect(statSync(dirname(socket)).mode & 0o777).toBe(0o700);
  const server = Number(readFileSync(`${dirname(socket)}/db.pid`, 'utf8'));
  const status = readFileSync(`/proc/${server}/status`, 'utf8');
  expect(/^Uid:\t(\d+)/m.exec(status)![1]).not.toBe('0');
  for (const user of ['root', 'mysql', 'nimbret', ''])
    for (const pass of ['', 'root', 'nimbret'])
      await expect(createConnection({ host: '127.0.0.1', port: Number(dbPort), user, password: pass, connectTimeout: 5000 })).rejects.toThrow(/Access denied/);
  const file = join(tmpdir(), `outfile-${process.pid}`);
  const own = await createConnection({ host: '127.0.0.1', port: Number(dbPort), user: 'nimbret', password, database: 'nimbret' });
  try {
    await expect(own.query(`SELECT 1 INTO OUTFILE '${file}'`)).rejects.toThrow(/denied|secure/);
    await expect(own.query('SELECT * FROM mysql.global_priv')).rejects.toThrow(/denied/);
  } finally {
    await own.end();
  }
  const admin = (sql: string) =>
    execFileSync('mariadb', ['--no-defaults', `--socket=${socket}`, `--user=${execFileSync('id', ['-un']).toString().trim()}`, '-N', '-e', sql], {
      stdio: 'pipe',
    }).toString();
  expect(() => admin(`SELECT 1 INTO OUTFILE '${file}'`)).toThrow(/secure_file_priv|secure-file-priv/);
  expect(existsSync(file)).toBe(false);
  const loose = admin(
    "SELECT user FROM mysql.global_priv WHERE JSON_VALUE(priv, '$.plugin') IN ('mysql_native_password', '') AND COALESCE(JSON_VALUE(priv, '$.authentication_string'), '') = '' AND COALESCE(JSON_VALUE(priv, '$.account_locked'), '0') NOT IN ('1', 'true')",
  );
  expect(loose).toBe('');
});
