import { demoWasRemoved } from '../demo/removal';
import { seedDemo } from '../demo/seed';
import { getConfig } from '../server/config';
import { database } from '../server/database/connection';
import { log } from '../server/log';
import { audioStore } from '../server/store/audio-store';
import { runCommand } from './command';

// seed: puts the demo account and its pieces into the database, once; not where it is not wanted.
await runCommand(async () => {
  try {
    if (!getConfig().demo || (await demoWasRemoved(database()))) log().info('the demo is switched off');
    else await seedDemo(database(), audioStore(database()), log());
  } finally {
    await database().destroy();
  }
});
