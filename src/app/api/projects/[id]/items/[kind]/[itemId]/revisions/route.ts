import { database } from '@/server/database';
import { kindOf } from '@/server/kinds';
import { answer } from '@/server/problem';
import { listSavedStates } from '@/server/revisions';

export const GET = (_: Request, { params }: { params: Promise<{ id: string; kind: string; itemId: string }> }) =>
  answer(async () => {
    const { id, kind, itemId } = await params;
    return listSavedStates(database(), id, kindOf(kind), itemId);
  });
