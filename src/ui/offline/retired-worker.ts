// Stands at the address of a worker that once answered for the whole application, and takes its place: it deletes what that
// kept of the application, and itself.
addEventListener('install', () => void (globalThis as unknown as { skipWaiting(): Promise<void> }).skipWaiting());
addEventListener('activate', (event) => {
  const { registration } = globalThis as unknown as { registration: { unregister(): Promise<boolean> } };
  (event as unknown as { waitUntil(work: Promise<unknown>): void }).waitUntil(
    caches.delete('shell').then(() => registration.unregister()),
  );
});
