import type { Knex } from 'knex';
import { ownedBy, type OwnedTable } from '../ownership';

/** Columns that hold hashes of stored files. A test compares them with the database. */
export const FILE_COLUMNS: readonly { table: OwnedTable; columns: readonly string[] }[] = [
  { table: 'mixes', columns: ['original_hash', 'working_hash'] },
  { table: 'deliveries', columns: ['file_hash'] },
  { table: 'listening_files', columns: ['file_hash'] },
  { table: 'images', columns: ['file_hash'] },
  { table: 'releases', columns: ['cover_hash'] },
  { table: 'impulse_responses', columns: ['file_hash'] },
  { table: 'reference_tracks', columns: ['file_hash'] },
  { table: 'encode_checks', columns: ['file_hash'] },
  { table: 'blind_test_sounds', columns: ['file_hash'] },
];

async function hashes(db: Knex, accountId: string | null): Promise<Set<string>> {
  const found = new Set<string>();
  for (const { table, columns } of FILE_COLUMNS) {
    const query = accountId === null ? db(`${table} as x`) : ownedBy(db, table, accountId, 'all');
    const rows = await query.select<Record<string, string | null>[]>(columns.map((column) => `x.${column}`));
    for (const row of rows) for (const hash of Object.values(row)) if (hash !== null) found.add(hash);
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
