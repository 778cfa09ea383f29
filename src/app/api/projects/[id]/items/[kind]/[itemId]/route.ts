import { z } from 'zod';
import { database } from '@/server/database';
import { addableKind, kindOf } from '@/server/kinds';
import { answer } from '@/server/problem';
import { saveItem, setItemRemoved } from '@/server/single';
import { readJson } from '@/server/request';

const change = z.strictObject({ version: z.number().int().min(1), spec: z.unknown() });

interface Context {
  params: Promise<{ id: string; kind: string; itemId: string }>;
}

export const PUT = (request: Request, { params }: Context) =>
  answer(async () => {
    const { id, kind, itemId } = await params;
    const known = kindOf(kind);
    const { version, spec } = await readJson(request, change);
    return saveItem(database(), id, known, itemId, version, spec);
  });

export const DELETE = (_: Request, { params }: Context) =>
  answer(async () => {
    const { id, kind, itemId } = await params;
    return setItemRemoved(database(), id, addableKind(kind), itemId, true);
  });
