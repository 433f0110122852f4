import type { Knex } from 'knex';
import type { DraftHabits } from '../../contracts/draft';
import { takenDraftSchema, type TakenDraft } from '../../core/draft/first-draft/habits';

/** Drafts that are remembered of an account: what was done long ago says little. */
const MOST_DRAFTS = 100;

/** What an account did to its drafts. */
export async function habits(db: Knex, accountId: string): Promise<DraftHabits> {
  const rows = await db('taken_drafts')
    .where({ account_id: accountId })
    .orderBy('created_at', 'desc')
    .limit(MOST_DRAFTS)
    .pluck<unknown[]>('draft');
  const { drafts_lean } = await db('accounts').where({ id: accountId }).first<{ drafts_lean: boolean }>('drafts_lean');
  return { leans: drafts_lean, drafts: rows.map((draft) => takenDraftSchema.parse(draft)) };
}

/** Remembers what was done to a draft, and forgets the oldest where there are too many. */
export async function rememberDraft(db: Knex, accountId: string, draft: TakenDraft): Promise<void> {
  await db.transaction(async (trx) => {
    await trx('taken_drafts').insert({ account_id: accountId, draft: JSON.stringify(draft) });
    const kept = trx('taken_drafts')
      .where({ account_id: accountId })
      .orderBy('created_at', 'desc')
      .limit(MOST_DRAFTS)
      .select('id');
    await trx('taken_drafts').where({ account_id: accountId }).whereNotIn('id', kept).delete();
  });
}

/** Switches on or off that drafts lean towards what is usually done. */
export async function setLeaning(db: Knex, accountId: string, leans: boolean): Promise<void> {
  await db('accounts').where({ id: accountId }).update({ drafts_lean: leans });
}

/** Forgets all that an account did to its drafts. */
export async function forgetDrafts(db: Knex, accountId: string): Promise<void> {
  await db('taken_drafts').where({ account_id: accountId }).delete();
}
