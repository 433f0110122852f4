import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Application, until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { ebur128 } from '../support/ffmpeg';
import { music } from '../support/music';
import { wave } from '../support/wave';

interface Receipt {
  file: { sha256: string; bytes: number; sampleRate: number; bits: number; frames: number };
  measured: { integratedLufs: number; rangeLu: number; truePeakDbtp: [number, number] };
  verdict: { standing: string; requirements: { title: string; standing: string }[] };
  lane: { stages: { kind: string }[] };
  dither: string;
  destination: object;
  made: { core: string };
}
interface Delivery {
  id: string;
  status: string;
  problem: string | null;
  receipt: Receipt | null;
  fileName: string;
}
interface TrackDetails {
  track: { id: string };
  versions: { id: string }[];
  destinations: { id: string; settings: { name: string } }[];
}

const RATE = 44100;
let folder: string;
beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'copper-delivery-'))));
afterAll(() => rmSync(folder, { recursive: true }));

/** A track with a lane that brings it to −14 LUFS. */
async function prepare(client: Client, seconds = 12): Promise<TrackDetails> {
  const workspace = await client.takeIn<TrackDetails>(
    await client.newRelease('Röhre & Ring'),
    'Mix one.wav',
    wave(music(seconds, RATE), RATE),
  );
  const lane = {
    schema: 1,
    stages: [
      { id: 'e', kind: 'equalizer', settings: { bands: [{ shape: 'bell', frequencyHz: 3400, gainDb: -4, q: 6 }] } },
      { id: 'l', kind: 'limiter', settings: { inputGainDb: 9 } },
    ],
  };
  await client.ask('PUT', `/api/versions/${workspace.versions[0].id}/lane`, { lane, label: 'Set up', after: 0 });
  return workspace;
}

async function order(
  client: Client,
  { track, versions, destinations }: TrackDetails,
  name: string,
  levelDb = 0,
  more: object = {},
): Promise<string> {
  const destinationId = destinations.find(({ settings }) => settings.name === name)!.id;
  const body = { destinationId, versionId: versions[0].id, levelDb, ...more };
  return (await client.ask<{ id: string }>('POST', `/api/tracks/${track.id}/deliveries`, body)).body.id;
}

async function ended(client: Client, id: string): Promise<Delivery> {
  return until(
    'the delivery has ended',
    async () => {
      const { body } = await client.ask<Delivery>('GET', `/api/deliveries/${id}`);
      return ['finished', 'failed', 'cancelled'].includes(body.status) && body;
    },
    180_000,
  );
}

describe('with the application running', () => {
  let client: Client;
  let workspace: TrackDetails;
  beforeAll(async () => {
    client = await newClient();
    workspace = await prepare(client);
  });

  test('another dither than the destination’s own is used and named, and gives the same bits again', async () => {
    const shaped = { dither: 'noise-shaped', digitalSilence: true };
    const made = async (more?: object) =>
      (await ended(client, await order(client, workspace, 'Disc', 0, more))).receipt!;
    const [plain, one, two] = [await made(), await made(shaped), await made(shaped)];
    expect([plain.dither, one.dither]).toEqual(['TPDF', 'noise-shaped']);
    expect(one.destination).toMatchObject({ wordLength: shaped });
    expect(one.file.sha256).toBe(two.file.sha256);
    expect(one.file.sha256).not.toBe(plain.file.sha256);
    const { destinations, versions, track } = workspace;
    const body = { destinationId: destinations[0].id, versionId: versions[0].id, dither: 'loud' };
    expect((await client.ask('POST', `/api/tracks/${track.id}/deliveries`, body)).status).toBe(422);
  });

  test.each([
    ['Streaming', RATE, 24, 'flac'],
    ['Broadcast', 48000, 24, 'wav'],
    ['Disc', RATE, 16, 'wav'],
  ])('%s: the receipt says what ffmpeg measures of the downloaded file', async (name, rate, bits, container) => {
    const { id, receipt, fileName } = await ended(
      client,
      await order(client, workspace, name, name === 'Broadcast' ? -9 : 0),
    );
    const bytes = await client.bytes(`/api/deliveries/${id}/file`);
    const file = path.join(folder, `${name}.${container}`);
    writeFileSync(file, bytes);
    expect(receipt!.file).toMatchObject({ sampleRate: rate, bits, bytes: bytes.length });
    expect(receipt!.file.sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(fileName).toBe(`Röhre & Ring - 01 Mix one (${name}).${container}`);
    const reference = ebur128(file);
    const { integratedLufs, truePeakDbtp } = receipt!.measured;
    expect(Math.abs(integratedLufs - reference.integrated)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(Math.max(...truePeakDbtp) - reference.truePeak)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(receipt!.file.frames / rate - 12)).toBeLessThan(0.001);
    expect(receipt!.dither).toBe('TPDF');
    expect(receipt!.lane.stages.map(({ kind }) => kind)).toEqual(['equalizer', 'limiter']);
    // The true peak stays below each limit, also where the rate was converted after the limiter.
    expect(Math.max(...truePeakDbtp)).toBeLessThanOrEqual(name === 'Disc' ? -0.25 : -0.95);
  });

  test('the same order gives the same bytes', async () => {
    const hashes = [await order(client, workspace, 'Disc'), await order(client, workspace, 'Disc')].map(
      async (id) => (await ended(client, id)).receipt!.file.sha256,
    );
    const [first, second] = await Promise.all(hashes);
    expect(first).toBe(second);
  });

  test('the download has the right name, the receipt can be saved', async () => {
    const { id } = await ended(client, await order(client, workspace, 'Disc'));
    const { headers } = await fetch(`${client.url}/api/deliveries/${id}/file`, { headers: { cookie: client.cookie } });
    expect(headers.get('content-disposition')).toContain(
      "filename*=UTF-8''R%C3%B6hre%20%26%20Ring%20-%2001%20Mix%20one%20%28Disc%29.wav",
    );
    const receipt = JSON.parse((await client.bytes(`/api/deliveries/${id}/receipt`)).toString()) as Receipt;
    expect(receipt.made.core).toMatch(/^\d+\.\d+\.\d+$/);
  });

  test('a file that misses its destination is delivered as failed in its verdict', async () => {
    const { status, receipt } = await ended(client, await order(client, workspace, 'Broadcast'));
    expect(status).toBe('finished');
    expect(receipt!.verdict.standing).toBe('misses');
    expect(
      receipt!.verdict.requirements.filter(({ standing }) => standing === 'misses').map(({ title }) => title),
    ).toEqual(['Loudness']);
  });

  test('a delivery can be cancelled, once', async () => {
    const long = await prepare(client, 300);
    const id = await order(client, long, 'Broadcast');
    expect((await client.ask('DELETE', `/api/deliveries/${id}`)).status).toBe(204);
    expect((await ended(client, id)).status).toBe('cancelled');
    expect((await client.ask('GET', `/api/deliveries/${id}/file`)).status).toBe(409);
    expect((await client.ask('DELETE', `/api/deliveries/${id}`)).status).toBe(409);
  });
});

describe('when things break', () => {
  const application = new Application({ port: 3482, databasePort: 5482 });
  let client: Client;
  beforeAll(async () => {
    await application.start();
    client = await newClient(application.url, application.databaseUrl);
  });
  afterAll(() => application.stop());

  test('a delivery whose worker is killed is taken up again and ends well', async () => {
    const workspace = await prepare(client, 120);
    const id = await order(client, workspace, 'Broadcast');
    await until('rendering is under way', async () => {
      const { body } = await client.ask<{ progress: number }>('GET', `/api/deliveries/${id}`);
      return body.progress > 0;
    });
    await application.killWorker();
    expect((await client.ask<Delivery>('GET', `/api/deliveries/${id}`)).body.status).toBe('rendering');
    application.startWorker();
    const { status, receipt } = await ended(client, id);
    expect(status).toBe('finished');
    const bytes = await client.bytes(`/api/deliveries/${id}/file`);
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(receipt!.file.sha256);
  });

  test('work goes on after the database was restarted', async () => {
    const workspace = await prepare(client, 2);
    application.restartDatabase();
    const id = await until('the application has its database again', async () => {
      const { status, body } = await client.ask<{ id: string }>(
        'POST',
        `/api/tracks/${workspace.track.id}/deliveries`,
        {
          destinationId: workspace.destinations[2].id,
          versionId: workspace.versions[0].id,
        },
      );
      expect([202, 500, 503]).toContain(status);
      return body.id;
    });
    expect((await ended(client, id)).status).toBe('finished');
  });
});
