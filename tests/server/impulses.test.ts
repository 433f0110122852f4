import { randomUUID } from 'node:crypto';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { noise, type Stereo } from '../support/signals';
import { wave } from '../support/wave';
import type { DeliverySummary } from '@/contracts/delivery';
import type { ImpulseSummary } from '@/contracts/impulse';
import type { TrackDetails } from '@/contracts/track';

const RATE = 44100;
const room = (seconds: number): Stereo => {
  const fading = (seed: number) =>
    noise(Math.round(seconds * RATE), 0.5, seed).map((x, i) => x * Math.exp((-6 * i) / (seconds * RATE)));
  return { left: fading(1), right: fading(2) };
};

let client: Client;
beforeAll(async () => {
  client = await newClient();
});

const putIn = (bytes: Uint8Array, name = 'Cellar.wav', by = client) =>
  by.ask<ImpulseSummary & { error: string }>('POST', `/api/impulses?name=${encodeURIComponent(name)}`, bytes);

test('an impulse response is kept, listed, and given at the rate that is asked for, with unit energy', async () => {
  const { status, body } = await putIn(wave(room(0.5), RATE));
  expect(status).toBe(201);
  expect(body).toMatchObject({ name: 'Cellar', seconds: 0.5 });
  expect((await client.ask<ImpulseSummary[]>('GET', '/api/impulses')).body).toContainEqual(body);
  for (const rate of [44100, 96000]) {
    const bytes = await client.bytes(`/api/impulses/${body.id}/audio?rate=${rate}`);
    const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
    expect(Math.abs(samples.length / 2 - 0.5 * rate)).toBeLessThan(40);
    expect(samples.reduce((sum, x) => sum + x * x, 0) / 2).toBeCloseTo(1, 3);
  }
});

test.each<[string, () => Uint8Array, RegExp]>([
  [
    'no sound file',
    () => new TextEncoder().encode('not a sound'),
    /Cellar\.wav is not a sound with one or two channels/,
  ],
  ['too long', () => wave(room(11), RATE), /is 11\.0 s long\. An impulse response can have up to 10 s/],
  ['silent', () => wave({ left: new Float64Array(9000), right: new Float64Array(9000) }, RATE), /is silent/],
])('what is %s is refused in words, and nothing is kept', async (_, bytes, words) => {
  const before = (await client.ask<ImpulseSummary[]>('GET', '/api/impulses')).body.length;
  const { status, body } = await putIn(bytes());
  expect(status).toBe(422);
  expect(body.error).toMatch(words);
  expect((await client.ask<ImpulseSummary[]>('GET', '/api/impulses')).body).toHaveLength(before);
});

test('another account neither lists nor hears it, and a rate must be one', async () => {
  const { body } = await putIn(wave(room(0.2), RATE));
  const stranger = await newClient();
  expect((await stranger.ask<ImpulseSummary[]>('GET', '/api/impulses')).body).toEqual([]);
  expect((await stranger.ask('GET', `/api/impulses/${body.id}/audio?rate=44100`)).status).toBe(404);
  expect((await client.ask('GET', `/api/impulses/${body.id}/audio?rate=loud`)).status).toBe(422);
});

test('one that no room uses is taken away; one that is used stays, and the words say where', async () => {
  const { body: response } = await putIn(wave(room(0.2), RATE), 'Vault.wav');
  const address = `/api/impulses/${response.id}`;
  const stranger = await newClient();
  expect((await stranger.ask('DELETE', address)).status).toBe(404);
  const { track, versions } = await client.takeIn<TrackDetails>(
    await client.newRelease(),
    'Choir.wav',
    wave(music(3, RATE), RATE),
  );
  const save = (after: number, settings: object) =>
    client.ask('PUT', `/api/versions/${versions[0].id}/lane`, {
      lane: { schema: 3, stages: [{ id: 'r', kind: 'room', settings }] },
      label: 'Room',
      after,
    });
  await save(0, { impulse: 'file', file: response.id });
  const refused = await client.ask<{ error: string }>('DELETE', address);
  expect(refused.status).toBe(409);
  expect(refused.body.error).toBe(
    `“Vault” is used by a room in “${track.title}”, version “${versions[0].name}”. Choose another one there first.`,
  );
  await save(1, { impulse: 'hall' });
  expect((await client.ask('DELETE', address)).status).toBe(204);
  expect((await client.ask<ImpulseSummary[]>('GET', '/api/impulses')).body.map(({ id }) => id)).not.toContain(
    response.id,
  );
  expect((await client.ask('DELETE', address)).status).toBe(404);
});

test('a delivery plays the room that its lane names, and says so when it is gone', async () => {
  const { body: response } = await putIn(wave(room(0.3), RATE));
  const workspace = await client.takeIn<TrackDetails>(await client.newRelease(), 'Mix.wav', wave(music(6, RATE), RATE));
  const [version] = workspace.versions;
  const deliver = async (file: string, after: number) => {
    const lane = { schema: 6, stages: [{ id: 'r', kind: 'room', settings: { impulse: 'file', file, wetDb: -12 } }] };
    await client.ask('PUT', `/api/versions/${version.id}/lane`, { lane, label: 'Room', after });
    const asked = { versionId: version.id, destinationId: workspace.destinations[0].id, levelDb: 0 };
    const { body } = await client.ask<{ id: string }>('POST', `/api/tracks/${workspace.track.id}/deliveries`, asked);
    return until('the delivery ended', async () => {
      const { body: delivery } = await client.ask<DeliverySummary>('GET', `/api/deliveries/${body.id}`);
      return ['finished', 'failed'].includes(delivery.status) && delivery;
    });
  };
  expect((await deliver(response.id, 0)).status).toBe('finished');
  const failed = await deliver(randomUUID(), 1);
  expect(failed.status).toBe('failed');
  expect(failed.problem).toMatch(/impulse response .* is missing: upload it again/);
});
