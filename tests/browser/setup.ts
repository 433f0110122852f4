import { Application } from '../support/application';

/** One application with the demo for all browser tests; gives what stops it. */
export default async function setup(): Promise<() => Promise<void>> {
  const application = await new Application({ port: 3483, databasePort: 5483 }).start();
  application.command('src/cli/seed.ts');
  process.env.DATABASE_URL = application.databaseUrl;
  return () => application.stop();
}
