import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { MixSummary } from '@/contracts/release';
import type { TrackDetails } from '@/contracts/track';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import type { Stereo } from '../support/signals';
import { wave } from '../support/wave';

const RATE = 44100;
/** 37 ms. */
const LATE = 1632;
const first = music(10, RATE);
const FRAMES = first.left.length;

let client: Client;
let folder: string;
let track: string;
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-mixes-'));
  client = await newClient();
  const taken = await client.takeIn<TrackDetails>(await client.newRelease(), 'mix 1.wav', wave(first, RATE));
  track = taken.track.id;
});
afterAll(() => rmSync(folder, { recursive: true }));

const workspace = async () => (await client.ask<TrackDetails>('GET', `/api/tracks/${track}`)).body;

/** Puts the next mix in and waits until it was looked at. */
async function putIn(name: string, bytes: Uint8Array): Promise<MixSummary> {
  const path = `/api/tracks/${track}/mixes?name=${encodeURIComponent(name)}`;
  const { status, body } = await client.ask<{ mixId: string }>('POST', path, bytes);
  expect(status).toBe(201);
  return until('the mix was looked at', async () => {
    const mix = (await workspace()).mixes.find(({ id }) => id === body.mixId);
    return mix && ['ready', 'refused'].includes(mix.status) && mix;
  });
}

/** Interleaved 32-bit samples of a mix's working file. */
async function samples({ id }: { id: string }): Promise<Int32Array> {
  const file = path.join(folder, `${id}.flac`);
  writeFileSync(file, await client.bytes(`/api/mixes/${id}/audio`));
  const { out } = ffmpeg(['-i', file, '-f', 's32le', '-']);
  return new Int32Array(Uint8Array.from(out).buffer);
}

/** A mix that begins some frames later than the first one, or earlier. */
const moved = (late: number, level = 1): Stereo => {
  const side = (x: Float64Array) => Float64Array.from({ length: FRAMES + late }, (_, i) => level * (x[i - late] ?? 0));
  return { left: side(first.left), right: side(first.right) };
};

test('a mix 2 that begins 37 ms later lies under the same lane to the sample, and its versions stay', async () => {
  const { versions } = await workspace();
  const lane = { schema: 2, stages: [{ id: 'a', kind: 'trim', settings: { gainDb: -3 } }] };
  await client.ask('PUT', `/api/versions/${versions[0].id}/lane`, { lane, label: 'Gain', after: 0 });
  const second = await putIn('mix 2.wav', wave(moved(LATE), RATE));
  expect(second.linedUp).toMatchObject({ toMix: 1, outcome: 'found', offsetFrames: LATE });
  expect(second.linedUp!.offsetMs).toBeCloseTo(37, 1);
  const now = await workspace();
  expect(now.mix?.number).toBe(2);
  expect(now.versions[0]).toMatchObject({ id: versions[0].id, step: 1, undo: 'Gain' });
  const [older, newer] = [await samples(now.mixes[1]), await samples(now.mixes[0])];
  expect(newer.length).toBe(older.length);
  expect(Buffer.compare(Buffer.from(newer.buffer), Buffer.from(older.buffer))).toBe(0);
});

test('a mix that begins earlier gets silence ahead of it', async () => {
  const early = await putIn('mix 3.wav', wave(moved(-500, 0.5), RATE));
  expect(early.linedUp).toMatchObject({ toMix: 2, outcome: 'found', offsetFrames: -500 });
  const [all, older] = [await samples(early), await samples((await workspace()).mixes[2])];
  expect(all.subarray(0, 1000).every((x) => x === 0)).toBe(true);
  // Half the level, at the same place.
  for (const at of [5000, 100_001, 500_000]) expect(Math.abs(all[at] - older[at] / 2)).toBeLessThan(512);
});

test('a mix whose sound would be cut off, or that is another piece, stays as it is, and says so', async () => {
  const loudHead = moved(LATE);
  for (let i = 0; i < LATE; i++) loudHead.left[i] = 0.2 * Math.sin(i / 9);
  expect((await putIn('count-in.wav', wave(loudHead, RATE))).linedUp).toMatchObject({
    outcome: 'soundBefore',
    offsetFrames: LATE,
  });
  const other = music(9, RATE);
  other.left.reverse();
  other.right.reverse();
  const different = await putIn('other.wav', wave(other, RATE));
  expect(different.linedUp?.outcome).toBe('different');
  expect(different.report?.frames).toBe(9 * RATE);
});

test('a mix at another sample rate is lined up at its own', async () => {
  const file = path.join(folder, 'first.wav');
  writeFileSync(file, wave(moved(LATE), RATE));
  const { out } = ffmpeg(['-i', file, '-af', 'aresample=48000:resampler=soxr', '-c:a', 'pcm_s24le', '-f', 'wav', '-']);
  // A pipe has no length to write into the header; a file does.
  writeFileSync(path.join(folder, 'pipe.wav'), out);
  const whole = path.join(folder, '48.flac');
  ffmpeg(['-i', path.join(folder, 'pipe.wav'), whole]);
  const mix = await putIn('48.flac', readFileSync(whole));
  expect(mix.linedUp?.outcome).toBe('found');
  expect(mix.linedUp!.offsetMs).toBeCloseTo((1000 * LATE) / RATE, 1);
  expect(mix.report?.frames).toBeCloseTo(10 * 48000, -2);
});

test('an older mix can be chosen again, is what is delivered, and a newer one takes over when it comes', async () => {
  const { mixes, versions, destinations } = await workspace();
  const oldest = mixes.at(-1)!;
  expect((await client.ask('PUT', `/api/tracks/${track}/mix`, { mixId: oldest.id })).status).toBe(204);
  expect((await workspace()).mix?.number).toBe(1);
  const order = { destinationId: destinations[0].id, versionId: versions[0].id };
  const { body } = await client.ask<{ id: string }>('POST', `/api/tracks/${track}/deliveries`, order);
  const receipt = await until('the delivery is finished', async () => {
    const { body: delivery } = await client.ask<{ status: string; receipt: { mix: { fileName: string } } }>(
      'GET',
      `/api/deliveries/${body.id}`,
    );
    return delivery.status === 'finished' && delivery.receipt;
  });
  expect(receipt.mix.fileName).toBe('mix 1.wav');
  const { status, body: refused } = await client.ask('DELETE', `/api/mixes/${oldest.id}`);
  expect([status, refused.error]).toEqual([409, 'Mix 1 has deliveries and can’t be deleted.']);
  const next = await putIn('mix 7.wav', wave(first, RATE));
  expect((await workspace()).mix?.id).toBe(next.id);
});

test('a mix that is refused leaves the older one in place and can be removed; the last one stays', async () => {
  const before = (await workspace()).mix!;
  const damaged = music(1, RATE);
  damaged.left[1000] = NaN;
  const refused = await putIn('damaged.wav', wave(damaged, RATE, '32f'));
  expect(refused.status).toBe('refused');
  expect((await workspace()).mix?.id).toBe(before.id);
  const choice = await client.ask('PUT', `/api/tracks/${track}/mix`, { mixId: refused.id });
  expect([choice.status, choice.body.error]).toEqual([
    409,
    `Mix ${refused.number} is not ready. Wait until its analysis is done.`,
  ]);
  expect((await client.ask('DELETE', `/api/mixes/${refused.id}`)).status).toBe(204);
  const own = await client.takeIn<TrackDetails>(await client.newRelease(), 'only.wav', wave(music(1, RATE), RATE));
  const only = await client.ask('DELETE', `/api/mixes/${own.mix!.id}`);
  expect([only.status, only.body.error]).toEqual([
    409,
    'A track needs a mix. Upload another one first, or remove the track.',
  ]);
  // A mix of one track is not one of another.
  expect((await client.ask('PUT', `/api/tracks/${track}/mix`, { mixId: own.mix!.id })).status).toBe(404);
});
