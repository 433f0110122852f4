// Lossy encodes, held against ffmpeg's own decoder and meter, and lined up to the sample.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { CODECS, encodeSampleRate, type Encode } from '@/core/deliver/encode';
import { floatWave } from '@/server/codecs/decode';
import { encodeFile } from '@/server/codecs/encode';
import { checkEncode, checkEncodes, measureProgramme } from '@/server/encodes/encode-check';
import { waveDataStart } from '@/engine/sources/float-wave';
import { ebur128, ffmpegSamples } from '../support/ffmpeg';
import { music } from '../support/music';
import { writeWave } from '../support/wave';

const SECONDS = 4;
let folder: string;
const at = (name: string) => path.join(folder, name);
beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'copper-encodes-'))));
afterAll(() => rmSync(folder, { recursive: true }));

function sourceAt(sampleRate: number) {
  const file = at(`${sampleRate}.wav`);
  writeWave(file, music(SECONDS, sampleRate, 0.3), sampleRate);
  return { path: file, sampleRate, frames: SECONDS * sampleRate };
}

async function aligned(encode: string, frames: number, rate: number, storedRate: number, lateFrames: number) {
  const chunks: Uint8Array[] = [];
  const options = { frames, rate, resampled: rate !== storedRate, accepts: 'lossy' as const, lateFrames };
  for await (const chunk of floatWave(encode, options)) chunks.push(chunk);
  const bytes = Buffer.concat(chunks);
  return new Float32Array(Uint8Array.from(bytes.subarray(waveDataStart(bytes)!)).buffer);
}

/** Energy of what differs when the second signal is so many frames later, against that of the first. */
function difference(one: Float32Array, other: Float32Array, frames: number): number {
  let [error, energy] = [0, 0];
  for (let i = 2 * 4800; i < one.length - 2 * 4800; i += 2) {
    error += (one[i] - other[i + 2 * frames]) ** 2;
    energy += one[i] ** 2;
  }
  return error / energy;
}

test.each(CODECS.flatMap((codec) => [44100, 96000].map((rate) => [codec, rate] as const)))(
  '%s of %d Hz is in time with its source to the sample, and measured as ffmpeg measures it',
  async (codec, rate) => {
    const source = sourceAt(rate);
    const target = at(`${codec}-${rate}.encode`);
    const { loudestSeconds } = await measureProgramme(source.path, rate, source.frames);
    const encode: Encode = { codec, kbps: 256 };
    const checked = await checkEncode(source, encode, target, loudestSeconds);
    expect(checked.sampleRate).toBe(encodeSampleRate(codec, rate));
    const reference = ebur128(target);
    expect(Math.abs(checked.figures.integratedLufs - reference.integrated)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(Math.max(...checked.figures.truePeaksDbtp) - reference.truePeak)).toBeLessThanOrEqual(0.15);
    const original = ffmpegSamples(readFileSync(source.path));
    const heard = await aligned(target, source.frames, rate, checked.sampleRate, checked.delayFrames);
    expect(heard).toHaveLength(original.length);
    const errors = [-2, -1, 0, 1, 2].map((frames) => difference(original, heard, frames));
    expect(errors.indexOf(Math.min(...errors))).toBe(2);
    expect(errors[2]).toBeLessThan(0.05);
  },
);

test('an encode of a file that is a few frames late is found late by as many', async () => {
  const rate = 44100;
  const source = sourceAt(rate);
  const { left, right } = music(SECONDS, rate, 0.3);
  const late = (x: Float64Array) => Float64Array.from(x, (_, i) => x[i - 37] ?? 0);
  writeWave(at('late.wav'), { left: late(left), right: late(right) }, rate);
  const { loudestSeconds } = await measureProgramme(source.path, rate, source.frames);
  const own = await checkEncode(source, { codec: 'AAC', kbps: 256 }, at('own.m4a'), loudestSeconds);
  const spy = at('late.m4a');
  await encodeFile({ path: at('late.wav'), sampleRate: rate }, { codec: 'AAC', kbps: 256 }, spy);
  const heard = await aligned(spy, source.frames, rate, rate, own.delayFrames + 37);
  const original = ffmpegSamples(readFileSync(source.path));
  const errors = [-1, 0, 1].map((frames) => difference(original, heard, frames));
  expect(errors.indexOf(Math.min(...errors))).toBe(1);
});

test('several encodes of one file are checked in turn, lower rates with higher peaks, and none is kept', async () => {
  const source = sourceAt(48000);
  const encodes: Encode[] = [
    { codec: 'MP3', kbps: 320 },
    { codec: 'MP3', kbps: 96 },
  ];
  const shares: number[] = [];
  const [high, low] = await checkEncodes(source, encodes, at('scratch'), 1.5, (share) => shares.push(share));
  expect(shares).toEqual([0.5, 1]);
  expect(Math.abs(high.figures.integratedLufs - low.figures.integratedLufs)).toBeLessThan(0.5);
  expect(() => rmSync(at('scratch'))).toThrow('no such file');
});
