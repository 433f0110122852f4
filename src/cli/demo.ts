import { parseArgs } from 'node:util';
import { removeDemo, restoreDemo } from '../demo/removal';
import { database } from '../server/database/connection';
import { runCommand } from './command';

// demo remove | restore: takes the demo out for good, or lets the next start make it again.
await runCommand(async () => {
  const { positionals } = parseArgs({ allowPositionals: true });
  const [action] = positionals;
  if (positionals.length !== 1 || (action !== 'remove' && action !== 'restore'))
    throw new Error('Usage: npm run demo -- remove   or   npm run demo -- restore');
  try {
    if (action === 'remove') {
      await removeDemo(database());
      process.stdout.write('The demo is removed. To bring it back: npm run demo -- restore.\n');
    } else {
      await restoreDemo(database());
      process.stdout.write('The next start, or npm run seed, creates the demo again.\n');
    }
  } finally {
    await database().destroy();
  }
});
