import { z } from 'zod';
import { ITEM_KINDS } from '@/core/project/items';
import { database } from '@/server/database';
import { answer, notFound } from '@/server/problem';
import { saveItem } from '@/server/projects';
import { readJson } from '@/server/request';

const change = z.strictObject({ version: z.number().int().min(1), spec: z.unknown() });

export const PUT = (request: Request, { params }: { params: Promise<{ id: string; kind: string; itemId: string }> }) =>
  answer(async () => {
    const { id, kind, itemId } = await params;
    const known = ITEM_KINDS.find((k) => k === kind);
    if (!known) throw notFound('kind of item');
    const { version, spec } = await readJson(request, change);
    return saveItem(database(), id, known, itemId, version, spec);
  });
