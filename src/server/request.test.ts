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
