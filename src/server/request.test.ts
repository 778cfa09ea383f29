import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { REQUEST_LIMIT_BYTES } from './config';
import { answer, Problem } from './problem';
import { readJson } from './request';

const schema = z.strictObject({ name: z.string().max(5) });
const post = (body: string) => new Request('http://localhost/x', { method: 'POST', body });
const ask = async (body: string) => {
  const response = await answer(() => readJson(post(body), schema));
  return { status: response.status, type: response.headers.get('content-type'), body: (await response.json()) as Record<string, unknown> };
};

describe('requests', () => {
  it('are read through their schema', async () => {
    expect(await ask('{"name":"tide"}')).toMatchObject({ status: 200, body: { name: 'tide' } });
  });

  it('are refused as RFC 9457 problem details', async () => {
    for (const [body, status] of [
      ['{', 400],
      ['{"name":"too long"}', 422],
      ['{"name":"a","more":1}', 422],
      ['x'.repeat(REQUEST_LIMIT_BYTES + 1), 413],
    ] as const) {
      const told = await ask(body);
      expect(told.status).toBe(status);
      expect(told.type).toBe('application/problem+json');
      expect(Object.keys(told.body)).toEqual(expect.arrayContaining(['type', 'title', 'status', 'detail']));
      expect(told.body.status).toBe(status);
    }
  });

  it('that are nested too deep are refused, not fallen over', async () => {
    for (const [open, close] of [
      ['[', ']'],
      ['{"a":', '}'],
    ] as const)
      for (const levels of [101, 5000, 40_000])
        expect([levels, (await ask(`{"name":${open.repeat(levels)}1${close.repeat(levels)}}`)).status]).toEqual([levels, 400]);
  });

  it('that the database left in the middle are answered with 503', async () => {
    const told = async (error: Error) => (await answer(() => Promise.reject(error))).status;
    const sql = (more: object) => Object.assign(new Error('sql'), { name: 'SequelizeDatabaseError', original: Object.assign(new Error('x'), more) });
    // As the connector and the server name them: mariadb 3, error codes of MariaDB.
    for (const more of [
      { code: 'ER_SOCKET_UNEXPECTED_CLOSE', errno: 45009 },
      { fatal: true },
      { code: 'ECONNRESET' },
      { code: 'ER_SERVER_SHUTDOWN', errno: 1053 },
    ])
      expect(await told(sql(more))).toBe(503);
    const quiet = console.error;
    console.error = () => {};
    expect(await told(sql({ code: 'ER_BAD_FIELD_ERROR', errno: 1054 }))).toBe(500);
    console.error = quiet;
  });

  it('tell nothing inward when something unforeseen happens', async () => {
    const quiet = console.error;
    console.error = () => {};
    const response = await answer(() => Promise.reject(new Error('secret path')));
    console.error = quiet;
    expect(response.status).toBe(500);
    expect(await response.text()).not.toContain('secret');
    const gone = await answer(() => Promise.reject(Object.assign(new Error('x'), { name: 'SequelizeConnectionRefusedError' })));
    expect(gone.status).toBe(503);
    expect(new Problem(409, 'a', 'b').message).toBe('b');
  });
});
