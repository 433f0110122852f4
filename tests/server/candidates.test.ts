import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { framesAtRate } from '@/contracts/audio';
import { MOST_CANDIDATES } from '@/contracts/candidate';
import type { TrackDetails } from '@/contracts/track';
import { isWave, waveDataStart } from '@/engine/sources/float-wave';
import { newClient, type Client } from '../support/client';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { wave } from '../support/wave';

const RATE = 44100;
const mix = wave(music(3, RATE), RATE);

let client: Client;
let folder: string;
let details: TrackDetails;
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-candidates-'));
  client = await newClient();
  details = await client.takeIn<TrackDetails>(await client.newRelease(), 'mix.wav', mix);
});
afterAll(() => rmSync(folder, { recursive: true }));

const save = (candidates: unknown[]) => client.ask('PUT', `/api/tracks/${details.track.id}/candidates`, { candidates });
const saved = async () => (await client.ask<TrackDetails>('GET', `/api/tracks/${details.track.id}`)).body.candidates;

test('candidates are kept with the track, in their order', async () => {
  expect(await saved()).toBeNull();
  const list = [{ kind: 'edited' }, { kind: 'mix', mixId: null }, { kind: 'without', stage: 'a' }];
  expect((await save(list)).status).toBe(204);
  expect(await saved()).toEqual(list);
});

test('what is no candidate, or one too many, is refused in words and changes nothing', async () => {
  const before = await saved();
  const refused = async (list: unknown[]) => (await save(list)).status;
  expect(await refused([{ kind: 'anything' }])).toBe(422);
  expect(await refused([{ kind: 'mix', mixId: '../../etc' }])).toBe(422);
  expect(await refused([{ kind: '__proto__' }])).toBe(422);
  const { status, body } = await save(Array.from({ length: MOST_CANDIDATES + 1 }, () => ({ kind: 'edited' })));
  expect([status, body.error]).toEqual([422, 'candidates: A track has at most 9 candidates. Remove one first.']);
  expect(await saved()).toEqual(before);
});

/** Samples of a float WAV, left and right alternating. */
function samplesOf(bytes: Buffer): Float32Array {
  expect(isWave(bytes)).toBe(true);
  return new Float32Array(Uint8Array.from(bytes.subarray(waveDataStart(bytes)!)).buffer);
}

test('a mix comes decoded at another rate, as long as it was announced and as ffmpeg converts it', async () => {
  const { mix: own } = details;
  const at = async (rate: number) => samplesOf(await client.bytes(`/api/mixes/${own!.id}/audio?rate=${rate}`));
  const file = path.join(folder, 'mix.wav');
  writeFileSync(file, mix);
  const reference = (filter: string) =>
    new Float32Array(Uint8Array.from(ffmpeg(['-i', file, '-af', filter, '-f', 'f32le', '-']).out).buffer);
  expect(await at(RATE)).toEqual(reference('anull'));
  for (const rate of [48000, 96000, 22050]) {
    const samples = await at(rate);
    expect(samples.length).toBe(2 * framesAtRate(own!.frames!, RATE, rate));
    const expected = reference(`aresample=${rate}:resampler=soxr:precision=33`);
    const apart = Math.max(...samples.subarray(0, rate).map((x, i) => Math.abs(x - expected[i])));
    expect(apart).toBeLessThan(1e-6);
  }
});

test.each(['0', '-1', 'x', '1e9', '44100.5', ''])('a rate of “%s” is refused in words', async (rate) => {
  const { status, body } = await client.ask('GET', `/api/mixes/${details.mix!.id}/audio?rate=${rate}`);
  expect([status, body.error]).toEqual([422, 'Give the sample rate as a whole number of Hz from 8000 to 384000.']);
});
