'use client';

import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Kept } from './kept';

const follow = (tell: () => void) => {
  for (const name of ['online', 'offline']) window.addEventListener(name, tell);
  return () => {
    for (const name of ['online', 'offline']) window.removeEventListener(name, tell);
  };
};

/** Whether the browser knows that there is no connection. */
export function useOffline(): boolean {
  return useSyncExternalStore(
    follow,
    () => !navigator.onLine,
    () => false,
  );
}

/** The worker that once answered for the whole application, and mistook its measuring workers for each other. */
const RETIRED = '/service-worker.js';

/** Removes the retired worker; the page is loaded again when it came through that. */
async function removeRetired(): Promise<void> {
  const registrations = await navigator.serviceWorker.getRegistrations();
  const retired = registrations.filter(({ active, waiting, installing }) =>
    [active, waiting, installing].some((worker) => worker && new URL(worker.scriptURL).pathname === RETIRED),
  );
  const removed = await Promise.all(retired.map((registration) => registration.unregister()));
  if (!removed.includes(true)) return;
  await caches.delete('shell');
  const { controller } = navigator.serviceWorker;
  if (controller && new URL(controller.scriptURL).pathname === RETIRED) window.location.reload();
}

/** Browsers have no service workers in private windows and without https. */
const supported = () => process.env.NODE_ENV === 'production' && 'serviceWorker' in navigator;

/** Frees a page of the application from a retired worker; the application itself has none. */
export function useNoServiceWorker(): void {
  useEffect(() => {
    if (supported()) void removeRetired().catch(() => {});
  }, []);
}

/** The worker that keeps listening pages, once it runs. */
async function listeningWorker(): Promise<ServiceWorker | null> {
  await removeRetired();
  await navigator.serviceWorker.register('/listening-worker.js', { scope: '/listen/' });
  return (await navigator.serviceWorker.ready).active;
}

/** Asks the service worker to keep a listening page as soon as `wanted`; tells whether a reload without a connection works. */
export function useKept({ token, urls }: Kept, wanted: boolean): boolean {
  const [kept, setKept] = useState(false);
  const all = urls.join('\n');
  useEffect(() => {
    if (!wanted || all === '' || !supported()) return;
    const channel = new MessageChannel();
    channel.port1.onmessage = ({ data }) => setKept(data === true);
    void listeningWorker()
      .then((worker) => worker?.postMessage({ token, urls: all.split('\n') } satisfies Kept, [channel.port2]))
      .catch(() => {});
    return () => channel.port1.close();
  }, [token, all, wanted]);
  return kept;
}
