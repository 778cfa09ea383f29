import { NextResponse, type NextRequest } from 'next/server';
import { isStation } from './features/shell/stations';
import { pageHeaders, refusalOf } from './server/doors';

/** Stands before every page and every answer: who may ask, and what a page may load. */
export function proxy(request: NextRequest): Response {
  const refusal = refusalOf({ method: request.method, path: request.nextUrl.pathname, header: (name) => request.headers.get(name) });
  if (refusal)
    return new Response(JSON.stringify({ type: 'about:blank', ...refusal }), {
      status: refusal.status,
      headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store', ...pageHeaders(null) },
    });
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(18))).toString('base64');
  const headers = new Headers(request.headers);
  const own = pageHeaders(nonce);
  // The framework reads the nonce for its own scripts from the policy it is asked with.
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', own['content-security-policy']!);
  // The page of a station begins to be sent before it is known whether there is one.
  const [, station] = /^\/p\/[^/]+\/(.+?)\/?$/.exec(request.nextUrl.pathname) ?? [];
  const nowhere = station !== undefined && !isStation(station);
  const response = nowhere
    ? NextResponse.rewrite(new URL('/nowhere', request.url), { request: { headers }, status: 404 })
    : NextResponse.next({ request: { headers } });
  for (const [name, value] of Object.entries(own)) response.headers.set(name, value);
  if (request.nextUrl.pathname.startsWith('/api/')) response.headers.set('cache-control', 'no-store');
  return response;
}
