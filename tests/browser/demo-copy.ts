import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import type { Lane } from '@/core/lane/schema';
import { measurementKey, packMeasurement, unpackMeasurement } from '@/engine/measure/kept-measurement';

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

interface Measured {
  mix_id: string;
  lane: Lane;
  summary: object;
  data: Buffer;
}

/** The demo's release in an account: its id, and those of its tracks by title. */
export interface DemoCopy {
  id: string;
  tracks: ReadonlyMap<string, string>;
}

/**
 * Gives an account a copy of the demo's release with what was measured of it, so that no test sees what another did to it; the
 * audio files are shared.
 */
export async function copyDemo(db: Knex, accountId: string): Promise<DemoCopy> {
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
  const measured = await db('measurements')
    .whereIn('mix_id', found)
    .where({ status: 'finished' })
    .select<Measured[]>('*');
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
    for (const { mix_id, lane, summary, data } of measured) {
      const mixId = ids.get(mix_id)!;
      const key = await measurementKey(mixId, lane);
      const { measurement } = unpackMeasurement(data);
      await trx('measurements').insert({
        ...{ mix_id: mixId, key, lane: JSON.stringify(lane), summary: JSON.stringify(summary) },
        ...{ status: 'finished', progress: 1, data: Buffer.from(packMeasurement({ key, measurement })!) },
      });
    }
  });
  const titles = copied.flatMap(([table, rows]) => (table === 'tracks' ? rows : []));
  return {
    id: ids.get(releases[0].id!)!,
    tracks: new Map(titles.map(({ id, title }) => [title as string, ids.get(id!)!])),
  };
}
