import { Application } from '../support/application';
import { withTemplates } from '../support/template';

declare global {
  var application: Application | undefined;
  var removeTemplates: (() => void) | undefined;
}

/** One application for all server tests that do not disturb each other. */
export default async function setup(): Promise<void> {
  globalThis.removeTemplates = await withTemplates('empty');
  // Tests speak for clients at other addresses.
  globalThis.application = await new Application({ env: { COPPER_PROXIES: '1' } }).start();
  process.env.TEST_URL = globalThis.application.url;
  process.env.DATABASE_URL = globalThis.application.databaseUrl;
}
