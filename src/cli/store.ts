import { parseArgs } from 'node:util';
import { database } from '../server/database/connection';
import { log } from '../server/log';
import { audioStore } from '../server/store/audio-store';
import { checkFile } from '../server/store/check';
import { matchStore } from '../server/store/identity';
import { referencedFiles } from '../server/store/references';
import { sweep } from '../server/store/sweep';
import { runCommand } from './command';

// store check: hashes every file that the database refers to. store sweep: tidies now; --all lifts the limit on how much.
await runCommand(async () => {
  const { positionals, values } = parseArgs({ allowPositionals: true, options: { all: { type: 'boolean' } } });
  const [action] = positionals;
  if (positionals.length !== 1 || (action !== 'check' && action !== 'sweep'))
    throw new Error('Usage: npm run store -- check   or   npm run store -- sweep [--all]');
  const db = database();
  const store = audioStore(db);
  try {
    await matchStore(db, store.folder);
    const referenced = await referencedFiles(db);
    if (action === 'sweep') {
      const swept = await sweep(store, referenced, log(), { operator: values.all });
      process.stdout.write(`${JSON.stringify(swept)}\n`);
      return;
    }
    const count = { whole: 0, damaged: 0, missing: 0 };
    for (const hash of referenced) count[await checkFile(store, hash, log())]++;
    process.stdout.write(`${JSON.stringify(count)}\n`);
    if (count.damaged + count.missing > 0)
      throw new Error('Some stored files must be restored from a backup; the log lists them.');
  } finally {
    await db.destroy();
  }
});
