import { z } from 'zod';
import { database } from '@/server/database';
import { kindOf } from '@/server/kinds';
import { answer, notFound } from '@/server/problem';
import { loadRevision } from '@/server/projects';

const versionSchema = z.coerce.number().int().min(1);

export const GET = (_: Request, { params }: { params: Promise<{ id: string; kind: string; itemId: string; version: string }> }) =>
  answer(async () => {
    const { id, kind, itemId, version } = await params;
    const wanted = versionSchema.safeParse(version);
    if (!wanted.success) throw notFound('saved state');
    return loadRevision(database(), id, kindOf(kind), itemId, wanted.data);
  });
