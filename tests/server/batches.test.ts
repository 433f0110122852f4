import { createHash } from 'node:crypto';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { Application, until } from '../support/application';
import { AT_LENGTH } from '../support/at-length';
import { newClient, testDatabase, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

interface TrackDetails {
  track: { id: string };
  versions: { id: string }[];
  destinations: { id: string; settings: { name: string } }[];
}
interface Delivery {
  id: string;
  status: string;
  problem: string | null;
  receipt: { file: { sha256: string } } | null;
}

const RATE = 44100;
/** What is killed, one after the other, while the batch is made. */
const KILLED = AT_LENGTH
  ? (['worker', 'worker', 'worker', 'worker', 'database', 'worker', 'worker', 'server', 'worker', 'worker'] as const)
  : (['worker', 'database', 'worker', 'server'] as const);
const TRACKS = KILLED.length;
const application = new Application({ env: { COPPER_LEASE_S: '5' } });
let client: Client;
beforeAll(async () => {
  await application.start();
  client = await newClient(application.url, application.databaseUrl);
});
afterAll(() => application.stop());

const asked = async (id: string) => (await client.ask<Delivery>('GET', `/api/deliveries/${id}`)).body;

test('a batch of tracks for 4 destinations, killed at as many moments, loses nothing and makes nothing twice', async () => {
  const release = await client.newRelease('Batch');
  const { body: shelf } = await client.ask<{ id: string; settings: { name: string } }[]>('GET', '/api/destinations');
  const fourth = shelf.find(({ settings }) => settings.name === 'Short advert')!;
  await client.ask('POST', `/api/releases/${release}/destinations`, { shelfId: fourth.id });
  const tracks: TrackDetails[] = [];
  for (let i = 0; i < TRACKS; i++) {
    const bytes = wave(music(4, RATE, 0.2 + i / 100), RATE);
    tracks.push(await client.takeIn<TrackDetails>(release, `Track ${i + 1}.wav`, bytes));
  }
  const deliveries = tracks.flatMap(({ track, versions, destinations }) =>
    destinations.map(({ id }) => ({ trackId: track.id, versionId: versions[0].id, destinationId: id })),
  );
  expect(deliveries).toHaveLength(4 * TRACKS);
  const { status, body: started } = await client.ask<{ id: string }[]>('POST', `/api/releases/${release}/deliveries`, {
    deliveries,
  });
  expect(status).toBe(202);

  // From the database, so that watching is no load on what is watched.
  const db = testDatabase(application.databaseUrl);
  const count = async (...statuses: string[]) =>
    (
      await db('deliveries')
        .whereIn('status', statuses)
        .pluck<string[]>('id')
        .catch(() => [])
    ).length;
  const ended = () => count('finished', 'failed');
  for (const [kill, killed] of KILLED.entries()) {
    // Two or three more are finished, others are under way.
    await until(`${2 * kill} deliveries are finished`, async () => (await ended()) >= 2 * kill);
    await until('one is under way', async () => (await count('rendering')) > 0);
    if (killed === 'database') {
      application.crashDatabase();
      await application.answering();
    } else if (killed === 'server') {
      await application.killServer();
      application.startServer();
      await application.answering();
    } else {
      await application.killWorker();
      application.startWorker();
    }
  }
  await until('all deliveries have ended', async () => (await ended()) === started.length);

  const made = await Promise.all(started.map(({ id }) => asked(id)));
  expect(made.map(({ status: now, problem }) => [now, problem])).toEqual(made.map(() => ['finished', null]));
  for (const { id, receipt } of made) {
    const bytes = await client.bytes(`/api/deliveries/${id}/file`);
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(receipt!.file.sha256);
  }
  expect(await db('deliveries').count<{ count: string }[]>('id')).toEqual([{ count: String(started.length) }]);
  // Nothing waits for anybody, and no file is half made.
  const jobs = () => db('graphile_worker.jobs').whereLike('key', 'deliver:%').select<{ key: string }[]>('key');
  await until('no job is left', async () => (await jobs()).length === 0);
  await db.destroy();
  const incoming = () => readdirSync(path.join(application.folder, 'audio/incoming'));
  await until('no temporary file of a delivery is left', () =>
    Promise.resolve(incoming().every((name) => name.startsWith('lane.'))),
  );
}, 400_000);

test('work goes on after the database was restarted', async () => {
  const bytes = wave(music(2, RATE), RATE);
  const workspace = await client.takeIn<TrackDetails>(await client.newRelease(), 'Restart.wav', bytes);
  application.restartDatabase();
  const id = await until('the application has its database again', async () => {
    const { status, body } = await client.ask<{ id: string }>('POST', `/api/tracks/${workspace.track.id}/deliveries`, {
      destinationId: workspace.destinations[2].id,
      versionId: workspace.versions[0].id,
    });
    expect([202, 500, 503]).toContain(status);
    return body.id;
  });
  await until('the delivery is finished', async () => (await asked(id)).status === 'finished');
});
