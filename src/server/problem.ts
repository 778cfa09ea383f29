/** A fault told to the client as RFC 9457 problem details. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly more: Readonly<Record<string, unknown>> = {},
  ) {
    super(detail);
  }
}

export const notFound = (what: string): Problem => new Problem(404, 'Not found', `There is no such ${what}. It may have been deleted.`);

/** No answer about the work may be shown again from a cache. */
const NOT_KEPT = { 'cache-control': 'no-store' };

/** Runs a handler and answers its faults as problem details; anything unforeseen becomes a 500 that tells nothing inward. */
export async function answer(run: () => Promise<unknown>): Promise<Response> {
  try {
    const body = await run();
    return body === undefined ? new Response(null, { status: 204, headers: NOT_KEPT }) : Response.json(body, { headers: NOT_KEPT });
  } catch (error) {
    const problem = error instanceof Problem ? error : unforeseen(error);
    const { status, title, detail, more } = problem;
    return new Response(JSON.stringify({ type: 'about:blank', title, status, detail, ...more }), {
      status,
      headers: { 'content-type': 'application/problem+json', ...NOT_KEPT },
    });
  }
}

function unforeseen(error: unknown): Problem {
  const name = error instanceof Error ? error.name : '';
  if (name.startsWith('SequelizeConnection'))
    return new Problem(
      503,
      'Database not reachable',
      'The database does not answer. Nothing was changed; the work in this window is kept and will be saved when it is back.',
    );
  console.error(error);
  return new Problem(500, 'Something went wrong', 'The server met an unforeseen fault. Nothing was changed.');
}
