import { makeWorkerUtils } from 'graphile-worker';
import { getConfig } from '../server/config';
import { database } from '../server/database/connection';
import { migrate } from '../server/database/migrate';
import { runCommand } from './command';

// migrate: brings the database, and the job queue in it, to the newest form.
await runCommand(async () => {
  const queue = await makeWorkerUtils({ connectionString: getConfig().databaseUrl });
  try {
    await queue.migrate();
    await migrate(database());
  } finally {
    await queue.release();
    await database().destroy();
  }
});
