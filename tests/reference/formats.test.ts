// Every format that is delivered, read back by programs that share no code with what wrote it: ffprobe, ffmpeg, soxi, flac,
// metaflac and mediainfo. Layout of the bext chunk: EBU Tech 3285 (from memory).
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Format } from '@/core/deliver/format';
import type { Receipt } from '@/core/deliver/receipt';
import { LANE_SCHEMA, parseLane } from '@/core/lane/schema';
import { receiptPdf } from '@/server/deliveries/receipt-pdf';
import { makeFinishedFile, type FinishedFileOrder } from '@/server/render/finished-file';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { destinationWith, orderWith } from '../support/order';
import { writeWave } from '../support/wave';

const RATE = 48000;
const SECONDS = 3.5;
const TAGS = {
  ...{ title: 'Länge & Breite', artist: 'The Ashgrove Dome Ensemble', album: 'Slow Orbits', album_artist: 'Various' },
  ...{ track: '3', tracks: '9', composer: 'A. Composer', isrc: 'AA6Q72000047', barcode: '4006381333931' },
  ...{ date: '2026', copyright: '© 2026 Ashgrove' },
};
let folder: string;
const at = (name: string) => path.join(folder, name);
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-formats-'));
  writeWave(at('mix.wav'), music(SECONDS, RATE, 0.3), RATE);
  ffmpeg(['-f', 'lavfi', '-i', 'color=teal:s=320x320', '-frames:v', '1', at('cover.png')]);
});
afterAll(() => rmSync(folder, { recursive: true }));

function run(program: string, ...args: string[]): string {
  const { status, stdout, stderr } = spawnSync(program, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`${program} failed: ${stderr}`);
  return stdout;
}

const cover = () => ({
  sha256: createHash('sha256')
    .update(readFileSync(at('cover.png')))
    .digest('hex'),
  type: 'image/png',
});

async function made(name: string, change: object, order: Partial<FinishedFileOrder> = {}): Promise<Receipt> {
  const mix = { sampleRate: RATE, frames: SECONDS * RATE };
  const paths = { input: at('mix.wav'), output: at(name), scratch: at(`${name}.raw`), cover: at('cover.png') };
  return makeFinishedFile(orderWith(destinationWith(change), mix, { tags: TAGS, ...order }), new Map(), paths);
}

interface Probed {
  streams: {
    codec_type: string;
    codec_name: string;
    sample_rate: string;
    bits_per_raw_sample?: string;
    tags?: object;
  }[];
  format: { tags?: Record<string, string> };
}
const probed = (file: string) =>
  JSON.parse(run('ffprobe', '-v', 'error', '-of', 'json', '-show_streams', '-show_format', file)) as Probed;
interface MediaInfo {
  media: { track: (Record<string, string> & { extra?: Record<string, string> })[] };
}
const general = (file: string) =>
  (JSON.parse(run('mediainfo', '--ParseSpeed=1', '--Output=JSON', file)) as MediaInfo).media.track[0];
const samples = (file: string, format = 's24le') => ffmpeg(['-i', file, '-map', '0:a', '-f', format, '-']).out;

const EXTENSIONS: Record<Format, string> = {
  ...{ WAV: 'wav', 'Broadcast WAV': 'wav', FLAC: 'flac', AIFF: 'aiff', ALAC: 'm4a', MP3: 'mp3', AAC: 'm4a' },
};
const CODECS: Record<Format, string> = {
  ...{ WAV: 'pcm_s24le', 'Broadcast WAV': 'pcm_s24le', FLAC: 'flac', AIFF: 'pcm_s24be', ALAC: 'alac' },
  ...{ MP3: 'mp3', AAC: 'aac' },
};
const LOSSLESS = ['WAV', 'Broadcast WAV', 'FLAC', 'AIFF', 'ALAC'] as const;
const LOSSY = ['MP3', 'AAC'] as const;

describe.each([...LOSSLESS, ...LOSSY])('%s', (format) => {
  const lossy = LOSSY.some((each) => each === format);
  const name = `${format.replace(' ', '-')}.${EXTENSIONS[format]}`;
  let receipt: Receipt;
  beforeAll(async () => {
    receipt = await made(name, { format: { name: format, kbps: lossy ? 256 : null } }, { cover: cover() });
  });

  test('it is what the receipt says', () => {
    const [audio] = probed(at(name)).streams.filter(({ codec_type }) => codec_type === 'audio');
    expect([audio.codec_name, Number(audio.sample_rate)]).toEqual([CODECS[format], RATE]);
    expect(receipt.file).toMatchObject({ sampleRate: RATE, bits: lossy ? 0 : 24 });
    // MP4 leaves the last packet of 1024 frames whole.
    expect(receipt.file.frames - SECONDS * RATE).toBeGreaterThanOrEqual(0);
    expect(receipt.file.frames - SECONDS * RATE).toBeLessThan(format === 'AAC' ? 1024 : 1);
    expect(receipt.file.sha256).toBe(
      createHash('sha256')
        .update(readFileSync(at(name)))
        .digest('hex'),
    );
    expect(receipt.verdict.requirements.find(({ title }) => title === 'Format')).toMatchObject({ standing: 'meets' });
  });

  if (!lossy)
    test('a 24-bit mix through an empty lane has the same bits', () => {
      expect(samples(at(name)).equals(samples(at('mix.wav')))).toBe(true);
      expect(receipt.dither).toBe('none');
    });

  test('tags and cover are read back by ffprobe and mediainfo', () => {
    const { streams, format: whole } = probed(at(name));
    const tags = Object.fromEntries(Object.entries(whole.tags ?? {}).map(([key, value]) => [key.toLowerCase(), value]));
    // ffprobe tells what a bext chunk says and looks no further.
    if (format === 'Broadcast WAV') expect(tags.comment).toContain(TAGS.artist);
    else
      expect(tags).toMatchObject({
        title: TAGS.title,
        album: TAGS.album,
        track: expect.stringMatching(/^3(\/9)?$/) as string,
      });
    // In front of the audio of a WAV a picture would be in the way.
    const pictured = !format.endsWith('WAV');
    const pictures = streams.filter(({ codec_type }) => codec_type === 'video').map(({ codec_name }) => codec_name);
    expect(pictures).toEqual(pictured ? ['png'] : []);
    expect(receipt.cover !== null).toBe(pictured);
    const told = general(at(name));
    expect(told).toMatchObject({ Title: TAGS.title, Album: TAGS.album, ISRC: TAGS.isrc, Composer: TAGS.composer });
    expect([told.Performer, told.Album_Performer]).toEqual([expect.stringContaining(TAGS.artist), TAGS.album_artist]);
    expect([told.Recorded_Date, told.Track_Position]).toEqual([expect.stringContaining('2026'), '3']);
    expect(told.Cover).toBe(pictured ? 'Yes' : undefined);
    // In MP4 it is a field that is named freely, which mediainfo leaves out.
    expect(JSON.stringify([told, tags])).toContain(TAGS.barcode);
  });

  test('the same order gives the same bytes', async () => {
    const again = await made(
      `again-${name}`,
      { format: { name: format, kbps: lossy ? 256 : null } },
      { cover: cover() },
    );
    expect(again.file.sha256).toBe(receipt.file.sha256);
  });
});

test.each(LOSSY)('a destination of %s is checked in other encodes of its master', async (format) => {
  const asked = { codec: 'AAC', kbps: 128, maxDbtp: 0 };
  const { encodes, verdict } = await made(`checked.${EXTENSIONS[format]}`, {
    ...{ format: { name: format, kbps: 256 }, encodes: [asked] },
  });
  expect(encodes).toMatchObject([{ codec: 'AAC', kbps: 128 }]);
  const lossless = await made(`checked-${format}.flac`, { format: { name: 'FLAC', kbps: null }, encodes: [asked] });
  // The same master, so the same encode: not one of the lossy file.
  expect(encodes[0].integratedLufs).toBeCloseTo(lossless.encodes[0].integratedLufs!, 2);
  expect(verdict.requirements.every(({ standing }) => standing !== 'unknown')).toBe(true);
});

test('flac and metaflac agree about a FLAC', async () => {
  await made('checked.flac', { format: { name: 'FLAC', kbps: null } }, { cover: cover() });
  expect(spawnSync('flac', ['--test', '--silent', at('checked.flac')]).status).toBe(0);
  const told = run('metaflac', '--export-tags-to=-', at('checked.flac'));
  expect(told).toContain('ISRC=AA6Q72000047\n');
  expect(told).toContain('BARCODE=4006381333931\n');
  const picture = run('metaflac', '--list', '--block-type=PICTURE', at('checked.flac'));
  expect(picture).toMatch(/width: 320\s+height: 320\s+depth: 24/);
  expect(run('metaflac', '--show-bps', at('checked.flac')).trim()).toBe('24');
});

test.each(['WAV', 'FLAC', 'AIFF', 'ALAC'] as const)(
  '%s at 16 and 20 bits: every sample lies on its grid',
  async (format) => {
    const { wordLength } = destinationWith({});
    for (const bits of [16, 20] as const) {
      const name = `${bits}.${EXTENSIONS[format]}`;
      const { dither, verdict } = await made(name, {
        format: { name: format, kbps: null },
        wordLength: { ...wordLength, bits },
      });
      expect([dither, verdict.standing]).toEqual(['TPDF', 'meets']);
      const all = new Int32Array(Uint8Array.from(samples(at(name), 's32le')).buffer);
      const step = 2 ** (32 - bits);
      expect(all.every((value) => value % step === 0)).toBe(true);
      expect(all.every((value) => value % (2 * step) === 0)).toBe(false);
    }
    if (format !== 'ALAC') expect(run('soxi', '-p', at(`16.${EXTENSIONS[format]}`)).trim()).toBe('16');
  },
);

test('the bext chunk of a Broadcast WAV, read byte by byte, has the measured loudness', async () => {
  const { measured } = await made('bext.wav', { format: { name: 'Broadcast WAV', kbps: null } });
  const bytes = readFileSync(at('bext.wav'));
  let chunk = 12;
  while (bytes.toString('latin1', chunk, chunk + 4) !== 'bext') chunk += 8 + bytes.readUInt32LE(chunk + 4);
  const length = bytes.readUInt32LE(chunk + 4);
  expect(bytes.indexOf('data', 12, 'latin1')).toBeGreaterThan(chunk);
  const body = bytes.subarray(chunk + 8, chunk + 8 + length);
  const text = (from: number, size: number) => body.toString('latin1', from, from + size).replace(/\0.*$/, '');
  expect(text(0, 256)).toBe('Lange & Breite, The Ashgrove Dome Ensemble');
  expect([text(256, 32), text(288, 32), text(320, 10), text(330, 8)]).toEqual([
    ...['Studio', TAGS.isrc, '2026-03-01', '12:34:56'],
  ]);
  expect(body.readUInt16LE(346)).toBe(2);
  const peak = Math.max(...measured.truePeakDbtp.map((db) => db!));
  expect([412, 414, 416, 418, 420].map((place) => body.readInt16LE(place) / 100)).toEqual(
    [measured.integratedLufs, measured.rangeLu, peak, measured.maxMomentaryLufs, measured.maxShortTermLufs].map(
      (value) => Math.round(value! * 100) / 100,
    ),
  );
  expect(text(602, length - 602)).toMatch(/^A=PCM,F=48000,W=24,M=stereo,T=core [\d.]+\r\n$/);
  const told = JSON.stringify(JSON.parse(run('mediainfo', '--Output=JSON', at('bext.wav'))));
  expect(told).toContain('bext');
});

test('an over that an encoder makes is found, where the file itself has none', async () => {
  const encodes = [{ codec: 'MP3', kbps: 96, maxDbtp: -1 }];
  // A limited mix at 0 dBFS: everything that an encoder adds goes over.
  const { left, right } = music(SECONDS, RATE, 0.3);
  const hard = (x: Float64Array) => x.map((value) => Math.max(-0.97, Math.min(0.97, value * 8)));
  writeWave(at('hot.wav'), { left: hard(left), right: hard(right) }, RATE);
  const paths = { input: at('hot.wav'), output: at('hot.flac'), scratch: at('hot.raw') };
  const order = orderWith(destinationWith({ encodes }), { sampleRate: RATE, frames: SECONDS * RATE });
  const { verdict, encodes: told } = await makeFinishedFile(order, new Map(), paths);
  const requirement = verdict.requirements.find(({ title }) => title === 'True peak in MP3 96 kb/s')!;
  expect(requirement.standing).toBe('misses');
  expect(told[0].overs).toBeGreaterThan(0);
  expect(verdict.remedies.join(' ')).toContain('Peaks grow in the encode');
  // The same encode by hand reads the same true peak on ffmpeg's meter.
  ffmpeg(['-i', at('hot.flac'), '-c:a', 'libmp3lame', '-b:a', '96k', at('hot.mp3')]);
  const { said } = ffmpeg(['-i', at('hot.mp3'), '-af', 'ebur128=peak=true:framelog=verbose', '-f', 'null', '-']);
  const peak = Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(said.slice(said.lastIndexOf('Summary:')))![1]);
  const told0 = Math.max(...told[0].truePeakDbtp.map((db) => db!));
  expect(Math.abs(peak - told0)).toBeLessThan(0.15);
});

test('a receipt prints settings in words, and letters of six scripts as far as it has them', async () => {
  const lane = parseLane({
    schema: LANE_SCHEMA,
    stages: [{ id: 'l', kind: 'limiter', settings: { inputGainDb: 2.5, ceilingDbtp: -1.2 } }],
  });
  const tags = { ...TAGS, artist: 'Łukasz Żółć', title: 'Ночь', album: '夜の音 ليل ליל' };
  const receipt = await made(
    'scripts.flac',
    { format: { name: 'FLAC', kbps: null } },
    { lane, tags, versionName: 'Νύχτα' },
  );
  const printed = async (settings: boolean) => {
    writeFileSync(at('receipt.pdf'), await receiptPdf(receipt, { settings }));
    return { text: run('pdftotext', '-layout', at('receipt.pdf'), '-'), told: run('pdfinfo', at('receipt.pdf')) };
  };
  const { text, told } = await printed(true);
  for (const name of [tags.artist, tags.title, receipt.version]) expect(text).toContain(name);
  // What no face has is said in words, with its letters.
  expect(text).toMatch(/letters of\s+another script \(U\+591C/);
  expect(text).toMatch(/Input gain 2\.5 dB, Ceiling −1\.2 dBTP/);
  expect(text).not.toMatch(/[{}]|"kind"|\d\.\d{3}Z/);
  expect(told).toMatch(/Pages:\s+2/);
  expect((await printed(false)).told).toMatch(/Pages:\s+1/);
});
