import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { Knex } from 'knex';
import pg from 'pg';
import { READY_MADE } from '@/core/deliver/ready-made';
import { releaseListSchema } from '@/contracts/release';
import { parseLane } from '@/core/lane/schema';
import { FILE_COLUMNS } from '@/server/store/references';
import { newClient, testDatabase } from '../support/client';

const DUMPS = path.join(__dirname, 'dumps');
const base = process.env.DATABASE_URL!;
const made: string[] = [];

/** A new database in the tests' cluster. */
async function create(name: string): Promise<string> {
  const db = testDatabase(base);
  await db.raw('drop database if exists ?? with (force)', [name]);
  await db.raw('create database ??', [name]);
  await db.destroy();
  made.push(name);
  return base.replace(/\/[^/]*$/, `/${name}`);
}
function migrate(databaseUrl: string): void {
  execFileSync('scripts/command', ['migrate'], {
    env: { ...process.env, DATABASE_URL: databaseUrl },
    stdio: 'pipe',
  });
}
afterAll(async () => {
  const db = testDatabase(base);
  for (const name of made) await db.raw('drop database if exists ?? with (force)', [name]);
  await db.destroy();
});

/** Columns, constraints and indexes of a database, as text. */
async function schemaOf(db: Knex): Promise<string[]> {
  const { rows } = await db.raw<{ rows: { line: string }[] }>(
    `select concat_ws(' ', table_name, column_name, data_type, is_nullable, column_default) as line
       from information_schema.columns where table_schema = 'public'
     union all select indexdef from pg_indexes where schemaname = 'public'
     union all select conrelid::regclass || ' ' || pg_get_constraintdef(oid) from pg_constraint
       where connamespace = 'public'::regnamespace
     order by 1`,
  );
  return rows.map(({ line }) => line);
}

describe('an installation of an earlier form', () => {
  let fresh: string[];
  beforeAll(async () => {
    const db = testDatabase(base);
    fresh = await schemaOf(db);
    await db.destroy();
  });

  test.each(readdirSync(DUMPS))(
    '%s is upgraded: the form of a new one, with everything that was there',
    async (dump) => {
      const databaseUrl = await create(`upgrade_${dump.slice(0, 3)}`);
      const db = testDatabase(databaseUrl);
      try {
        await db.raw(readFileSync(path.join(DUMPS, dump), 'utf8'));
        migrate(databaseUrl);
        // A second run changes nothing.
        migrate(databaseUrl);
        expect(await schemaOf(db)).toEqual(fresh);
        expect(await db('releases').first('title')).toEqual({ title: 'Kept release' });
        const lanes = await db('edits').orderBy('sequence').pluck<unknown[]>('lane');
        const gains = lanes.map((lane) => (parseLane(lane).stages[0].settings as { gainDb: number }).gainDb);
        expect(gains).toEqual([0, -6]);
        const mix = await db('mixes').first<{ status: string; working_hash: string; crashes: number }>();
        expect(mix).toMatchObject({ working_hash: 'b'.repeat(64), crashes: 0 });
        // Findings of the first form are measured again.
        const first = dump.startsWith('001');
        expect(mix.status).toBe(first ? 'waiting' : 'ready');
        const { rows } = await db.raw<{ rows: unknown[] }>('select 1 from graphile_worker.jobs');
        expect(rows).toHaveLength(first ? 1 : 0);
        expect(await db('deliveries').first('status', 'file_hash')).toEqual({
          status: 'finished',
          file_hash: 'c'.repeat(64),
        });
        const shelf = await db('shelf_destinations').pluck<string[]>('name');
        expect(shelf.sort()).toEqual(READY_MADE.map(({ name }) => name).sort());
        const starting = await db('shelf_destinations').where({ starts: true }).pluck<string[]>('name');
        // The last forms knew which ones a new release starts with.
        const chosen = /^01[1-9]/.test(dump) ? ['Disc', 'Streaming'] : ['Broadcast', 'Disc', 'Streaming'];
        expect(starting.sort()).toEqual(chosen);
        const { name, shelf_id } = await db('destinations').first<{ name: string; shelf_id: string }>();
        expect(await db('shelf_destinations').where({ id: shelf_id }).first('name')).toEqual({ name });
        expect(await db('installation').count<{ count: string }[]>('id')).toEqual([{ count: '1' }]);
      } finally {
        await db.destroy();
      }
    },
  );
});

test('every column that refers to another table leads an index, so that deleting does not search', async () => {
  const db = testDatabase(base);
  const { rows } = await db.raw<{ rows: { column: string }[] }>(
    `select c.conrelid::regclass || '.' || a.attname as column
       from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
      where c.contype = 'f' and c.connamespace = 'public'::regnamespace
        and not exists (select from pg_index i where i.indrelid = c.conrelid and i.indkey[0] = c.conkey[1])`,
  );
  await db.destroy();
  expect(rows).toEqual([]);
});

test('with 20,000 tracks the pages’ queries find their rows by indexes', async () => {
  const databaseUrl = await create('plans');
  migrate(databaseUrl);
  const db = testDatabase(databaseUrl);
  await db.raw(`
    insert into accounts (email, name, password_hash) select i || '@example.com', 'x', 'x' from generate_series(1, 20) i;
    insert into releases (account_id, title) select a.id, 'Release ' || i from accounts a, generate_series(1, 100) i;
    insert into tracks (release_id, position, title) select r.id, i, 'Track' from releases r, generate_series(1, 10) i;
    insert into mixes (track_id, number, file_name, source, sample_rate, status, working_hash, frames, findings)
      select id, 1, 'x.wav', '{}', 44100, 'ready', 'x', 1, '{}' from tracks;
    insert into versions (track_id, name) select id, 'First' from tracks;
    insert into edits (version_id, sequence, label, lane) select id, 0, 'Start', '{"schema":5,"stages":[]}' from versions;
    insert into deliveries (track_id, mix_id, version_id, destination, lane, status)
      select v.track_id, m.id, v.id, '{}', '{}', 'cancelled' from versions v join mixes m on m.track_id = v.track_id;
    insert into sessions (account_id) select a.id from accounts a, generate_series(1, 200);
    analyze;
  `);
  const { id: accountId } = await db('accounts').first<{ id: string }>('id');
  const release = await db('releases').where({ account_id: accountId }).first<{ id: string }>('id');
  const track = await db('tracks').where({ release_id: release.id }).first<{ id: string }>('id');
  const delivery = await db('deliveries').where({ track_id: track.id }).first<{ id: string }>('id');
  const version = await db('versions').where({ track_id: track.id }).first<{ id: string }>('id');
  await db.destroy();

  // The application's own queries, as its functions make them.
  process.env.DATABASE_URL = databaseUrl;
  const { database } = await import('@/server/database/connection');
  const { getRelease, listReleases } = await import('@/server/releases/releases');
  const { getTrackDetails } = await import('@/server/tracks/track-details');
  const { deliveryOrder, ownDelivery } = await import('@/server/deliveries/deliveries');
  const { stepThrough } = await import('@/server/versions/versions');
  const { recoverAbandoned } = await import('@/server/jobs/lease');
  const { pino } = await import('pino');
  const asked: { sql: string; bindings: unknown[] }[] = [];
  const unit = database();
  unit.on('query', ({ sql, bindings }: { sql: string; bindings: unknown[] }) => asked.push({ sql, bindings }));
  const page = await listReleases(unit, accountId);
  await listReleases(unit, accountId, releaseListSchema.parse({ after: page.next, status: 'working' }));
  await getRelease(unit, accountId, release.id);
  await getTrackDetails(unit, accountId, track.id).catch(() => {});
  await ownDelivery(unit, accountId, delivery.id);
  await deliveryOrder(unit, delivery.id).catch(() => {});
  await stepThrough(unit, accountId, version.id, 1, 0);
  await recoverAbandoned(unit, pino({ level: 'silent' }));
  await unit.destroy();

  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const searching: string[] = [];
  for (const { sql, bindings } of asked.filter(({ sql: text }) => /^(select|update|delete)/i.test(text))) {
    const { rows } = await client.query<{ 'QUERY PLAN': string }>(`explain ${sql}`, bindings);
    const plan = rows.map((row) => row['QUERY PLAN']).join('\n');
    if (/Seq Scan on (releases|tracks|mixes|versions|edits|deliveries|sessions)\b/.test(plan))
      searching.push(`${sql}\n${plan}`);
  }
  await client.end();
  expect(asked.length).toBeGreaterThan(20);
  expect(searching).toEqual([]);
});

test('an account with much in it is deleted within the time of a request', async () => {
  const client = await newClient(process.env.TEST_URL, base);
  const db = testDatabase(base);
  await db.raw(
    `with release as (insert into releases (account_id, title) select id, 'Release ' || i from accounts, generate_series(1, 200) i where email = ? returning id),
      track as (insert into tracks (release_id, position, title) select id, i, 'Track' from release, generate_series(1, 20) i returning id),
      mix as (insert into mixes (track_id, number, file_name, source, sample_rate, status) select id, 1, 'x', '{}', 44100, 'refused' from track returning id, track_id),
      version as (insert into versions (track_id, name) select id, 'First' from track returning id, track_id)
     insert into deliveries (track_id, mix_id, version_id, destination, lane, status)
      select m.track_id, m.id, v.id, '{}', '{}', 'cancelled' from mix m join version v on v.track_id = m.track_id`,
    [client.email],
  );
  await db.destroy();
  const { status } = await client.ask('DELETE', '/api/account', { password: 'a password for tests' });
  expect(status).toBe(204);
});

test('every column with the hash of a stored file is known to those who sweep, count and back up', async () => {
  const db = testDatabase(base);
  const { rows } = await db.raw<{ rows: { column: string }[] }>(
    `select table_name || '.' || column_name as column from information_schema.columns
       where table_schema = 'public' and column_name like '%hash%' order by 1`,
  );
  await db.destroy();
  const known = FILE_COLUMNS.flatMap(({ table, columns }) => columns.map((column) => `${table}.${column}`));
  // Hashes of passwords and addresses are no files, and sizes of files keep none.
  const others = [
    'stored_files.hash',
    'accounts.password_hash',
    'listening_links.passphrase_hash',
    'listening_links.token_hash',
  ];
  expect(rows.map(({ column }) => column).filter((column) => !others.includes(column))).toEqual(known.sort());
});
