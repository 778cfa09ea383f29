import { database } from '@/server/database';
import { addableKind } from '@/server/kinds';
import { answer } from '@/server/problem';
import { setItemRemoved } from '@/server/single';

export const POST = (_: Request, { params }: { params: Promise<{ id: string; kind: string; itemId: string }> }) =>
  answer(async () => {
    const { id, kind, itemId } = await params;
    return setItemRemoved(database(), id, addableKind(kind), itemId, false);
  });
