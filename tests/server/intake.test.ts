import { request } from 'node:http';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Application, until } from '../support/application';
import { newClient, testDatabase, type Client } from '../support/client';
import { ebur128, ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { silence, sine, both } from '../support/signals';
import { wave, writeWave } from '../support/wave';

interface Taken {
  track: { id: string; title: string };
  mix: {
    id: string;
    status: string;
    refusal: string | null;
    source: { container: string; channels: number; bits: number };
    report: {
      integratedLufs: number;
      rangeLu: number;
      truePeakDbtp: [number, number];
      bitsUsed: number;
      findings: { title: string; weight: string }[];
    };
  };
}

const RATE = 44100;
let folder: string;
// An application of its own, since these tests watch what the store keeps.
const application = new Application();
let client: Client;
let release: string;
beforeAll(async () => {
  await application.start();
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-intake-'));
  client = await newClient(application.url, application.databaseUrl);
  release = await client.newRelease();
});
afterAll(async () => {
  await application.stop();
  rmSync(folder, { recursive: true });
});

/** Names of all files in the store. */
const stored = (): string[] => {
  const audio = path.join(application.folder, 'audio');
  return readdirSync(audio, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map(({ name }) => name);
};
const made = (name: string, args: string[]): Buffer => {
  const file = path.join(folder, name);
  ffmpeg([...args, file]);
  return readFileSync(file);
};
const TONE = ['-f', 'lavfi', '-i', 'sine=997:sample_rate=44100:duration=2'];

test.each([
  [
    'a text',
    'notes.wav',
    () => Buffer.from('this is no sound at all, whatever its name says'),
    /not a readable audio file/,
  ],
  ['nothing', 'empty.wav', () => Buffer.alloc(0), /empty/],
  ['a WAV cut short', 'cut.wav', () => wave(music(2, RATE), RATE).subarray(0, 90_000), /ends before its own header/],
  ['a lossy encode', 'lossy.mp3', () => made('lossy.mp3', [...TONE, '-c:a', 'mp3']), /lossy encode \(MP3\)/],
  ['six channels', 'six.wav', () => made('six.wav', [...TONE, '-ac', '6']), /6 channels; a mix has two/],
  ['a rate too low', 'low.wav', () => made('low.wav', [...TONE, '-ar', '16000']), /16 kHz/],
  [
    'a picture',
    'cover.png',
    () => made('cover.png', ['-f', 'lavfi', '-i', 'color=red:size=8x8', '-frames:v', '1']),
    /no audio|not a readable audio/,
  ],
  [
    'over an hour',
    'long.flac',
    () => made('long.flac', ['-f', 'lavfi', '-i', 'anullsrc=r=44100:cl=mono:d=3660', '-c:a', 'flac']),
    /longer than 60 minutes/,
  ],
])('%s is refused with the reason, and nothing is kept', async (_, name, bytes, words) => {
  const before = stored();
  const { status, body } = await client.send(release, name, bytes());
  expect(status).toBe(422);
  expect(body.error).toMatch(words);
  expect(stored()).toEqual(before);
  expect((await client.ask<{ tracks: unknown[] }>('GET', `/api/releases/${release}`)).body.tracks).toHaveLength(0);
});

test('a FLAC cut short and a float file with damaged samples are refused by the job, with the reason', async () => {
  const own = await client.newRelease();
  const whole = made('whole.flac', [...TONE, '-ac', '2', '-c:a', 'flac']);
  const cut = await client.takeIn<Taken>(own, 'cut.flac', whole.subarray(0, whole.length * 0.6));
  expect(cut.mix.status).toBe('refused');
  expect(cut.mix.refusal).toMatch(/damaged|ends before/);

  const damaged = music(1, RATE);
  damaged.left[1000] = NaN;
  const float = await client.takeIn<Taken>(own, 'damaged.wav', wave(damaged, RATE, '32f'));
  expect(float.mix.refusal).toMatch(/has samples that are NaN, infinite or far beyond full scale \(1 of them\)/);
});

test('an upload that is broken off leaves nothing behind', async () => {
  const before = stored();
  await new Promise<void>((resolve) => {
    const sending = request(`${client.url}/api/releases/${release}/mixes?name=big.wav`, {
      method: 'POST',
      headers: { cookie: client.cookie, 'content-length': 50_000_000 },
    });
    sending.on('error', () => resolve());
    // Broken off once the server has begun to write, which shows as a file more in the store.
    sending.write(wave(music(3, RATE), RATE));
    void until('the server is receiving', () => Promise.resolve(stored().length > before.length)).then(() =>
      sending.destroy(),
    );
  });
  await until('the broken upload is gone', () => Promise.resolve(stored().length === before.length));
  expect((await client.ask<{ tracks: unknown[] }>('GET', `/api/releases/${release}`)).body.tracks).toHaveLength(0);
  expect((await client.ask('GET', '/api/releases')).status).toBe(200);
});

test('a file announced larger than allowed is refused before it is sent', async () => {
  const answer = await new Promise<number | undefined>((resolve, reject) => {
    const sending = request(`${client.url}/api/releases/${release}/mixes?name=big.wav`, {
      method: 'POST',
      headers: { cookie: client.cookie, 'content-length': 3 * 1024 ** 3 },
    });
    sending.on('response', ({ statusCode }) => {
      resolve(statusCode);
      sending.destroy();
    });
    sending.on('error', reject);
    sending.write('RIFF');
  });
  expect(answer).toBe(413);
});

test.each([
  ['wav', ['-c:a', 'pcm_s24le'], 'WAV', 'flac'],
  ['aiff', ['-c:a', 'pcm_s16be'], 'AIFF', 'flac'],
  ['flac', ['-c:a', 'flac'], 'FLAC', 'flac'],
  ['m4a', ['-c:a', 'alac'], 'MP4', 'flac'],
  ['wav', ['-c:a', 'pcm_f32le'], 'WAV', 'wav'],
] as const)('%s %p is taken in; its working file has the same samples', async (extension, codec, container, format) => {
  const source = path.join(folder, 'source.wav');
  writeWave(source, music(2, RATE), RATE);
  const bytes = made(`mix.${extension}`, ['-i', source, ...codec]);
  const own = await client.newRelease();
  const { track, mix } = await client.takeIn<Taken>(own, `My_mix.${extension}`, bytes);
  expect(track.title).toBe('My mix');
  expect(mix.source.container).toBe(container);
  const working = path.join(folder, `working.${format}`);
  writeFileSync(working, await client.bytes(`/api/mixes/${mix.id}/audio`));
  const samples = (file: string) => ffmpeg(['-i', file, '-f', 'f32le', '-']).out;
  expect(samples(working).equals(samples(path.join(folder, `mix.${extension}`)))).toBe(true);
});

test('the findings agree with ffmpeg’s ebur128 within 0.1 LU and 0.1 dB', async () => {
  const file = path.join(folder, 'judged.wav');
  writeWave(file, music(20, RATE), RATE);
  const { mix } = await client.takeIn<Taken>(await client.newRelease(), 'judged.wav', readFileSync(file));
  const reference = ebur128(file);
  expect(Math.abs(mix.report.integratedLufs - reference.integrated)).toBeLessThanOrEqual(0.1);
  expect(Math.abs(mix.report.rangeLu - reference.range)).toBeLessThanOrEqual(0.2);
  expect(Math.abs(Math.max(...mix.report.truePeakDbtp) - reference.truePeak)).toBeLessThanOrEqual(0.1);
  expect(mix.report.bitsUsed).toBe(24);
});

test('mono plays on both sides with a note, silence is a fault, clipping is found', async () => {
  const own = await client.newRelease();
  const mono = await client.takeIn<Taken>(own, 'mono.wav', made('mono.wav', [...TONE, '-ac', '1']));
  expect(mono.mix.report.findings.map(({ title }) => title)).toContain('Mono');
  expect(mono.mix.report.truePeakDbtp[0]).toBe(mono.mix.report.truePeakDbtp[1]);

  const quiet = await client.takeIn<Taken>(own, 'silent.wav', wave(both(silence(2, RATE)), RATE));
  expect(quiet.mix.report.findings).toMatchObject([{ title: 'Silent', weight: 'fault' }]);

  const clipped = both(sine(200, 6, 2, RATE).map((x) => Math.max(-0.9, Math.min(0.9, x))));
  const loud = await client.takeIn<Taken>(own, 'clipped.wav', wave(clipped, RATE));
  expect(loud.mix.report.findings[0]).toMatchObject({ title: 'Clipped', weight: 'fault' });
});

test('several files at once each become a track of their own, in one order', async () => {
  const own = await client.newRelease();
  const bytes = wave(music(1, RATE), RATE);
  const answers = await Promise.all(['a', 'b', 'c', 'd'].map((name) => client.send(own, `${name}.wav`, bytes)));
  expect(answers.map(({ status }) => status)).toEqual([201, 201, 201, 201]);
  const { body } = await client.ask<{ tracks: { position: number }[] }>('GET', `/api/releases/${own}`);
  expect(body.tracks.map(({ position }) => position)).toEqual([1, 2, 3, 4]);
});

test('a part of the working file can be asked for', async () => {
  const { mix } = await client.takeIn<Taken>(await client.newRelease(), 'part.wav', wave(music(1, RATE), RATE));
  const whole = await client.bytes(`/api/mixes/${mix.id}/audio`);
  expect((await client.bytes(`/api/mixes/${mix.id}/audio`, 'bytes=100-199')).equals(whole.subarray(100, 200))).toBe(
    true,
  );
  expect((await client.bytes(`/api/mixes/${mix.id}/audio`, 'bytes=-50')).equals(whole.subarray(-50))).toBe(true);
});

test('a track whose mix was refused is dropped at once with its rows', async () => {
  const damaged = music(1, RATE);
  damaged.left[1000] = NaN;
  const own = await client.newRelease();
  const { track } = await client.takeIn<Taken>(own, 'gone.wav', wave(damaged, RATE, '32f'));
  expect((await client.ask('DELETE', `/api/tracks/${track.id}`)).status).toBe(204);
  const db = testDatabase(application.databaseUrl);
  expect(await db('mixes').where({ track_id: track.id })).toEqual([]);
  expect(await db('versions').where({ track_id: track.id })).toEqual([]);
  await db.destroy();
});
