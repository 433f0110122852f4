import { pino } from 'pino';
import type { Knex } from 'knex';
import { claim, keepLease, MAX_ATTEMPTS, recoverAbandoned, STALE_SECONDS } from '@/server/jobs/lease';
import { migrations } from '@/server/database/migrations';
import { referencedFiles } from '@/server/store/references';
import { Application, until } from '../support/application';
import { newClient, testDatabase, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const quiet = pino({ level: 'silent' });
// Without a worker: these tests are the worker.
const application = new Application({ port: 3485, databasePort: 5485 });
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

const reset = (change: object) =>
  db('mixes')
    .where({ id: mixId })
    .update({ status: 'waiting', attempts: 0, progress: 0, ...change });
const row = () =>
  db('mixes')
    .where({ id: mixId })
    .first<{ status: string; attempts: number; progress: number; refusal: string | null }>();
const longAgo = () => db.raw(`now() - interval '${STALE_SECONDS + 5} seconds'`);

test('one worker only gets a row', async () => {
  await reset({});
  expect(await Promise.all([claim(db, 'intake', mixId), claim(db, 'intake', mixId)])).toEqual(
    expect.arrayContaining([true, false]),
  );
  expect(await row()).toMatchObject({ status: 'analysing', attempts: 1 });
});

test('progress is written while the lease is kept, and a row that was taken away ends it', async () => {
  await reset({ status: 'analysing' });
  const lease = keepLease(db, 'intake', mixId, quiet);
  lease.progress(0.5);
  await until('progress is written', async () => (await row()).progress === 0.5);
  expect(lease.signal.aborted).toBe(false);
  await db('mixes').where({ id: mixId }).update({ status: 'refused' });
  await until('the lease is lost', () => Promise.resolve(lease.signal.aborted));
  lease.end();
});

test('work whose worker fell silent is queued again, with work that is alive left alone', async () => {
  await reset({ status: 'analysing', attempts: 1, heartbeat_at: db.fn.now() });
  await recoverAbandoned(db, quiet);
  expect((await row()).status).toBe('analysing');
  await reset({ status: 'analysing', attempts: 1, heartbeat_at: longAgo() });
  await recoverAbandoned(db, quiet);
  expect((await row()).status).toBe('waiting');
  const jobs = await db.raw<{ rows: unknown[] }>('select 1 from graphile_worker.jobs where task_identifier = ?', [
    'intake',
  ]);
  expect(jobs.rows.length).toBeGreaterThan(0);
});

test('after three crashes it is given up, with words', async () => {
  await reset({ status: 'analysing', attempts: MAX_ATTEMPTS, heartbeat_at: longAgo() });
  await recoverAbandoned(db, quiet);
  expect(await row()).toMatchObject({
    status: 'refused',
    refusal: expect.stringMatching(/interrupted 3 times/) as string,
  });
});

test('mixes whose findings have an older form are measured anew', async () => {
  await reset({ status: 'ready', refusal: null, findings: JSON.stringify({ schema: 1 }) });
  await db.transaction(async (trx) => {
    await migrations['002-complete-intake'].up(trx);
  });
  expect((await row()).status).toBe('waiting');
  application.startWorker();
  const { report } = await until('the mix is measured', async () => {
    const { body } = await client.ask<{ tracks: { mix: { status: string; report: { schema: number } } }[] }>(
      'GET',
      `/api/releases/${await releaseId()}`,
    );
    return body.tracks[0].mix.status === 'ready' && body.tracks[0].mix;
  });
  expect(report.schema).toBe(2);
});

const releaseId = async () =>
  (
    await db('mixes as m')
      .join('tracks as t', 't.id', 'm.track_id')
      .where({ 'm.id': mixId })
      .first<{ id: string }>('t.release_id as id')
  ).id;

test('the store’s sweep is told of every file that a row refers to', async () => {
  const { original_hash, working_hash } = await db('mixes')
    .where({ id: mixId })
    .first<{ original_hash: string; working_hash: string }>();
  const files = await referencedFiles(db);
  expect(files.has(original_hash) && files.has(working_hash)).toBe(true);
});
