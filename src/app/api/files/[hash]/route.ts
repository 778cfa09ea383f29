import { database } from '@/server/database';
import { fileParts, fileSize } from '@/server/files';
import { answer } from '@/server/problem';

/** The bytes of a file that was brought in. */
export async function GET(_: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> {
  const { hash } = await params;
  let size = 0;
  const refused = await answer(async () => {
    size = await fileSize(database(), hash);
  });
  if (!refused.ok) return refused;
  const parts = fileParts(database(), hash);
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await parts.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await parts.return(undefined);
    },
  });
  // A file never changes: it is named by what it holds.
  return new Response(stream, {
    headers: { 'content-type': 'application/octet-stream', 'content-length': String(size), 'cache-control': 'private, max-age=31536000, immutable' },
  });
}
