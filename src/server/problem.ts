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

/** Codes of connections that broke off, of the connector, the system and the server that goes down; numbers from 45000 on are the connector's. */
const BROKEN_OFF = new Set([
  'ECONNRESET',
  'ECONNREFUSED',
  'EPIPE',
  'ENOENT',
  'PROTOCOL_CONNECTION_LOST',
  'ER_SERVER_SHUTDOWN',
  'ER_CONNECTION_KILLED',
  'ER_NORMAL_SHUTDOWN',
]);
const CONNECTOR_ERRNO = 45_000;

/** Whether the database went away, before or in the middle of what was asked of it. */
function databaseGone(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = (e as { original?: unknown; parent?: unknown }).original ?? e.cause) {
    const { name, code, errno, fatal } = e as Error & { code?: string; errno?: number; fatal?: boolean };
    if (name.startsWith('SequelizeConnection') || fatal === true || BROKEN_OFF.has(code ?? '') || (errno ?? 0) >= CONNECTOR_ERRNO) return true;
    if (/rollback has been called on this transaction|has been finished with state/.test(e.message)) return true;
  }
  return false;
}

function unforeseen(error: unknown): Problem {
  if (databaseGone(error))
    return new Problem(
      503,
      'Database not reachable',
      'The database does not answer. The work in this window is kept; it is saved, or found to be saved already, when the database is back.',
    );
  console.error(error);
  return new Problem(500, 'Something went wrong', 'The server met an unforeseen fault. Nothing was changed.');
}
