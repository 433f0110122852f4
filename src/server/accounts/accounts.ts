import type { Knex } from 'knex';
import { type AccountDetail, type ChangeAccount, type ChangePassword, type NewAccount } from '../../contracts/account';
import { getConfig } from '../config';
import { isTaken } from '../failures';
import { Problem } from '../problem';
import { ownedBy } from '../ownership';
import { audioStore } from '../store/audio-store';
import { countPassword } from './throttle';
import { receiptKey } from '../deliveries/signature';
import { accountBytes } from '../store/room';
import { fillShelf } from '../destinations/shelf';
import { hashPassword, passwordMatches } from './password';
import { settingsOf } from './settings';
import { endOtherSessions, listSessions, type Account } from './session';

/** Adds an account. Throws a Problem (409) when there is one with its address. */
export async function addAccount(db: Knex, { email, name, password }: NewAccount): Promise<string> {
  const password_hash = await hashPassword(password);
  return db.transaction(async (trx) => {
    const [row] = await trx('accounts')
      .insert({ email, name, password_hash })
      .onConflict('email')
      .ignore()
      .returning<{ id: string }[]>('id');
    if (!row) throw new Problem(409, `There is already an account for ${email}.`);
    await fillShelf(trx, row.id);
    return row.id;
  });
}

/** Whether there is no account yet, the demo aside. */
export async function awaitsFirstAccount(db: Knex): Promise<boolean> {
  return (await db('accounts').where({ demo: false }).first('id')) === undefined;
}

/** Adds the first account of an installation. Throws a Problem (403) once there is one. */
export async function addFirstAccount(db: Knex, account: NewAccount): Promise<string> {
  return db.transaction(async (trx) => {
    // Locking the installation's row makes simultaneous attempts take turns.
    await trx('installation').forUpdate().first('id');
    if (!(await awaitsFirstAccount(trx)))
      throw new Problem(403, 'This installation already has an account. Ask whoever runs it for one.');
    return addAccount(trx, account);
  });
}

/** Sets an account's password and ends all its sessions. Throws a Problem (404) when there is no such account. */
export async function resetPassword(db: Knex, email: string, password: string): Promise<void> {
  const password_hash = await hashPassword(password);
  await db.transaction(async (trx) => {
    const [row] = await trx('accounts').where({ email }).update({ password_hash }).returning<{ id: string }[]>('id');
    if (!row) throw new Problem(404, `There is no account for ${email}.`);
    await trx('sessions').where({ account_id: row.id }).delete();
  });
}

async function requirePassword(db: Knex, accountId: string, password: string): Promise<void> {
  const row = await db('accounts')
    .where({ id: accountId })
    .first<{ password_hash: string } | undefined>('password_hash');
  const forget = await countPassword(db, accountId);
  if (!(await passwordMatches(row?.password_hash, password)))
    throw new Problem(403, 'That is not your current password. Check it and try again.');
  await forget();
}

function refuseDemo({ demo }: Account): void {
  if (demo)
    throw new Problem(
      403,
      'The demo account is shared: its name, address and password can’t be changed, and only an operator can remove it.',
    );
}

/** Changes an account's password and ends its other sessions. Throws a Problem (403) when the old one is wrong. */
export async function changePassword(
  db: Knex,
  account: Account,
  { password, newPassword }: ChangePassword,
): Promise<void> {
  refuseDemo(account);
  await requirePassword(db, account.id, password);
  await db('accounts')
    .where({ id: account.id })
    .update({ password_hash: await hashPassword(newPassword) });
  await endOtherSessions(db, account.id);
}

/** Deletes an account with everything it has; its files go into quarantine with the next sweep. */
export async function deleteAccount(db: Knex, account: Account, password: string): Promise<void> {
  refuseDemo(account);
  await requirePassword(db, account.id, password);
  await removeAccount(db, account.id);
}

/** Deletes an account's rows; those of its deliveries first, which refer to its mixes. */
export async function removeAccount(db: Knex, accountId: string): Promise<void> {
  await db.transaction(async (trx) => {
    const tracks = ownedBy(trx, 'tracks', accountId, 'all').select('x.id');
    await trx('deliveries').whereIn('track_id', tracks).delete();
    await trx('accounts').where({ id: accountId }).delete();
  });
}

/** Changes one's name, or with the password one's address. Throws a Problem: 403 for a wrong one, 409 for a taken address. */
export async function changeAccount(
  db: Knex,
  account: Account,
  { name, email, password }: ChangeAccount,
): Promise<void> {
  refuseDemo(account);
  if (email !== undefined) await requirePassword(db, account.id, password ?? '');
  const changes = { ...(name === undefined ? {} : { name }), ...(email === undefined ? {} : { email }) };
  if (Object.keys(changes).length === 0) return;
  await db('accounts')
    .where({ id: account.id })
    .update(changes)
    .catch((error: unknown) => {
      throw isTaken(error) ? new Problem(409, `There is already an account for ${email}.`) : error;
    });
}

export async function accountDetail(db: Knex, { id, email, name, demo }: Account): Promise<AccountDetail> {
  return {
    ...{ email, name, demo },
    usedBytes: await accountBytes(db, audioStore(db), id),
    quotaBytes: getConfig().quotaBytes,
    receiptKey: receiptKey(getConfig().dataFolder),
    settings: await settingsOf(db, id),
    sessions: await listSessions(db, id),
  };
}
