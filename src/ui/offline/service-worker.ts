import { ExpirationPlugin } from 'workbox-expiration';
import { createPartialResponse } from 'workbox-range-requests';
import { registerRoute, setCatchHandler } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { keptAsked, LISTENING_PATH, type Kept } from './kept';

/** What of the types for service workers is used here: those of the browser's pages leave them out. */
interface Extendable extends Event {
  waitUntil(work: Promise<unknown>): void;
}
interface Message extends Extendable {
  data: unknown;
  ports: readonly MessagePort[];
}

const SHELL = 'shell';
const PAGES = 'pages';
const AUDIO = 'audio';
/** Pages and answers that are kept, and whole programmes. */
const MOST_PAGES = 60;
const MOST_AUDIO = 12;
/** A page on a line this slow is shown as it was kept, in seconds. */
const PATIENCE = 6;

const OFFLINE = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Offline · Copper Lane</title><style>:root{color-scheme:light dark}body{font:16px/1.45 system-ui;max-width:480px;margin:96px auto;padding:0 24px}</style>
<h1>You are offline</h1><p>This page was not kept on this device. Connect and load it again; nothing was lost.</p></html>`;

// What never changes under its name.
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && /^\/(_next\/static\/|icon)/.test(url.pathname),
  new CacheFirst({ cacheName: SHELL, plugins: [new ExpirationPlugin({ maxEntries: 300, purgeOnQuotaError: true })] }),
);

// Listening pages and what they ask for.
const pages = new NetworkFirst({
  cacheName: PAGES,
  networkTimeoutSeconds: PATIENCE,
  plugins: [
    new ExpirationPlugin({ maxEntries: MOST_PAGES, purgeOnQuotaError: true }),
    {
      // A link that has ended takes along what was kept of it.
      fetchDidSucceed: async ({ request, response }) => {
        const token = LISTENING_PATH.exec(new URL(request.url).pathname)?.[1];
        if (token && [401, 404, 410].includes(response.status)) await forget(token, () => true);
        return response;
      },
    },
  ],
});
registerRoute(({ request, url }) => request.mode === 'navigate' && url.pathname.startsWith('/listen/'), pages);
registerRoute(({ url }) => /^\/api\/listening\/[^/]+$/.test(url.pathname), pages);

// Streams: from the device where they are kept, in the parts that a player asks for.
registerRoute(
  ({ url }) => /^\/api\/listening\/[^/]+\/streams\//.test(url.pathname),
  async ({ request }) => {
    const kept = await (await caches.open(AUDIO)).match(request.url);
    if (!kept) return fetch(request);
    return request.headers.has('range') ? createPartialResponse(request, kept) : kept;
  },
);

// Any other page says plainly that there is no connection.
registerRoute(
  ({ request }) => request.mode === 'navigate',
  ({ request }) => fetch(request),
);
setCatchHandler(({ request }) =>
  Promise.resolve(
    request.mode === 'navigate'
      ? new Response(OFFLINE, {
          status: 503,
          headers: {
            'Content-Type': 'text/html; charset=utf-8',
            'Cross-Origin-Embedder-Policy': 'require-corp',
            'Cross-Origin-Opener-Policy': 'same-origin',
          },
        })
      : Response.error(),
  ),
);

/** Deletes what is kept of a link, as far as its address is concerned. */
async function forget(token: string, which: (url: string) => boolean): Promise<void> {
  for (const name of [AUDIO, PAGES]) {
    const cache = await caches.open(name);
    for (const { url } of await cache.keys())
      if (LISTENING_PATH.exec(new URL(url).pathname)?.[1] === token && which(url)) await cache.delete(url);
  }
}

/** Keeps whole programmes of a link, in place of those of an older edition. */
async function keep({ token, urls }: Kept): Promise<boolean> {
  const cache = await caches.open(AUDIO);
  const wanted = urls.map((url) => new URL(url, location.origin).href);
  await forget(token, (url) => url.includes('/streams/') && !wanted.includes(url));
  for (const url of wanted) {
    if (await cache.match(url)) continue;
    const answer = await fetch(url);
    if (!answer.ok) return false;
    await cache.put(url, answer);
  }
  const all = await cache.keys();
  for (const { url } of all.slice(0, Math.max(0, all.length - MOST_AUDIO))) await cache.delete(url);
  return true;
}

addEventListener('message', (event) => {
  const { data, ports, waitUntil } = event as unknown as Message;
  const asked = keptAsked(data);
  if (!asked) return;
  waitUntil.call(
    event,
    keep(asked)
      .catch(() => false)
      .then((done) => ports[0]?.postMessage(done)),
  );
});

addEventListener('install', () => void (globalThis as unknown as { skipWaiting(): Promise<void> }).skipWaiting());
addEventListener('activate', (event) => {
  const { clients } = globalThis as unknown as { clients: { claim(): Promise<void> } };
  (event as Extendable).waitUntil(clients.claim());
});
