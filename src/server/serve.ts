import { createServer } from 'node:http';
import next from 'next';
import { z } from 'zod';
import { getConfig } from './config';
import { ADDRESS_HEADER } from './http/address';
import { log } from './log';

const env = z.object({ COPPER_PORT: z.coerce.number().int().min(1).max(65535).default(3400) });
const HOST = '127.0.0.1';
/** A large file may take its time to arrive; headers may not. */
const REQUEST_MS = 3600_000;
const HEADERS_MS = 30_000;
/** Longer than clients and proxies keep an idle connection (60 s is usual; common practice, no source): one that the server closes first can swallow a request. */
const KEEP_ALIVE_MS = 75_000;
/** Requests under way are given this long when the server stops. */
const STOP_MS = 8_000;
const CONNECTIONS_MOST = 2000;
/** Answers without any work as long as the process lives; whether everything works is at /api/health. */
const LIVENESS = '/api/health/live';

/** Serves the application on loopback until it is told to stop: as it was built, or in development as it stands. */
async function main(): Promise<void> {
  const { COPPER_PORT: port } = env.parse(process.env);
  // Wrong settings end it here, with a sentence each.
  getConfig();
  const application = next({ dev: process.env.NODE_ENV === 'development', dir: process.cwd(), hostname: HOST, port });
  await application.prepare();
  const handle = application.getRequestHandler();
  const server = createServer((request, response) => {
    if (request.url === LIVENESS) return void response.writeHead(204, { 'Cache-Control': 'no-store' }).end();
    request.headers[ADDRESS_HEADER] = request.socket.remoteAddress ?? 'unknown';
    void handle(request, response);
  });
  server.requestTimeout = REQUEST_MS;
  server.headersTimeout = HEADERS_MS;
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.maxConnections = CONNECTIONS_MOST;
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => process.exit(0), STOP_MS).unref();
    server.close(() => process.exit(0));
    server.closeIdleConnections();
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  server.on('error', (error) => {
    log().fatal({ err: error }, 'the server cannot listen');
    process.exit(1);
  });
  server.listen(port, HOST, () => log().info({ port }, 'serving'));
}

await main();
