import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { until } from '../support/application';
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

let client: Client;
let workspace: TrackDetails;
beforeAll(async () => {
  client = await newClient();
  workspace = await prepare(client);
});

test('another dither than the destination’s own is used and named, and gives the same bits again', async () => {
  const shaped = { dither: 'noise-shaped', digitalSilence: true };
  const made = async (more?: object) => (await ended(client, await order(client, workspace, 'Disc', 0, more))).receipt!;
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

test('a cancelled delivery is started again as it was ordered, a finished one is not', async () => {
  const id = await order(client, workspace, 'Disc', -3);
  await client.ask('DELETE', `/api/deliveries/${id}`);
  const { status } = await ended(client, id);
  if (status === 'cancelled') expect((await client.ask('POST', `/api/deliveries/${id}/retry`)).status).toBe(204);
  const made = await until('the delivery is finished', async () => {
    const { body } = await client.ask<Delivery>('GET', `/api/deliveries/${id}`);
    return body.status === 'finished' && body;
  });
  expect(made.receipt).toMatchObject({ levelDb: -3 });
  const { status: refused, body } = await client.ask('POST', `/api/deliveries/${id}/retry`);
  expect([refused, body.error]).toEqual([
    409,
    'This delivery is finished; only one that failed or was cancelled can be started again.',
  ]);
});

test('what a version has for a destination is kept, used, copied and taken off', async () => {
  const own = await prepare(client, 3);
  const [{ id: versionId }] = own.versions;
  const adjustments = async () =>
    (await client.ask<{ adjustments: object[] }>('GET', `/api/tracks/${own.track.id}`)).body.adjustments;
  expect(await adjustments()).toEqual([]);
  const plain = (await ended(client, await order(client, own, 'Disc'))).receipt!;
  const driven = (await ended(client, await order(client, own, 'Disc', -4, { driveDb: 2.5 }))).receipt!;
  const destinationId = own.destinations.find(({ settings }) => settings.name === 'Disc')!.id;
  expect(await adjustments()).toEqual([{ versionId, destinationId, levelDb: -4, driveDb: 2.5, step: 1 }]);
  const gainOf = ({ lane }: Receipt) => (lane.stages[1] as unknown as { settings: object }).settings;
  expect([gainOf(plain), gainOf(driven)]).toMatchObject([{ inputGainDb: 9 }, { inputGainDb: 11.5 }]);
  // What is driven harder is louder by less than that, and then 4 dB lower.
  const louder = driven.measured.integratedLufs + 4 - plain.measured.integratedLufs;
  expect(louder).toBeGreaterThan(0.5);
  expect(louder).toBeLessThan(2.5);
  // Without a level or drive of its own, an order has those.
  const body = { destinationId, versionId };
  const { body: again } = await client.ask<{ id: string }>('POST', `/api/tracks/${own.track.id}/deliveries`, body);
  expect((await ended(client, again.id)).receipt!.file.sha256).toBe(driven.file.sha256);
  const { body: copy } = await client.ask<{ id: string }>('POST', `/api/versions/${versionId}/copies`, { name: 'Two' });
  expect(await adjustments()).toHaveLength(2);
  const put = (settings: object, version = versionId, to = destinationId) =>
    client.ask('PUT', `/api/versions/${version}/adjustments/${to}`, settings);
  expect((await put({ levelDb: 0, driveDb: 0 }, copy.id)).status).toBe(204);
  expect(await adjustments()).toHaveLength(1);
  expect((await put({ levelDb: 21, driveDb: 0 })).body.error).toMatch(/at most 20 dB/);
  expect((await put({ levelDb: 0, driveDb: 0 }, versionId, workspace.destinations[0].id)).status).toBe(404);
  const far = { ...body, driveDb: 12, levelDb: 0 };
  const reached = await client.ask('POST', `/api/tracks/${own.track.id}/deliveries`, far);
  expect(reached.status).toBe(202);
  const lane = { schema: 1, stages: [] };
  await client.ask('PUT', `/api/versions/${versionId}/lane`, { lane, label: 'Empty', after: 1 });
  // The lane has moved on; what was set for the one before is told apart by its step.
  expect(await adjustments()).toMatchObject([{ versionId, step: 1 }]);
  const none = await client.ask('POST', `/api/tracks/${own.track.id}/deliveries`, body);
  expect([none.status, none.body.error]).toEqual([
    422,
    expect.stringMatching(/no limiter that can be driven by 12 dB/),
  ]);
});

test('the receiving desk accepts a whole file, and keeps out what was changed on its way', async () => {
  const { id, receipt, fileName } = await ended(client, await order(client, workspace, 'Disc'));
  const { status, body } = await client.ask<{ accepted: boolean; reasons: string[] }>(
    ...(['POST', `/api/deliveries/${id}/desk`] as const),
  );
  expect([status, body.accepted, body.reasons]).toEqual([200, true, []]);
  const { body: shown } = await client.ask<{ deskAnswer: { accepted: boolean; at: string } }>(
    ...(['GET', `/api/deliveries/${id}`] as const),
  );
  expect(shown.deskAnswer).toMatchObject({ accepted: true });
  // Its own door.
  const slip = {
    ...{ name: fileName, sha256: receipt!.file.sha256, container: 'wav', sampleRate: 44100, lowestSampleRate: null },
    ...{ bits: 16, loudness: { lowest: null, highest: null }, highestMomentary: null, highestShortTerm: null },
    ...{ widestRange: null, highestTruePeak: null, shortest: null, longest: null },
    ...{ longestSilence: { head: null, tail: null }, tags: {} },
  };
  const bytes = await client.bytes(`/api/deliveries/${id}/file`);
  const send = (given: unknown, file: Uint8Array) =>
    client.ask<{ accepted: boolean; reasons: string[] }>(
      ...(['POST', `/api/desk?slip=${encodeURIComponent(JSON.stringify(given))}`, file] as const),
    );
  expect((await send(slip, bytes)).body).toMatchObject({ accepted: true });
  bytes[bytes.length >> 1] ^= 1;
  expect((await send(slip, bytes)).body.reasons).toEqual([expect.stringMatching(/checksum is not that of the slip/)]);
  expect((await send({ ...slip, container: 'exe' }, bytes)).status).toBe(400);
  expect((await send(undefined, bytes)).status).toBe(400);
  const waiting = await order(client, workspace, 'Disc');
  await client.ask('DELETE', `/api/deliveries/${waiting}`);
  if ((await ended(client, waiting)).status === 'cancelled')
    expect((await client.ask('POST', `/api/deliveries/${waiting}/desk`)).status).toBe(409);
});
