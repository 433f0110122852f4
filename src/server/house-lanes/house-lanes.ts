import type { Knex } from 'knex';
import type { KeptHouseLane } from '../../contracts/house-lane';
import { houseLaneSchema, type HouseLane } from '../../core/house/house-lane';
import { isTaken } from '../failures';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';

/** House lanes of an account. */
const MOST_HOUSE_LANES = 200;

/** The house lanes that an account keeps, by name. */
export async function listHouseLanes(db: Knex, accountId: string): Promise<KeptHouseLane[]> {
  const rows = await db('house_lanes')
    .where({ account_id: accountId })
    .orderBy('name')
    .select<{ id: string; house_lane: unknown }[]>('id', 'house_lane');
  return rows.map(({ id, house_lane }) => ({ id, houseLane: houseLaneSchema.parse(house_lane) }));
}

/** Two house lanes of a name could not be told apart. */
async function named<Result>(name: string, write: () => Promise<Result>): Promise<Result> {
  return write().catch((error: unknown) => {
    throw isTaken(error)
      ? new Problem(409, `There is already a house lane named “${name}”. Give this one another name.`)
      : error;
  });
}

const rowOf = (houseLane: HouseLane) => ({ name: houseLane.name, house_lane: JSON.stringify(houseLane) });

/** Keeps a house lane. Throws a Problem: 409 when its name is taken, 422 when there are too many. */
export async function addHouseLane(db: Knex, accountId: string, houseLane: HouseLane): Promise<{ id: string }> {
  return named(houseLane.name, () =>
    db.transaction(async (trx) => {
      // Whoever adds at the same time takes turns.
      await trx('accounts').where({ id: accountId }).forUpdate().first('id');
      const [{ count }] = await trx('house_lanes').where({ account_id: accountId }).count<{ count: string }[]>('id');
      if (Number(count) >= MOST_HOUSE_LANES)
        throw new Problem(422, `An account keeps at most ${MOST_HOUSE_LANES} house lanes. Delete one first.`);
      const [row] = await trx('house_lanes')
        .insert({ account_id: accountId, ...rowOf(houseLane) })
        .returning<{ id: string }[]>('id');
      return row;
    }),
  );
}

/** Changes a house lane; versions that began from it stay as they are. Throws a Problem: 404, or 409 for a taken name. */
export async function changeHouseLane(db: Knex, accountId: string, id: string, houseLane: HouseLane): Promise<void> {
  await named(houseLane.name, () =>
    db.transaction(async (trx) => {
      await requireOwn(trx, 'house_lanes', accountId, id, ['id'], { lock: true });
      await trx('house_lanes').where({ id }).update(rowOf(houseLane));
    }),
  );
}

/** Deletes a house lane; versions that began from it stay as they are. Throws a Problem (404). */
export async function deleteHouseLane(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'house_lanes', accountId, id, ['id'], { lock: true });
    await trx('house_lanes').where({ id }).delete();
  });
}
