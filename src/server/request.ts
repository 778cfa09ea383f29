import type { z } from 'zod';
import { describeIssue } from '@/core/formats/json/decode';
import { REQUEST_LIMIT_BYTES } from './config';
import { Problem } from './problem';

/** Longest time (ms) a body may take to come in. */
const BODY_TIME_MS = 10_000;

/** Half of a pair of surrogates, or no character at all, as JSON writes it: text that no database can keep as it is. */
const LONE_SURROGATE = /(?:^|[^\\])(?:\\\\)*\\u(?:d[89a-f]|0000)/;

/** Levels a body may be nested; what is kept here has ten. */
const DEEPEST = 100;

/** Whether a JSON value is nested deeper than that; asked without going as deep itself. */
function deeperThan(json: unknown, most: number): boolean {
  let level: unknown[] = [json];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > most) return true;
    level = level.flatMap((v) => (v !== null && typeof v === 'object' ? Object.values(v) : []));
  }
  return false;
}

/** Reads a request's JSON within the limits of size and time and through a schema. */
export async function readJson<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const text = (await readLimited(request, REQUEST_LIMIT_BYTES)).toString('utf8');
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new Problem(400, 'Not JSON', 'The request body is not valid JSON.');
  }
  if (deeperThan(json, DEEPEST)) throw new Problem(400, 'Too deep', `The request body is nested more than ${DEEPEST} levels deep.`);
  if (LONE_SURROGATE.test(JSON.stringify(json))) throw new Problem(422, 'Not valid', 'The request holds text that is no well-formed Unicode.');
  const result = schema.safeParse(json);
  if (!result.success)
    throw new Problem(422, 'Not valid', result.error.issues.map(describeIssue).join('; '), {
      issues: result.error.issues.map((i) => ({ path: i.path, message: i.message })),
    });
  return result.data;
}

/** Reads a request's bytes within the limits of size and time. */
export async function readLimited(request: Request, limit: number): Promise<Buffer> {
  const tooLarge = () => new Problem(413, 'Too large', `A request may have up to ${limit} bytes.`);
  if (Number(request.headers.get('content-length') ?? 0) > limit) throw tooLarge();
  const reader = request.body?.getReader();
  if (!reader) return Buffer.alloc(0);
  const late = setTimeout(() => void reader.cancel('late').catch(() => undefined), BODY_TIME_MS);
  const started = Date.now();
  const chunks: Uint8Array[] = [];
  let size = 0;
  try {
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      size += part.value.byteLength;
      if (size > limit) throw tooLarge();
      chunks.push(part.value);
    }
  } catch (error) {
    throw error instanceof Problem ? error : new Problem(400, 'Broken off', 'The request broke off before it was complete.');
  } finally {
    clearTimeout(late);
  }
  if (Date.now() - started >= BODY_TIME_MS) throw new Problem(408, 'Too slow', `A request has to arrive within ${BODY_TIME_MS / 1000} seconds.`);
  return Buffer.concat(chunks);
}
