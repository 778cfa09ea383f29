import { z } from 'zod';
import { database } from '@/server/database';
import { answer, notFound } from '@/server/problem';
import { readJson } from '@/server/request';
import { keepSavedState } from '@/server/revisions';

const keeping = z.strictObject({ keptAs: z.string().trim().min(1).max(80).nullable() });

/** Keeps a saved state under a name, or lets it age again. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string; itemId: string; version: string }> }) =>
  answer(async () => {
    const { id, itemId, version } = await params;
    if (!/^\d{1,9}$/.test(version)) throw notFound('saved state');
    return keepSavedState(database(), id, itemId, Number(version), (await readJson(request, keeping)).keptAs);
  });
