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

/** Lets the service worker keep the shell. Browsers have none in private windows and without https. */
export function useServiceWorker(): void {
  useEffect(() => {
    if (process.env.NODE_ENV === 'production' && 'serviceWorker' in navigator)
      void navigator.serviceWorker.register('/service-worker.js').catch(() => {});
  }, []);
}

/** Asks the service worker to keep streams as soon as `wanted`; tells whether they are on this device. */
export function useKept({ token, urls }: Kept, wanted: boolean): boolean {
  const [kept, setKept] = useState(false);
  const all = urls.join('\n');
  useEffect(() => {
    if (!wanted || all === '' || !('serviceWorker' in navigator)) return;
    const channel = new MessageChannel();
    channel.port1.onmessage = ({ data }) => setKept(data === true);
    void navigator.serviceWorker.ready.then(({ active }) =>
      active?.postMessage({ token, urls: all.split('\n') } satisfies Kept, [channel.port2]),
    );
    return () => channel.port1.close();
  }, [token, all, wanted]);
  return kept;
}
