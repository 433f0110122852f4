// The receiving desk against files that it must take and files that it must not: made by the product, by ffmpeg, or damaged
// by hand.
import { createHash } from 'node:crypto';
import { createReadStream, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { FORMATS, FORMAT_TRAITS } from '@/core/deliver/format';
import { receive } from '@/desk/desk';
import { examine } from '@/desk/examine';
import type { Answer, Slip } from '@/desk/slip';
import { slipOf } from '@/server/deliveries/hand-over';
import { makeFinishedFile } from '@/server/render/finished-file';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { destinationWith, orderWith } from '../support/order';
import { join, sine, silence, both } from '../support/signals';
import { writeWave } from '../support/wave';

const RATE = 48000;
const SECONDS = 4;
const TAGS = {
  title: 'Länge & Breite',
  artist: 'The Ashgrove Dome Ensemble',
  album: 'Slow Orbits',
  isrc: 'AA6Q72000047',
};
let folder: string;
const at = (name: string) => path.join(folder, name);

const AGREED: Omit<Slip, 'sha256'> = {
  ...{ name: 'song.wav', container: 'wav', sampleRate: RATE, lowestSampleRate: null, bits: 24 },
  ...{ loudness: { lowest: null, highest: null }, highestMomentary: null, highestShortTerm: null, widestRange: null },
  ...{ highestTruePeak: 0, shortest: null, longest: null, longestSilence: { head: null, tail: null }, tags: {} },
};

function sumOf(file: string): string {
  return createHash('sha256').update(readFileSync(file)).digest('hex');
}

/** What the desk says of a file. */
function said(file: string, change: Partial<Slip> = {}): Promise<Answer> {
  return examine(at(file), { ...AGREED, sha256: sumOf(at(file)), ...change });
}

/** A copy of the plain file with bytes changed. */
function changed(name: string, from: string, change: (bytes: Buffer) => Buffer | void): string {
  const bytes = readFileSync(at(from));
  writeFileSync(at(name), change(bytes) ?? bytes);
  return name;
}

/** Where a chunk of a WAV file begins. */
const chunkAt = (bytes: Buffer, name: string) => bytes.indexOf(name, 12, 'latin1');

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-desk-'));
  const tone = sine(997, -12, SECONDS - 1, RATE);
  writeWave(at('plain.wav'), both(join(silence(0.5, RATE), tone, silence(0.5, RATE))), RATE);
  const plain = ['-i', at('plain.wav'), '-bitexact', '-map_metadata', '-1'];
  ffmpeg([...plain, '-c:a', 'pcm_s16le', at('short.wav')]);
  ffmpeg([...plain, '-c:a', 'pcm_f32le', at('float.wav')]);
  ffmpeg([...plain, '-c:a', 'pcm_s24le', '-ac', '1', at('mono.wav')]);
  ffmpeg([...plain, '-c:a', 'pcm_s24le', '-ar', '44100', at('slow.wav')]);
  ffmpeg([...plain, '-c:a', 'pcm_s24le', '-metadata', 'title=Another', at('titled.wav')]);
  ffmpeg([...plain, '-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24', at('plain.flac')]);
  ffmpeg([...plain, '-c:a', 'aac', '-b:a', '256k', '-f', 'ipod', at('plain.m4a')]);
  writeWave(at('mix.wav'), music(SECONDS, RATE, 0.3), RATE);
  for (const name of FORMATS) await makeDelivered(name);
});
afterAll(() => rmSync(folder, { recursive: true }));

const slips = new Map<string, Slip>();
async function makeDelivered(name: (typeof FORMATS)[number]): Promise<void> {
  const { extension, lossless } = FORMAT_TRAITS[name];
  const format = { name, kbps: lossless ? null : 256 };
  const loudness = { rule: 'maximum', lufs: -5 };
  const destination = destinationWith({ format, loudness, tags: { required: Object.keys(TAGS) } });
  const order = orderWith(destination, { sampleRate: RATE, frames: SECONDS * RATE }, { tags: TAGS });
  const output = at(`${name}.${extension}`);
  const paths = { input: at('mix.wav'), output, scratch: at('scratch') };
  const receipt = await makeFinishedFile({ ...order, fileName: path.basename(output) }, new Map(), paths);
  slips.set(name, slipOf(receipt));
}

test.each(FORMATS)('a delivered %s file is accepted, with its tags, and kept', async (name) => {
  const slip = slips.get(name)!;
  const desk = at(`desk ${name}`);
  const answer = await receive(desk, slip, createReadStream(at(slip.name)));
  expect(answer.reasons).toEqual([]);
  const kept = readdirSync(desk, { recursive: true, encoding: 'utf8' }).filter((each) => each.endsWith(slip.name));
  expect(kept).toHaveLength(1);
  expect(Object.keys(slip.tags)).toHaveLength(name === 'Broadcast WAV' ? 0 : 4);
});

const LE32 = (bytes: Buffer, place: number, by: number) =>
  void bytes.writeUInt32LE(bytes.readUInt32LE(place) + by, place);

test.each<[why: string, file: () => string, change: Partial<Slip>, reason: RegExp]>([
  ['a name with a folder in it', () => 'plain.wav', { name: '../song.wav' }, /^The name “..\/song.wav” can’t be used/],
  ['a name with a control character', () => 'plain.wav', { name: 'so\u0007ng.wav' }, /^The name “so\?ng.wav” can’t/],
  ['an empty file', () => changed('empty.wav', 'plain.wav', () => Buffer.alloc(0)), {}, /^The file is empty/],
  ['another checksum', () => 'plain.wav', { sha256: 'a'.repeat(64) }, /^The checksum is not that of the slip/],
  ['a file that is no WAV', () => 'plain.flac', {}, /^It is not a WAV file/],
  ['a file that is no FLAC', () => 'plain.wav', { container: 'flac' }, /^It can’t be decoded cleanly/],
  ['a lossy file in a lossless place', () => 'plain.m4a', { container: 'alac' }, /its samples are aac/],
  ['float samples', () => 'float.wav', {}, /its samples are pcm_f32le/],
  ['one channel', () => 'mono.wav', {}, /^It has 1 channels; two were agreed/],
  ['another sample rate', () => 'slow.wav', {}, /^Its sample rate is 44100 Hz; 48000 was agreed/],
  ['too low a sample rate', () => 'plain.wav', { sampleRate: null, lowestSampleRate: 88200 }, /at least 88200/],
  ['too few bits', () => 'short.wav', {}, /^Its samples have 16 bits; 24 were agreed/],
  ['too many bits', () => 'plain.wav', { bits: 16 }, /^Its samples have 24 bits; 16 were agreed/],
  [
    'a file cut off at its end',
    () => changed('cut.wav', 'plain.wav', (b) => b.subarray(0, -3000)),
    {},
    /ends after the/,
  ],
  [
    'bytes after its end',
    () => changed('more.wav', 'plain.wav', (b) => Buffer.concat([b, Buffer.alloc(12)])),
    {},
    /^It is longer or shorter than its header says/,
  ],
  [
    'a data chunk that ends within a frame',
    () =>
      changed('frames.wav', 'plain.wav', (b) => {
        LE32(b, chunkAt(b, 'data') + 4, -2);
      }),
    {},
    /does not hold whole frames/,
  ],
  [
    'sizes that contradict each other',
    () =>
      changed('sizes.wav', 'plain.wav', (b) => {
        LE32(b, chunkAt(b, 'fmt ') + 16, 1);
      }),
    {},
    /contradict each other/,
  ],
  ['no bext chunk', () => 'plain.wav', { container: 'bwf' }, /^It has no bext chunk/],
  [
    'an old bext chunk',
    () =>
      changed('old.wav', 'Broadcast WAV.wav', (b) => {
        b.writeUInt16LE(1, chunkAt(b, 'bext') + 8 + 346);
      }),
    { container: 'bwf' },
    /^Its bext chunk is of version 1/,
  ],
  [
    'a bext chunk with another loudness',
    () =>
      changed('liar.wav', 'Broadcast WAV.wav', (b) => {
        b.writeInt16LE(-2300, chunkAt(b, 'bext') + 8 + 412);
      }),
    { container: 'bwf' },
    /^Its bext chunk says −23.00 LUFS; it measures/,
  ],
  [
    'a bext chunk with another true peak',
    () =>
      changed('peak.wav', 'Broadcast WAV.wav', (b) => {
        b.writeInt16LE(-1500, chunkAt(b, 'bext') + 8 + 416);
      }),
    { container: 'bwf' },
    /^Its bext chunk says −15.00 dBTP; it measures/,
  ],
  [
    'a FLAC file with a changed frame',
    () =>
      changed('bad.flac', 'plain.flac', (b) => {
        b[b.length >> 1] ^= 0x40;
      }),
    { container: 'flac' },
    /^flac -t finds it damaged/,
  ],
  ['too loud', () => 'plain.wav', { loudness: { lowest: null, highest: -23 } }, /^The loudness is −\d.*at most −23.00/],
  ['too quiet', () => 'plain.wav', { loudness: { lowest: -6, highest: null } }, /^The loudness is −\d.*at least −6.00/],
  ['too loud for a moment', () => 'plain.wav', { highestMomentary: -20 }, /^The highest momentary loudness is/],
  ['too loud for three seconds', () => 'plain.wav', { highestShortTerm: -20 }, /^The highest short-term loudness is/],
  ['true peaks too high', () => 'plain.wav', { highestTruePeak: -13 }, /^The true peak is −1[12]\..*at most −13.00/],
  ['too short', () => 'plain.wav', { shortest: 5 }, /^The length is 4.00 s; at least 5.00/],
  ['too long', () => 'plain.wav', { longest: 3 }, /^The length is 4.00 s; at most 3.00/],
  [
    'silence at the head',
    () => 'plain.wav',
    { longestSilence: { head: 0.3, tail: null } },
    /^The silence at the head is 0.5/,
  ],
  [
    'silence at the tail',
    () => 'plain.wav',
    { longestSilence: { head: null, tail: 0.3 } },
    /^The silence at the tail is 0.5/,
  ],
  ['a missing tag', () => 'plain.wav', { tags: { title: 'Song' } }, /^The file has no title/],
  ['another title', () => 'titled.wav', { tags: { title: 'Song' } }, /^Its title is “Another”, not “Song”/],
])('rejects %s', async (_, file, change, reason) => {
  const { accepted, reasons } = await said(file(), change);
  expect(accepted).toBe(false);
  expect(reasons.some((each) => reason.test(each)) || reasons).toBe(true);
});

test('a plain file as agreed is accepted, with what was read of it', async () => {
  const { accepted, reasons, measured } = await said('plain.wav', {
    ...{ shortest: 4, longest: 4, longestSilence: { head: 0.5, tail: 0.5 }, highestTruePeak: -12 },
  });
  expect([accepted, reasons]).toEqual([true, []]);
  // A tone of 997 Hz at −12 dBFS on both channels reads −12 LUFS, by ITU-R BS.1770.
  expect(Math.abs(measured!.shortTerm! + 12)).toBeLessThan(0.11);
  expect(Math.abs(measured!.silence.head - 0.5)).toBeLessThan(0.01);
});
