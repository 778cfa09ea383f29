import { batchSchema, saveChanges } from '@/server/changes';
import { database } from '@/server/database';
import { answer } from '@/server/problem';
import { readJson } from '@/server/request';

/** Saves several items as one. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  answer(async () => saveChanges(database(), (await params).id, await readJson(request, batchSchema)));
