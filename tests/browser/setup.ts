import { DEMO } from '@/server/accounts/demo-account';
import type { ReleaseDetail, ReleasePage } from '@/contracts/release';
import { Application, until } from '../support/application';
import { Client } from '../support/client';
import { withTemplates } from '../support/template';

/** Has the demo measured once, so that not every copy of it has to be. */
async function measureDemo(url: string): Promise<void> {
  const client = new Client(url);
  await client.ask('POST', '/api/session', { email: DEMO.email, password: DEMO.password });
  const { body: page } = await client.ask<ReleasePage>('GET', '/api/releases');
  await until('the demo is measured', async () => {
    const { body } = await client.ask<ReleaseDetail>('GET', `/api/releases/${page.releases[0].id}`);
    return body.tracks.every(({ master }) => master?.summary);
  });
}

/** One application with the demo for all browser tests; gives what stops it. */
export default async function setup(): Promise<() => Promise<void>> {
  const removeTemplates = await withTemplates('demo');
  const application = await new Application({ demo: true }).start();
  process.env.DATABASE_URL = application.databaseUrl;
  process.env.TEST_URL = application.url;
  process.env.TEST_FOLDER = application.folder;
  await measureDemo(application.url);
  return async () => {
    await application.stop();
    removeTemplates();
  };
}
