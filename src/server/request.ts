import type { z } from 'zod';
import { describeIssue } from '@/core/formats/json/decode';
import { REQUEST_LIMIT_BYTES } from './config';
import { Problem } from './problem';

/** Reads a request's JSON within the size limit and through a schema. */
export async function readJson<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const text = await readLimited(request);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new Problem(400, 'Not JSON', 'The request body is not valid JSON.');
  }
  const result = schema.safeParse(json);
  if (!result.success)
    throw new Problem(422, 'Not valid', result.error.issues.map(describeIssue).join('; '), {
      issues: result.error.issues.map((i) => ({ path: i.path, message: i.message })),
    });
  return result.data;
}

async function readLimited(request: Request): Promise<string> {
  const tooLarge = () => new Problem(413, 'Too large', `A request may have up to ${REQUEST_LIMIT_BYTES} bytes.`);
  if (Number(request.headers.get('content-length') ?? 0) > REQUEST_LIMIT_BYTES) throw tooLarge();
  const reader = request.body?.getReader();
  if (!reader) return '';
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    size += part.value.byteLength;
    if (size > REQUEST_LIMIT_BYTES) throw tooLarge();
    chunks.push(part.value);
  }
  return Buffer.concat(chunks).toString('utf8');
}
