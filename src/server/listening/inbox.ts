import type { Knex } from 'knex';
import type { Inbox, InboxItem } from '../../contracts/listening';
import { ownedBy, type OwnedTable } from '../ownership';
import { preferenceResult } from './preference';

/** Answers that are listed. */
const MOST_ITEMS = 50;

interface AnswerRow {
  id: string;
  author: string;
  releaseId: string;
  release: string;
  trackId: string;
  track: string;
  text: string;
  seconds: number | null;
  at: Date;
  seenAt: Date | null;
}

const COLUMNS = [
  ...['x.id', 'x.author', 'r.id as releaseId', 'r.title as release', 't.id as trackId', 't.title as track'],
  'x.seen_at as seenAt',
];

function answers(db: Knex, accountId: string, table: OwnedTable) {
  return ownedBy(db, table, accountId)
    .join('tracks as t', 't.id', 'x.track_id')
    .join('releases as r', 'r.id', 't.release_id')
    .whereNull('t.removed_at')
    .limit(MOST_ITEMS);
}

/** What listeners answered, the newest first. */
export async function inbox(db: Knex, accountId: string): Promise<Inbox> {
  const notes = await answers(db, accountId, 'notes')
    .whereNotNull('x.author')
    .orderBy('x.created_at', 'desc')
    .select<AnswerRow[]>(...COLUMNS, 'x.text', 'x.start_seconds as seconds', 'x.created_at as at');
  const approvals = await answers(db, accountId, 'approvals')
    .orderBy('x.created_at', 'desc')
    .select<AnswerRow[]>(...COLUMNS, 'x.created_at as at');
  const tests = await answers(db, accountId, 'preference_tests')
    .whereNotNull('x.finished_at')
    .orderBy('x.finished_at', 'desc')
    .select<(AnswerRow & Parameters<typeof preferenceResult>[0])[]>(
      ...[...COLUMNS, 'x.finished_at as at', 'x.names', 'x.answers'],
    );
  const proposals = await answers(db, accountId, 'proposals')
    .orderBy('x.created_at', 'desc')
    .select<AnswerRow[]>(...COLUMNS, 'x.changes as text', 'x.created_at as at');
  const items = [
    ...notes.map((row) => ({ kind: 'note' as const, ...row })),
    ...proposals.map((row) => ({ ...row, kind: 'proposal' as const, seconds: null })),
    ...approvals.map((row) => ({ ...row, kind: 'approval' as const, text: '', seconds: null })),
    ...tests.map(({ names, answers: given, ...row }) => ({
      ...{ ...row, kind: 'preference' as const, text: preferenceResult({ names, answers: given }), seconds: null },
    })),
  ];
  const told = items
    .sort((a, b) => b.at.getTime() - a.at.getTime())
    .slice(0, MOST_ITEMS)
    .map(({ at, seenAt, ...item }): InboxItem => ({ ...item, at: at.toISOString(), seen: seenAt !== null }));
  return { items: told, unseen: told.filter(({ seen }) => !seen).length };
}

/** Marks answers as seen that came up to a moment. */
export async function markSeen(db: Knex, accountId: string, until: string): Promise<void> {
  await db.transaction(async (trx) => {
    for (const [table, moment] of [
      ['notes', 'created_at'],
      ['approvals', 'created_at'],
      ['preference_tests', 'finished_at'],
      ['proposals', 'created_at'],
    ] as const) {
      const own = ownedBy(trx, table, accountId).whereNull('x.seen_at').select('x.id');
      // A moment comes with milliseconds; the database keeps microseconds.
      await trx(table)
        .whereIn('id', own)
        .whereRaw(`date_trunc('milliseconds', ${moment}) <= ?`, [until])
        .update({ seen_at: trx.fn.now() });
    }
  });
}
