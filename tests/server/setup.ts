import { Application } from '../support/application';

declare global {
  var application: Application | undefined;
}

/** One application for all server tests. */
export default async function setup(): Promise<void> {
  globalThis.application = await new Application({
    port: 3481,
    databasePort: 5481,
    // Tests speak for clients at other addresses.
    env: { COPPER_PROXIES: '1' },
  }).start();
  process.env.TEST_URL = globalThis.application.url;
  process.env.DATABASE_URL = globalThis.application.databaseUrl;
}
