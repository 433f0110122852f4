import path from 'node:path';
import { parseArgs } from 'node:util';
import { backUp } from '../server/backup/backup';
import { getConfig } from '../server/config';
import { database } from '../server/database/connection';
import { AudioStore, storeFolder } from '../server/store/audio-store';
import { runCommand } from './command';

// backup DIR: writes database and audio into a new folder, while the application runs.
await runCommand(async () => {
  const { positionals } = parseArgs({ allowPositionals: true });
  if (positionals.length !== 1) throw new Error('Usage: npm run backup -- DIR');
  try {
    const store = new AudioStore(storeFolder());
    const { files } = await backUp(database(), getConfig().databaseUrl, store, path.resolve(positionals[0]));
    process.stdout.write(`Backed up: the database and ${files.length} audio files.\n`);
  } finally {
    await database().destroy();
  }
});
