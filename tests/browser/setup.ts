import { Application } from '../support/application';
import { withTemplates } from '../support/template';

/** One application with the demo for all browser tests; gives what stops it. */
export default async function setup(): Promise<() => Promise<void>> {
  const removeTemplates = await withTemplates('demo');
  const application = await new Application({ demo: true }).start();
  process.env.DATABASE_URL = application.databaseUrl;
  process.env.TEST_URL = application.url;
  process.env.TEST_FOLDER = application.folder;
  return async () => {
    await application.stop();
    removeTemplates();
  };
}
