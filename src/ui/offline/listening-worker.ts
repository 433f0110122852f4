import { createPartialResponse } from 'workbox-range-requests';
import { registerRoute, setCatchHandler } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';
import { assetsIn, fontsIn, isPageAsset } from './assets';
import { keptAsked, LISTENING_PATH, type Kept } from './kept';

/** What of the types for service workers is used here: those of the browser's pages leave them out. */
interface Extendable extends Event {
  readonly clientId?: string;
  waitUntil(work: Promise<unknown>): void;
}
interface Clients {
  get(id: string): Promise<{ type: string } | undefined>;
  claim(): Promise<void>;
}
interface Message extends Extendable {
  data: unknown;
  ports: readonly MessagePort[];
}

const ASSETS = 'assets';
const PAGES = 'pages';
const AUDIO = 'audio';
/** Pages and answers that are kept, and whole programmes. */
const MOST_PAGES = 60;
const MOST_AUDIO = 12;
/** A page on a line this slow is shown as it was kept, in seconds. */
const PATIENCE = 6;

const scope = globalThis as unknown as { clients: Clients; skipWaiting(): Promise<void> };

const OFFLINE = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Offline · Copper Lane</title><style>:root{color-scheme:light dark}body{font:16px/1.45 system-ui;max-width:480px;margin:96px auto;padding:0 24px}</style>
<h1>You are offline</h1><p>This page was not kept on this device. Connect and load it again; nothing was lost.</p></html>`;

// Scripts, styles, fonts and pictures of kept pages. A worker started from the same file with another fragment would be
// answered with the wrong one: what workers and worklets load goes to the network.
registerRoute(
  ({ request, url, sameOrigin }) => sameOrigin && isPageAsset(url, request.destination),
  async ({ request, event }) => {
    const { clientId = '' } = event as Extendable;
    const client = await scope.clients.get(clientId);
    const kept = client?.type === 'window' ? await (await caches.open(ASSETS)).match(request.url) : undefined;
    return kept ?? fetch(request);
  },
);

// A link that has ended takes along what was kept of it.
const forgetEnded = {
  fetchDidSucceed: async ({ request, response }: { request: Request; response: Response }) => {
    const token = LISTENING_PATH.exec(new URL(request.url).pathname)?.[1];
    if (token && [401, 404, 410].includes(response.status)) await forget(token, () => true);
    return response;
  },
};
// A page is kept together with everything that it loads, never alone.
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && url.pathname.startsWith('/listen/'),
  new NetworkFirst({
    cacheName: PAGES,
    networkTimeoutSeconds: PATIENCE,
    plugins: [forgetEnded, { cacheWillUpdate: () => Promise.resolve(null) }],
  }),
);
registerRoute(
  ({ url }) => /^\/api\/listening\/[^/]+$/.test(url.pathname),
  new NetworkFirst({ cacheName: PAGES, networkTimeoutSeconds: PATIENCE, plugins: [forgetEnded] }),
);

// Streams: from the device where they are kept, in the parts that a player asks for.
registerRoute(
  ({ url }) => /^\/api\/listening\/[^/]+\/streams\//.test(url.pathname),
  async ({ request }) => {
    const kept = await (await caches.open(AUDIO)).match(request.url);
    if (!kept) return fetch(request);
    return request.headers.has('range') ? createPartialResponse(request, kept) : kept;
  },
);

// A page that was not kept says plainly that there is no connection.
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

/** Fetches into a cache, unless it is there. Gives what is kept; throws when the server refuses it. */
async function fetched(cache: Cache, url: string, again = false): Promise<Response> {
  const kept = again ? undefined : await cache.match(url);
  if (kept) return kept;
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}.`);
  await cache.put(url, answer.clone());
  return answer;
}

/** Deletes the oldest of what is kept. */
async function trim(cache: Cache, most: number): Promise<void> {
  const all = await cache.keys();
  for (const { url } of all.slice(0, Math.max(0, all.length - most))) await cache.delete(url);
}

/** Keeps whole programmes of a link, in place of those of an older edition. */
async function keepAudio({ token, urls }: Kept): Promise<void> {
  const cache = await caches.open(AUDIO);
  const wanted = urls.map((url) => new URL(url, location.origin).href);
  await forget(token, (url) => url.includes('/streams/') && !wanted.includes(url));
  for (const url of wanted) await fetched(cache, url);
  await trim(cache, MOST_AUDIO);
}

/** Keeps the page of a link with everything that it loads; what no kept page loads is deleted. */
async function keepPage(token: string): Promise<void> {
  const [pages, assets] = await Promise.all([caches.open(PAGES), caches.open(ASSETS)]);
  const name = encodeURIComponent(token);
  await fetched(pages, `/api/listening/${name}`, true);
  // Fetched whole before it takes the place of the older one.
  const page = await fetch(`/listen/${name}`);
  if (!page.ok) throw new Error(`The page answered ${page.status}.`);
  for (const url of assetsIn(await page.clone().text())) {
    const asset = await fetched(assets, url);
    if (url.endsWith('.css')) for (const font of fontsIn(await asset.text(), url)) await fetched(assets, font);
  }
  await pages.put(`/listen/${name}`, page);
  await trim(pages, MOST_PAGES);
}

/** Everything that the kept page of a link needs without a connection: null when some of it is missing. */
async function neededBy(pageUrl: string): Promise<string[] | null> {
  const [pages, assets] = await Promise.all([caches.open(PAGES), caches.open(ASSETS)]);
  const page = await pages.match(pageUrl);
  if (!page) return null;
  const needed: string[] = [];
  for (const url of assetsIn(await page.text())) {
    const asset = await assets.match(url);
    if (!asset) return null;
    const fonts = url.endsWith('.css') ? fontsIn(await asset.text(), url) : [];
    for (const font of fonts) if (!(await assets.match(font))) return null;
    needed.push(url, ...fonts);
  }
  return needed;
}

/** Deletes what no kept page loads. */
async function sweepAssets(): Promise<void> {
  const pages = (await (await caches.open(PAGES)).keys()).filter(({ url }) =>
    new URL(url).pathname.startsWith('/listen/'),
  );
  const needed = new Set((await Promise.all(pages.map(({ url }) => neededBy(url)))).flatMap((urls) => urls ?? []));
  const assets = await caches.open(ASSETS);
  for (const { url } of await assets.keys()) {
    const { pathname, search } = new URL(url);
    if (!needed.has(pathname + search)) await assets.delete(url);
  }
}

/** Keeps a link for hearing it without a connection. Gives whether a reload would find everything that it needs. */
async function keep(asked: Kept): Promise<boolean> {
  await keepPage(asked.token);
  await keepAudio(asked);
  await sweepAssets();
  const audio = await caches.open(AUDIO);
  const programmes = await Promise.all(asked.urls.map((url) => audio.match(new URL(url, location.origin).href)));
  return programmes.every(Boolean) && (await neededBy(`/listen/${encodeURIComponent(asked.token)}`)) !== null;
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

addEventListener('install', () => void scope.skipWaiting());
addEventListener('activate', (event) => (event as Extendable).waitUntil(scope.clients.claim()));
