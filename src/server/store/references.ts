import type { Knex } from 'knex';

/** Columns that hold hashes of stored files, and how each row leads to its account. */
const COLUMNS = [
  { table: 'mixes', columns: ['original_hash', 'working_hash'], owner: 'track' },
  { table: 'deliveries', columns: ['file_hash'], owner: 'track' },
  { table: 'impulse_responses', columns: ['file_hash'], owner: 'account' },
] as const;

async function hashes(db: Knex, accountId: string | null): Promise<Set<string>> {
  const found = new Set<string>();
  for (const { table, columns, owner } of COLUMNS) {
    const query = db(`${table} as x`).select<Record<string, string | null>[]>(columns.map((column) => `x.${column}`));
    if (accountId !== null && owner === 'account') void query.where('x.account_id', accountId);
    if (accountId !== null && owner === 'track')
      void query
        .join('tracks as t', 't.id', 'x.track_id')
        .join('releases as r', 'r.id', 't.release_id')
        .where('r.account_id', accountId);
    for (const row of await query) for (const hash of Object.values(row)) if (hash !== null) found.add(hash);
  }
  return found;
}

/** Hashes of all files that a row refers to. */
export function referencedFiles(db: Knex): Promise<Set<string>> {
  return hashes(db, null);
}

/** Hashes of the files that an account's rows refer to. */
export function referencesOf(db: Knex, accountId: string): Promise<Set<string>> {
  return hashes(db, accountId);
}
