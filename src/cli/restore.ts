import path from 'node:path';
import { parseArgs } from 'node:util';
import { restore } from '../server/backup/backup';
import { getConfig } from '../server/config';
import { database } from '../server/database/connection';
import { AudioStore, storeFolder } from '../server/store/audio-store';
import { runCommand } from './command';

// restore DIR: fills an empty database and an empty store from a backup.
await runCommand(async () => {
  const { positionals } = parseArgs({ allowPositionals: true });
  if (positionals.length !== 1) throw new Error('Usage: npm run restore -- DIR');
  try {
    const store = new AudioStore(storeFolder());
    const { files } = await restore(database(), getConfig().databaseUrl, store, path.resolve(positionals[0]));
    process.stdout.write(`Restored: the database and ${files.length} audio files.\n`);
  } finally {
    await database().destroy();
  }
});
