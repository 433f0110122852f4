import type { Knex } from 'knex';
import type { PutOnShelf, ShelfEntry } from '../../contracts/destination';
import { destinationSchema } from '../../core/deliver/destination';
import { READY_MADE, STARTING_NAMES } from '../../core/deliver/ready-made';
import { isTaken } from '../failures';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';

/** Destinations on a shelf. */
const MOST_ON_SHELF = 100;

interface ShelfRow {
  id: string;
  settings: unknown;
  starts: boolean;
}

/** Puts the ready-made destinations on the shelf of a new account; `starting` names those that new releases get. */
export async function fillShelf(
  db: Knex,
  accountId: string,
  starting: readonly string[] = STARTING_NAMES,
): Promise<void> {
  await db('shelf_destinations').insert(
    READY_MADE.map((settings, position) => ({
      ...{ account_id: accountId, position, starts: starting.includes(settings.name) },
      ...{ name: settings.name, settings: JSON.stringify(settings) },
    })),
  );
}

/** The shelf of an account, in order. */
export async function listShelf(db: Knex, accountId: string): Promise<ShelfEntry[]> {
  const rows = await db('shelf_destinations')
    .where({ account_id: accountId, removed_at: null })
    .orderBy(['position', 'created_at'])
    .select<ShelfRow[]>('id', 'settings', 'starts');
  return rows.map((row) => ({ ...row, settings: destinationSchema.parse(row.settings) }));
}

/** One destination of a shelf. Throws a Problem (404) for another's. */
export async function requireOnShelf(db: Knex, accountId: string, id: string): Promise<ShelfEntry> {
  const columns = ['id', 'settings', 'starts'] as const;
  const row = await requireOwn<ShelfRow>(db, 'shelf_destinations', accountId, id, columns);
  return { ...row, settings: destinationSchema.parse(row.settings) };
}

function taken(name: string): Problem {
  return new Problem(409, `There is already a destination named “${name}” on your shelf. Give this one another name.`);
}

/** Two destinations of a name could not be told apart. */
async function named<Result>(name: string, write: () => Promise<Result>): Promise<Result> {
  return write().catch((error: unknown) => {
    throw isTaken(error) ? taken(name) : error;
  });
}

/** Puts a destination on the shelf. Throws a Problem: 409 when its name is taken, 422 when the shelf is full. */
export async function addToShelf(
  db: Knex,
  accountId: string,
  { settings, starts }: PutOnShelf,
): Promise<{ id: string }> {
  return named(settings.name, () =>
    db.transaction(async (trx) => {
      // Whoever adds at the same time takes turns.
      await trx('accounts').where({ id: accountId }).forUpdate().first('id');
      const [{ count, last }] = await trx('shelf_destinations')
        .where({ account_id: accountId, removed_at: null })
        .select<{ count: string; last: number | null }[]>(trx.raw('count(*), max(position) as last'));
      if (Number(count) >= MOST_ON_SHELF)
        throw new Problem(422, `A shelf has at most ${MOST_ON_SHELF} destinations. Delete one first.`);
      const [row] = await trx('shelf_destinations')
        .insert({
          ...{ account_id: accountId, position: (last ?? -1) + 1, starts },
          ...{ name: settings.name, settings: JSON.stringify(settings) },
        })
        .returning<{ id: string }[]>('id');
      return row;
    }),
  );
}

/** Changes a destination on the shelf; releases keep the values they were given. */
export async function changeOnShelf(
  db: Knex,
  accountId: string,
  id: string,
  { settings, starts }: PutOnShelf,
): Promise<void> {
  await named(settings.name, () =>
    db.transaction(async (trx) => {
      await requireOwn(trx, 'shelf_destinations', accountId, id, ['id'], { lock: true });
      const changes = { starts, name: settings.name, settings: JSON.stringify(settings) };
      await trx('shelf_destinations').where({ id }).update(changes);
    }),
  );
}

/** Takes a destination off the shelf; it can be restored, and releases keep theirs. */
export async function removeFromShelf(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'shelf_destinations', accountId, id, ['id'], { lock: true });
    await trx('shelf_destinations').where({ id }).update({ removed_at: trx.fn.now() });
  });
}
