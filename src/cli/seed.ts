import { seedDemo } from '../demo/seed';
import { database } from '../server/database/connection';
import { log } from '../server/log';
import { audioStore } from '../server/store/audio-store';
import { runCommand } from './command';

// seed: puts the demo account and its pieces into the database, once.
await runCommand(async () => {
  try {
    await seedDemo(database(), audioStore(), log());
  } finally {
    await database().destroy();
  }
});
