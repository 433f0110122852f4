import { randomBytes } from 'node:crypto';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { newAccountSchema } from '../contracts/account';
import { addAccount, resetPassword } from '../server/accounts/accounts';
import { database } from '../server/database/connection';
import { runCommand } from './command';

const USAGE = 'npm run account -- add EMAIL [--name NAME]   or   npm run account -- reset EMAIL';

/** One line of standard input, when there is one: a password that is not to stand in the shell's history. */
async function givenPassword(): Promise<string | null> {
  if (process.stdin.isTTY) return null;
  const lines = createInterface({ input: process.stdin });
  for await (const line of lines) return line || null;
  return null;
}

// account add | reset EMAIL: the password comes from standard input, or is made and printed.
await runCommand(async () => {
  const { positionals, values } = parseArgs({ allowPositionals: true, options: { name: { type: 'string' } } });
  const [action, email] = positionals;
  if (positionals.length !== 2 || (action !== 'add' && action !== 'reset')) throw new Error(`Usage: ${USAGE}`);
  const given = await givenPassword();
  const password = given ?? randomBytes(12).toString('base64url');
  const account = newAccountSchema.safeParse({ email, password, name: values.name ?? email.split('@')[0] });
  if (!account.success) throw new Error(account.error.issues.map(({ message }) => message).join(' '));
  try {
    if (action === 'add') await addAccount(database(), account.data);
    else await resetPassword(database(), account.data.email, password);
    const what = action === 'add' ? 'Account created.' : 'Password set, all sessions ended.';
    process.stdout.write(`${what}${given ? '' : ` Its password: ${password}`}\n`);
  } finally {
    await database().destroy();
  }
});
