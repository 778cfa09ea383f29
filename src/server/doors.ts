/** What the door looks at of a request. */
export interface Asked {
  readonly method: string;
  readonly path: string;
  readonly header: (name: string) => string | null;
}

export interface Refusal {
  readonly status: number;
  readonly title: string;
  readonly detail: string;
}

const READS = new Set(['GET', 'HEAD']);
const WRITES = new Set(['POST', 'PUT', 'DELETE']);
/** Where files are written, part by part. */
const FILES = /^\/api\/files\//;

/**
 * Why a request is not let in; null where it is. Only this machine by name is host, which keeps other names that are made to
 * point here out; writing is for our own pages, as JSON, so that no page of another origin can send a form.
 */
export function refusalOf({ method, path, header }: Asked): Refusal | null {
  const host = header('host') ?? '';
  if (path.length > 2000) return { status: 414, title: 'Address too long', detail: 'The address is too long.' };
  if (!/^(127\.0\.0\.1|localhost)(:\d{1,5})?$/i.test(host))
    return { status: 421, title: 'Wrong host', detail: 'This server answers to 127.0.0.1 and localhost only.' };
  try {
    decodeURIComponent(path);
  } catch {
    return { status: 400, title: 'Bad address', detail: 'The address is not well written.' };
  }
  if (READS.has(method)) return null;
  if (!WRITES.has(method) || !path.startsWith('/api/')) return { status: 405, title: 'Not allowed', detail: `${method.slice(0, 16)} is not answered here.` };
  const origin = header('origin');
  const site = header('sec-fetch-site');
  // A browser always says where a write comes from; a program on this machine that is none need not.
  const own = origin !== null ? sameOrigin(origin, host) : site === null || site === 'same-origin';
  if (!own) return { status: 403, title: 'Foreign origin', detail: 'Writing is for the pages of this server only.' };
  const type = (header('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
  const hasBody = header('transfer-encoding') !== null || Number(header('content-length') ?? 0) > 0;
  // Files come as they are; that type, too, no form can send.
  const wanted = FILES.test(path) ? 'application/octet-stream' : 'application/json';
  if ((method !== 'DELETE' || hasBody) && type !== wanted)
    return { status: 415, title: FILES.test(path) ? 'Not a file' : 'Not JSON', detail: `A write is sent here as ${wanted}.` };
  return null;
}

function sameOrigin(origin: string, host: string): boolean {
  try {
    const url = new URL(origin);
    return url.protocol === 'http:' && url.host.toLowerCase() === host.toLowerCase();
  } catch {
    return false;
  }
}

/** Headers of every answer: scripts by nonce, nothing foreign, no frames, no guessing of types, no telling where one came from. */
export function pageHeaders(nonce: string | null): Record<string, string> {
  const policy = {
    'default-src': "'self'",
    'script-src': nonce ? `'self' 'nonce-${nonce}' 'strict-dynamic'` : "'none'",
    // The components' styles are written into the page as it runs.
    'style-src': "'self' 'unsafe-inline'",
    'img-src': "'self' data: blob:",
    'font-src': "'self'",
    'connect-src': "'self' data: blob:",
    'worker-src': "'self' blob:",
    'object-src': "'none'",
    'base-uri': "'none'",
    'form-action': "'self'",
    'frame-ancestors': "'none'",
  };
  return {
    'content-security-policy': Object.entries(policy)
      .map(([what, from]) => `${what} ${from}`)
      .join('; '),
    'x-frame-options': 'DENY',
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    'x-application': 'nimbret',
  };
}
