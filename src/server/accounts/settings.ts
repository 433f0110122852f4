import type { Knex } from 'knex';
import { accountSettingsSchema, type AccountSettings } from '../../contracts/account';

/** What an account's new releases and deliveries begin with. */
export async function settingsOf(db: Knex, accountId: string): Promise<AccountSettings> {
  const row = await db('accounts').where({ id: accountId }).first<{ settings: unknown }>('settings');
  return accountSettingsSchema.parse(row.settings ?? {});
}

export async function saveSettings(db: Knex, accountId: string, settings: AccountSettings): Promise<void> {
  await db('accounts')
    .where({ id: accountId })
    .update({ settings: JSON.stringify(settings) });
}
