// One continuous image of a release: its samples, its cue sheet as cuetools reads it (cueprint(1), cuebreakpoints(1)), and its
// log. Indices: IEC 60908, 75 frames a second of 588 samples.
import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import Papa from 'papaparse';
import type { ImageSummary } from '@/contracts/image';
import type { ReleaseDetail } from '@/contracts/release';
import type { TrackDetails } from '@/contracts/track';
import { LANE_SCHEMA } from '@/core/lane/schema';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { ebur128, ffmpeg } from '../support/ffmpeg';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';

const RATE = 44100;
const SECTOR = 588;
let client: Client;
let folder: string;
let release: string;
const tracks: TrackDetails[] = [];
let image: ImageSummary;
/** Left channel of the image, as integers. */
let samples: Int16Array;
const at = (name: string) => path.join(folder, name);
const run = (program: string, args: string[]) => spawnSync(program, args, { cwd: folder, encoding: 'utf8' }).stdout;
const detail = async () => (await client.ask<ReleaseDetail>('GET', `/api/releases/${release}`)).body;
const change = (index: number, body: object) => client.ask('PATCH', `/api/tracks/${tracks[index].track.id}`, body);

/** Level of a stretch of the image in dBFS: that of its loudest sample. */
function peakDb(from: number, to: number): number {
  let most = 0;
  for (let i = from; i < to; i++) {
    const level = samples[i] < 0 ? -samples[i] : samples[i];
    if (level > most) most = level;
  }
  return 20 * Math.log10(most / 32768);
}

async function made(body: object): Promise<ImageSummary> {
  const { status, body: started } = await client.ask<{ id: string }>('POST', `/api/releases/${release}/images`, body);
  expect([status, started]).toEqual([201, { id: started.id }]);
  return until('the image is made', async () => {
    const { body: list } = await client.ask<ImageSummary[]>('GET', `/api/releases/${release}/images`);
    const found = list.find(({ id }) => id === started.id);
    if (found?.status === 'failed') throw new Error(found.problem ?? 'It failed.');
    return found?.status === 'finished' && found;
  });
}

/** Seconds and level of the four tracks' tones. */
const TONES = [
  [5.003, -12],
  [4.5, -18],
  [6, -12],
  [5, -24],
] as const;

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-images-'));
  client = await newClient();
  release = await client.newRelease('Slow Orbits');
  await client.ask('PATCH', `/api/releases/${release}`, { artist: 'The Dome', ean: '4006381333931' });
  for (const [i, [seconds, level]] of TONES.entries())
    tracks.push(
      await client.takeIn<TrackDetails>(
        release,
        `Piece ${i + 1}.wav`,
        wave(both(sine(441, level, seconds, RATE)), RATE),
      ),
    );
  await change(0, { isrc: 'AA6Q72600001', title: 'Perihelion "slow"' });
  await change(1, { isrc: 'AA6Q72600002', joint: { kind: 'gap', discFrames: 75 } });
  await change(2, { isrc: 'AA6Q72600003', joint: { kind: 'gap', discFrames: 0 } });
  await change(3, { joint: { kind: 'crossfade', discFrames: 75, shape: 'equalPower' } });
  // The second is cut to 4.2 s by its edges.
  const { id } = tracks[1].versions[0];
  const lane = { schema: LANE_SCHEMA, stages: [], edges: { startSeconds: 0.1, endSeconds: 4.3 } };
  await client.ask('PUT', `/api/versions/${id}/lane`, { lane, label: 'Edges', after: 0 });
  const disc = (await detail()).destinations.find(({ settings }) => settings.name === 'Disc')!;
  image = await made({ destinationId: disc.id });
  writeFileSync(at(image.fileName), await client.bytes(`/api/images/${image.id}/file`));
  writeFileSync(at('image.cue'), await client.bytes(`/api/images/${image.id}/sheet?form=cue`));
  const { out } = ffmpeg(['-i', at(image.fileName), '-af', 'pan=mono|c0=c0', '-f', 's16le', '-']);
  samples = new Int16Array(Uint8Array.from(out).buffer);
});
afterAll(() => rmSync(folder, { recursive: true }));

// Track 1 ends in disc frame 375.2: pause from 376, track 2 at ceil(375.225 + 75) = 451. Its 4.2 s end at frame 766 to the sample.
const STARTS = [0, 451 * SECTOR, 766 * SECTOR, (766 + 450 - 75) * SECTOR];
const END = STARTS[3] + 5 * RATE;

test('tracks lie in the image where the sequence says, to the sample', () => {
  expect(samples.length).toBe(END);
  expect(samples.length % SECTOR).toBe(0);
  const [, second, third, fourth] = STARTS;
  expect(peakDb(0, 5 * RATE)).toBeCloseTo(-12, 1);
  // The gap is digital silence but for the dither.
  expect(peakDb(Math.round(5.003 * RATE) + 1, second)).toBeLessThan(-84);
  expect(Math.abs(samples[second])).toBeLessThan(3 + 32768 * 0.126 * Math.sin((2 * Math.PI * 441 * 0.1) % Math.PI));
  expect(peakDb(second, third)).toBeCloseTo(-18, 1);
  // A segue has no sample of silence.
  expect(peakDb(third - 100, third)).toBeCloseTo(-18, 0);
  expect(peakDb(third, third + 100)).toBeCloseTo(-12, 0);
  // Before the crossfade the third alone, after it the fourth alone.
  expect(peakDb(third, fourth)).toBeCloseTo(-12, 1);
  expect(peakDb(fourth + RATE + 10, END)).toBeCloseTo(-24, 1);
  // Half way both are 3 dB down: amplitudes add, since both are the same tone in phase or out of it.
  const middle = peakDb(fourth + RATE / 2 - 200, fourth + RATE / 2 + 200);
  expect(middle).toBeGreaterThan(-17.6);
  expect(middle).toBeLessThan(-12.4);
});

test('cuetools reads the indices, the codes and the titles', () => {
  const printed = run('cueprint', ['-d', '', '-t', '%n|%i|%t|%p\\n', 'image.cue']).trim().split('\n');
  expect(printed).toEqual([
    '1|AA6Q72600001|Perihelion ’slow’|The Dome',
    '2|AA6Q72600002|Piece 2|The Dome',
    '3|AA6Q72600003|Piece 3|The Dome',
    '4||Piece 4|The Dome',
  ]);
  expect(run('cueprint', ['-d', '%C|%T|%P|%N', '-t', '', 'image.cue'])).toContain('Slow Orbits|The Dome|4');
  // Breakpoints at the marks of tracks 2 to 4.
  const times = run('cuebreakpoints', ['--prepend-gaps', 'image.cue']).trim().split('\n');
  expect(times).toEqual(['0:05.01', '0:10.16', '0:15.16']);
  const cue = readFileSync(at('image.cue'), 'utf8');
  expect(cue).toContain('CATALOG 4006381333931\r\n');
  expect(cue).toContain(`FILE "${image.fileName}" WAVE\r\n`);
  expect(cue.match(/INDEX 0\d \d\d:\d\d:\d\d/g)).toEqual([
    'INDEX 01 00:00:00',
    'INDEX 00 00:05:01',
    'INDEX 01 00:06:01',
    'INDEX 01 00:10:16',
    'INDEX 01 00:15:16',
  ]);
});

test('the log tells what is in the file: times, codes, loudness, peaks and checksums', async () => {
  const csv = (await client.bytes(`/api/images/${image.id}/sheet?form=csv`)).toString();
  const rows = Papa.parse<Record<string, string>>(csv.trim(), { header: true }).data;
  expect(rows.map((row) => row['start, mm:ss:ff'])).toEqual(['00:00:00', '00:06:01', '00:10:16', '00:15:16']);
  expect(rows.map((row) => row['pause before, mm:ss:ff'])).toEqual(['00:00:00', '00:01:00', '00:00:00', '00:00:00']);
  expect(rows.map((row) => row.ISRC)).toEqual(['AA6Q72600001', 'AA6Q72600002', 'AA6Q72600003', '']);
  const all = readFileSync(at(image.fileName));
  expect(rows[0]['SHA-256 of the image']).toBe(createHash('sha256').update(all).digest('hex'));
  // The third track as ffmpeg cuts it out: checksum of its samples, loudness and peak.
  const [from, to] = [STARTS[2], STARTS[3]];
  ffmpeg(['-i', at(image.fileName), '-af', `atrim=start_sample=${from}:end_sample=${to}`, at('third.wav')]);
  const { out } = ffmpeg(['-i', at('third.wav'), '-f', 's16le', '-']);
  expect(rows[2]['SHA-256 of the samples']).toBe(createHash('sha256').update(out).digest('hex'));
  const { integrated, truePeak } = ebur128(at('third.wav'));
  expect(Math.abs(Number(rows[2]['integrated, LUFS']) - integrated)).toBeLessThan(0.1);
  expect(Math.abs(Number(rows[2]['true peak, dBTP']) - truePeak)).toBeLessThan(0.1);
  writeFileSync(at('log.pdf'), await client.bytes(`/api/images/${image.id}/sheet?form=pdf`));
  const text = run('pdftotext', ['-layout', 'log.pdf', '-']);
  expect(text).toMatch(/Log sheet/);
  expect(text).toMatch(/Piece 3\s+00:10:16\s+00:05:00/);
  expect(text).toContain(rows[2]['SHA-256 of the samples']);
});

test('the rules of a disc are part of its verdict', () => {
  const { verdict, file } = image.receipt!.receipt;
  const standing = (title: string) => verdict.requirements.find((each) => each.title === title);
  expect(file).toMatchObject({ sampleRate: RATE, bits: 16, frames: END });
  expect(standing('Samples')).toMatchObject({ standing: 'meets', source: 'IEC 60908' });
  expect(standing('Shortest track')).toMatchObject({ standing: 'meets', measured: '4.20 s' });
  expect(standing('ISRC')).toMatchObject({ standing: 'misses', advice: true, miss: 'missing: “Piece 4”' });
  expect(standing('EAN')).toMatchObject({ standing: 'meets', measured: '4006381333931' });
});

test('the same order makes the same bytes; an image can be FLAC, and be deleted', async () => {
  const disc = (await detail()).destinations.find(({ settings }) => settings.name === 'Disc')!;
  const again = await made({ destinationId: disc.id });
  expect(again.receipt!.receipt.file.sha256).toBe(image.receipt!.receipt.file.sha256);
  const flac = await made({ destinationId: disc.id, format: 'FLAC' });
  writeFileSync(at('image.flac'), await client.bytes(`/api/images/${flac.id}/file`));
  expect(run('flac', ['-t', '-s', 'image.flac'])).toBe('');
  expect(flac.receipt!.receipt.file).toMatchObject({ frames: END, bits: 16, container: 'FLAC' });
  expect((await client.ask('DELETE', `/api/images/${again.id}`)).status).toBe(204);
  expect((await client.ask('GET', `/api/images/${again.id}/file`)).status).toBe(404);
});

test('joints are heard as they lie in the image', async () => {
  const ask = (index: number) => client.bytes(`/api/releases/${release}/joints/${tracks[index].track.id}`);
  for (const index of [1, 2, 3]) {
    writeFileSync(at('joint.flac'), await ask(index));
    const { out } = ffmpeg(['-i', at('joint.flac'), '-af', 'pan=mono|c0=c0', '-f', 'f32le', '-']);
    const joint = new Float32Array(Uint8Array.from(out).buffer);
    // Both tracks are shorter than what is heard of them: the joint is the image between their ends.
    const before = Math.round(index === 1 ? 5.003 * RATE : index === 2 ? 4.2 * RATE : 6 * RATE);
    const from = STARTS[index] - (index === 1 ? before + (451 * SECTOR - before) : before - (index === 3 ? RATE : 0));
    const shift = index === 1 ? 0 : from;
    let most = 0;
    for (let i = 0; i < before + RATE; i++) {
      const apart = joint[i] - samples[shift + i] / 32768;
      if (apart > most || -apart > most) most = apart < 0 ? -apart : apart;
    }
    expect(most).toBeLessThan(3 / 32768);
  }
  const first = await client.ask('GET', `/api/releases/${release}/joints/${tracks[0].track.id}`);
  expect([first.status, first.body.error]).toEqual([409, 'No track comes before the first one.']);
});

test('a chosen version is what the release is put together from; one of another track is not taken', async () => {
  const { body: copy } = await client.ask<{ id: string }>('POST', `/api/versions/${tracks[0].versions[0].id}/copies`, {
    name: 'Quieter',
  });
  expect((await change(1, { chosenVersionId: copy.id })).status).toBe(404);
  expect((await change(0, { chosenVersionId: copy.id })).status).toBe(204);
  expect((await detail()).tracks[0].master).toMatchObject({ versionName: 'Quieter', step: 0 });
  await client.ask('DELETE', `/api/versions/${copy.id}`);
  expect((await detail()).tracks[0].master).toMatchObject({ versionName: 'First version' });
});

test.each([
  [{ kind: 'gap', discFrames: -1 }],
  [{ kind: 'gap', discFrames: 1e9 }],
  [{ kind: 'crossfade', discFrames: 75, shape: '__proto__' }],
  [{ kind: 'constructor' }],
])('a joint %j is refused', async (joint) => {
  expect((await change(1, { joint })).status).toBe(422);
});

test('a release is levelled in one step, and back', async () => {
  const masters = async () =>
    (
      await until('all is measured', async () => {
        const found = await detail();
        return found.tracks.every(({ master }) => master?.summary) && found;
      })
    ).tracks.map(({ master }) => master!);
  const before = await masters();
  const trims = before.slice(2).map(({ versionId, step }, i) => ({ versionId, after: step, trimDb: i === 0 ? -3 : 9 }));
  const path = `/api/releases/${release}/levels`;
  const { status, body } = await client.ask<{ steps: object[] }>('POST', path, { trims });
  expect(status).toBe(200);
  const after = await masters();
  const moved = after.map(({ summary }, i) => summary!.integratedLufs! - before[i].summary!.integratedLufs!);
  [0, 0, -3, 9].forEach((db, i) => expect(moved[i]).toBeCloseTo(db, 1));
  // Another window's step is not overwritten, and nothing of the rest is done then.
  const stale = await client.ask('POST', path, { trims: [{ ...trims[0], after: after[2].step }, trims[1]] });
  expect(stale.status).toBe(409);
  expect((await detail()).tracks[2].master!.step).toBe(after[2].step);
  expect((await client.ask('DELETE', path, { steps: body.steps })).status).toBe(204);
  expect((await masters()).map(({ summary }) => summary!.integratedLufs)).toEqual(
    before.map(({ summary }) => summary!.integratedLufs),
  );
  expect((await client.ask('DELETE', path, { steps: body.steps })).status).toBe(409);
});

test('a release of more tracks than a disc can have is refused in words', async () => {
  const large = await client.newRelease('Many');
  const { track, destinations } = await client.takeIn<TrackDetails>(
    large,
    'One.wav',
    wave(both(sine(441, -12, 1, RATE)), RATE),
  );
  for (let copies = 0; copies < 99; copies++) await client.ask('POST', `/api/tracks/${track.id}/copies`);
  const { status, body } = await client.ask('POST', `/api/releases/${large}/images`, {
    destinationId: destinations[0].id,
  });
  expect([status, body.error]).toEqual([422, 'An image has at most 99 tracks. Make two releases of this one.']);
});
