import type { Knex } from 'knex';
import { type CandidateList, candidateListSchema, type Candidate } from '../../contracts/candidate';
import { requireOwn } from '../ownership';

/** Saves what the listening bar of a track offers. */
export async function saveCandidates(db: Knex, accountId: string, trackId: string, list: CandidateList): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    await trx('tracks')
      .where({ id: trackId })
      .update({ candidates: JSON.stringify(list) });
  });
}

/** What the listening bar of a track whose owner was checked offers; null when nothing was saved. */
export async function candidatesOf(db: Knex, trackId: string): Promise<Candidate[] | null> {
  const row = await db('tracks').where({ id: trackId }).first<{ candidates: unknown } | undefined>('candidates');
  return (
    candidateListSchema
      .nullable()
      .catch(null)
      .parse(row?.candidates ?? null)?.candidates ?? null
  );
}
