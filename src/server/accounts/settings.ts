import type { Knex } from 'knex';
import { accountSettingsSchema, type AccountSettings } from '../../contracts/account';
import { database } from '../database/connection';

/** What an account's new releases and deliveries begin with. */
export async function settingsOf(db: Knex, accountId: string): Promise<AccountSettings> {
  const row = await db('accounts').where({ id: accountId }).first<{ settings: unknown }>('settings');
  return accountSettingsSchema.parse(row.settings ?? {});
}

export async function saveSettings(accountId: string, settings: AccountSettings): Promise<void> {
  await database()('accounts')
    .where({ id: accountId })
    .update({ settings: JSON.stringify(settings) });
}
