import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import type { Knex } from 'knex';
import { claim, claimed, holdBack, keepLease, MAX_CRASHES, recoverAbandoned, releaseAll } from '@/server/jobs/lease';
import { getConfig } from '@/server/config';
import { enqueue } from '@/server/jobs/queue';
import { referencedFiles, referencesOf } from '@/server/store/references';
import { Application, until } from '../support/application';
import { newClient, testDatabase, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const quiet = pino({ level: 'silent' });
// Without a worker: these tests are the worker.
const application = new Application();
let db: Knex;
let client: Client;
let mixId: string;
beforeAll(async () => {
  await application.start();
  client = await newClient(application.url, application.databaseUrl);
  db = testDatabase(application.databaseUrl);
  const { mix } = await client.takeIn<{ mix: { id: string } }>(
    await client.newRelease(),
    'mix.wav',
    wave(music(1, 44100), 44100),
  );
  mixId = mix.id;
  await application.killWorker();
});
afterAll(async () => {
  await db.destroy();
  await application.stop();
});
beforeEach(() => db.raw('delete from graphile_worker._private_jobs'));

const reset = (change: object) =>
  db('mixes')
    .where({ id: mixId })
    .update({ status: 'waiting', crashes: 0, progress: 0, lease_token: null, held_because: null, ...change });
const row = () =>
  db('mixes').where({ id: mixId }).first<{
    status: string;
    crashes: number;
    progress: number;
    refusal: string | null;
    held_because: string | null;
  }>();
const jobs = async () =>
  (
    await db.raw<{ rows: { key: string | null; locked_by: string | null; run_at: Date }[] }>(
      'select key, locked_by, run_at from graphile_worker.jobs order by id',
    )
  ).rows;
const longAgo = () => db.raw(`now() - interval '${getConfig().leaseSeconds + 5} seconds'`);
/** As if a worker had taken the row's job, some time ago, and not been heard of since. */
const lockJob = (ago: object = longAgo()) =>
  db.raw('update graphile_worker._private_jobs set locked_by = ?, locked_at = ?, attempts = attempts + 1', [
    'a worker that died',
    ago as Knex.Raw,
  ]);

test('one worker only gets a row', async () => {
  await reset({});
  const claims = await Promise.all([claim(db, 'intake', mixId), claim(db, 'intake', mixId)]);
  expect(claims.filter((each) => each !== null)).toHaveLength(1);
  expect((await row()).status).toBe('analysing');
});

test('progress is written while the lease is kept, and a row that was taken away ends it', async () => {
  await reset({});
  const lease = keepLease(db, (await claim(db, 'intake', mixId))!, quiet);
  lease.progress(0.5);
  await until('progress is written', async () => (await row()).progress === 0.5);
  expect(lease.signal.aborted).toBe(false);
  await db('mixes').where({ id: mixId }).update({ lease_token: randomUUID() });
  await until('the lease is lost', () => Promise.resolve(lease.signal.aborted));
  lease.end();
});

test('a worker that was away for longer than its lease can write nothing over the next one’s work', async () => {
  await reset({});
  const frozen = (await claim(db, 'intake', mixId))!;
  await db('mixes').where({ id: mixId }).update({ heartbeat_at: longAgo() });
  await recoverAbandoned(db, quiet);
  const next = (await claim(db, 'intake', mixId))!;
  expect(next.token).not.toBe(frozen.token);
  expect(await claimed(db, frozen).update({ status: 'refused', refusal: 'too late' })).toBe(0);
  await holdBack(db, frozen, 'too late');
  expect(await row()).toMatchObject({ status: 'analysing', refusal: null, held_because: null });
  expect(await claimed(db, next).update({ status: 'ready' })).toBe(1);
});

test('work whose worker fell silent is queued again, with work that is alive left alone', async () => {
  await reset({ status: 'analysing', heartbeat_at: db.fn.now() });
  await recoverAbandoned(db, quiet);
  expect((await row()).status).toBe('analysing');
  await reset({ status: 'analysing', heartbeat_at: longAgo() });
  await recoverAbandoned(db, quiet);
  expect(await row()).toMatchObject({ status: 'waiting', crashes: 1 });
  expect((await jobs()).map(({ key }) => key)).toEqual([`intake:${mixId}`]);
});

test('three crashes are no failure; work that the worker dies of again and again is given up, with words', async () => {
  await reset({ status: 'analysing', crashes: 3, heartbeat_at: longAgo() });
  await recoverAbandoned(db, quiet);
  expect(await row()).toMatchObject({ status: 'waiting', crashes: 4 });
  await reset({ status: 'analysing', crashes: MAX_CRASHES - 1, heartbeat_at: longAgo() });
  await recoverAbandoned(db, quiet);
  expect(await row()).toMatchObject({
    status: 'refused',
    refusal: expect.stringMatching(/crashed 8 times/) as string,
  });
});

test.each([
  [
    'its worker died between taking the job and claiming the row',
    () => enqueue(db, 'intake', mixId).then(() => lockJob()),
  ],
  ['its job is gone', () => Promise.resolve()],
  [
    'its job is used up',
    () =>
      enqueue(db, 'intake', mixId).then(() =>
        db.raw('update graphile_worker._private_jobs set attempts = max_attempts, locked_at = null, locked_by = null'),
      ),
  ],
])('a row that waits though %s is queued again, and no dead job stays', async (_, break_) => {
  await reset({ waiting_since: longAgo() });
  await break_();
  await recoverAbandoned(db, quiet);
  const left = await jobs();
  expect(left).toHaveLength(1);
  expect(left[0]).toMatchObject({ key: `intake:${mixId}`, locked_by: null });
});

test('a row that waits its turn behind a long job is left alone', async () => {
  await reset({ waiting_since: longAgo() });
  await enqueue(db, 'intake', mixId);
  const [before] = await jobs();
  await recoverAbandoned(db, quiet);
  expect(await jobs()).toEqual([before]);
});

test('jobs of rows that are done are removed once nobody works on them', async () => {
  await reset({ status: 'ready' });
  await enqueue(db, 'intake', mixId);
  await lockJob(db.fn.now());
  await recoverAbandoned(db, quiet);
  expect(await jobs()).toHaveLength(1);
  await lockJob();
  await recoverAbandoned(db, quiet);
  expect(await jobs()).toEqual([]);
});

test('work that is held up waits with a reason and comes again later; what is given back comes at once', async () => {
  await reset({});
  await holdBack(db, (await claim(db, 'intake', mixId))!, 'There is no room.');
  expect(await row()).toMatchObject({ status: 'waiting', held_because: 'There is no room.' });
  expect((await jobs())[0].run_at.getTime()).toBeGreaterThan(Date.now() + 5000);
  const lease = keepLease(db, (await claim(db, 'intake', mixId))!, quiet);
  expect((await row()).held_because).toBeNull();
  await releaseAll(db);
  lease.end();
  expect((await row()).status).toBe('waiting');
  expect((await jobs())[0].run_at.getTime()).toBeLessThan(Date.now() + 1000);
});

test('every column that holds the hash of a stored file is known to the sweep and the backup', async () => {
  const { original_hash, working_hash } = await db('mixes')
    .where({ id: mixId })
    .first<{ original_hash: string; working_hash: string }>();
  const files = await referencedFiles(db);
  expect(files.has(original_hash) && files.has(working_hash)).toBe(true);
  const { account_id } = await db('sessions').first<{ account_id: string }>('account_id');
  expect(await referencesOf(db, account_id)).toEqual(files);
  const { rows } = await db.raw<{ rows: { column: string }[] }>(
    "select table_name || '.' || column_name as column from information_schema.columns where table_schema = 'public' and column_name like '%hash' order by 1",
  );
  expect(rows.map(({ column }) => column)).toEqual([
    'accounts.password_hash',
    'blind_test_sounds.file_hash',
    'deliveries.file_hash',
    'encode_checks.file_hash',
    'images.file_hash',
    'impulse_responses.file_hash',
    'listening_files.file_hash',
    'listening_links.passphrase_hash',
    'listening_links.token_hash',
    'mixes.original_hash',
    'mixes.working_hash',
    'reference_tracks.file_hash',
    'releases.cover_hash',
    // Their sizes, whoever refers to them.
    'stored_files.hash',
  ]);
});
