import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { parseArgs } from 'node:util';
import next from 'next';
import { pageHeaders, refusalOf } from '../src/server/doors';

/**
 * Serves the built application on loopback: `serve.ts --port N`. What the door refuses never comes to the framework, which
 * answers some odd requests with faults of its own; slow and endless requests are cut off.
 */
const { values } = parseArgs({ options: { port: { type: 'string' } } });
const port = Number(values.port);
const hostname = '127.0.0.1';

const app = next({ dev: false, hostname, port });
const handle = app.getRequestHandler();

function answer(request: IncomingMessage, response: ServerResponse): void {
  const path = (request.url ?? '/').split('?')[0]!;
  const header = (name: string) => {
    const value = request.headers[name];
    return value === undefined ? null : String(value);
  };
  // The start script knows by it whether the one on a port is that of its own folder.
  if (process.env.NIMBRET_FOLDER) response.setHeader('x-folder', process.env.NIMBRET_FOLDER);
  const refusal = refusalOf({ method: request.method ?? '', path, header });
  if (!refusal) return void handle(request, response);
  response.writeHead(refusal.status, { 'content-type': 'application/problem+json', 'cache-control': 'no-store', connection: 'close', ...pageHeaders(null) });
  response.end(JSON.stringify({ type: 'about:blank', ...refusal }));
}

await app.prepare();
const server = createServer({ requestTimeout: 12_000, headersTimeout: 10_000, keepAliveTimeout: 5_000, connectionsCheckingInterval: 3_000 }, answer);
server.on('error', (error: NodeJS.ErrnoException) => {
  process.stderr.write(`[nimbret] cannot serve on port ${port}: ${error.code === 'EADDRINUSE' ? 'another program has it' : error.message}\n`);
  process.exit(1);
});
server.listen(port, hostname, () => process.stdout.write(`[nimbret] ready: http://${hostname}:${port}\n`));
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    server.closeAllConnections();
    server.close(() => process.exit(0));
    setTimeout(() => process.exit(0), 3000).unref();
  });
