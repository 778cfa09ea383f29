import { z } from 'zod';
import { database } from '@/server/database';
import { addableKind } from '@/server/kinds';
import { answer } from '@/server/problem';
import { addItem } from '@/server/single';
import { readJson } from '@/server/request';

const addition = z.strictObject({ spec: z.unknown() });

export const POST = (request: Request, { params }: { params: Promise<{ id: string; kind: string }> }) =>
  answer(async () => {
    const { id, kind } = await params;
    const { spec } = await readJson(request, addition);
    return addItem(database(), id, addableKind(kind), spec);
  });
