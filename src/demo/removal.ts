import type { Knex } from 'knex';
import { removeAccount } from '../server/accounts/accounts';

/** Whether an operator has removed the demo, so that it is not made again. */
export async function demoWasRemoved(db: Knex): Promise<boolean> {
  const row = await db('installation').first<{ demo_removed: boolean } | undefined>('demo_removed');
  return row?.demo_removed ?? false;
}

/** Removes the demo account with everything in it, for good. */
export async function removeDemo(db: Knex): Promise<void> {
  await db('installation').update({ demo_removed: true });
  const accounts = await db('accounts').where({ demo: true }).select<{ id: string }[]>('id');
  for (const { id } of accounts) await removeAccount(db, id);
}

/** Lets the demo be made again. */
export async function restoreDemo(db: Knex): Promise<void> {
  await db('installation').update({ demo_removed: false });
}
