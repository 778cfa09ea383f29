import { FILE_PART_BYTES } from '@/server/config';
import { database } from '@/server/database';
import { keepPart, partTold } from '@/server/files';
import { answer } from '@/server/problem';
import { readLimited } from '@/server/request';

/** Takes in one part of a file; `size` is what the whole has. */
export const PUT = (request: Request, { params }: { params: Promise<{ hash: string; part: string }> }) =>
  answer(async () => {
    const { hash, part } = await params;
    const told = partTold(hash, part, new URL(request.url).searchParams.get('size'));
    return keepPart(database(), told, await readLimited(request, FILE_PART_BYTES));
  });
