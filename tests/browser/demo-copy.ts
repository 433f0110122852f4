import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';

/** Tables that hold a release and what is in it, each with the column that names its parent, parents first. */
const PARTS = [
  ['destinations', 'release_id'],
  ['tracks', 'release_id'],
  ['mixes', 'track_id'],
  ['versions', 'track_id'],
  ['edits', 'version_id'],
  ['deliveries', 'track_id'],
] as const;

type Row = Record<string, unknown> & { id?: string };

/** Gives an account a copy of the demo's release, so that no test sees what another did to it; the audio files are shared. */
export async function copyDemo(db: Knex, accountId: string): Promise<void> {
  const rowsOf = async (table: string, column: string, parents: string[]) => {
    const found = await db<Row>(table)
      .whereIn(column, parents)
      .select<{ row: Row }[]>(db.raw('to_jsonb(??) as row', [table]));
    return found.map(({ row }) => row);
  };
  const demo = await db('accounts').where({ demo: true }).first<{ id: string }>('id');
  const releases = await rowsOf('releases', 'account_id', [demo.id]);
  const copied: [table: string, rows: Row[]][] = [['releases', releases]];
  const ids = new Map([[demo.id, accountId]]);
  const found = releases.map(({ id }) => id!);
  for (const [table, column] of PARTS) {
    const rows = await rowsOf(table, column, found);
    copied.push([table, rows]);
    found.push(...rows.flatMap(({ id }) => id ?? []));
  }
  for (const id of found) ids.set(id, randomUUID());
  const renamed = (rows: Row[]) =>
    JSON.stringify(rows).replace(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, (id) => ids.get(id) ?? id);
  await db.transaction(async (trx) => {
    // Tracks name their mixes, and mixes their tracks.
    await trx.raw('set local session_replication_role = replica');
    for (const [table, rows] of copied) {
      const columns = await trx('information_schema.columns')
        .where({ table_schema: 'public', table_name: table, is_generated: 'NEVER' })
        .pluck<string[]>('column_name');
      const names = columns.map(() => '??').join();
      await trx.raw(`insert into ?? (${names}) select ${names} from jsonb_populate_recordset(null::??, ?)`, [
        table,
        ...columns,
        ...columns,
        table,
        renamed(rows),
      ]);
    }
  });
}
