import type { Knex } from 'knex';

/** Hashes of all files that a row refers to. */
export async function referencedFiles(db: Knex): Promise<Set<string>> {
  const mixes = await db('mixes').select<{ original_hash: string | null; working_hash: string | null }[]>(
    'original_hash',
    'working_hash',
  );
  const deliveries = await db('deliveries').whereNotNull('file_hash').select<{ file_hash: string }[]>('file_hash');
  const responses = await db('impulse_responses').select<{ file_hash: string }[]>('file_hash');
  const hashes = [
    ...mixes.flatMap((mix) => [mix.original_hash, mix.working_hash]),
    ...[...deliveries, ...responses].map(({ file_hash }) => file_hash),
  ];
  return new Set(hashes.filter((hash) => hash !== null));
}
