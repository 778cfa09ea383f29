import { database } from '@/server/database';
import { kindOf } from '@/server/kinds';
import { answer } from '@/server/problem';
import { listRevisions } from '@/server/projects';

export const GET = (_: Request, { params }: { params: Promise<{ id: string; kind: string; itemId: string }> }) =>
  answer(async () => {
    const { id, kind, itemId } = await params;
    return listRevisions(database(), id, kindOf(kind), itemId);
  });
