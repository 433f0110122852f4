/** Stops what the set-up started. */
export default async function teardown(): Promise<void> {
  await globalThis.application?.stop();
  globalThis.removeTemplates?.();
}
