// A mix is decoded in pieces while it arrives: the pieces together are what ffmpeg decodes of the whole file.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { MixDecoder, type DecodesPiece } from '@/engine/sources/mix-decoder';
import { ffmpeg } from '../support/ffmpeg';

const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-decoder-'));
afterAll(() => rmSync(folder, { recursive: true }));

const pieces: number[] = [];
function decoded(file: string): [Float32Array, Float32Array] {
  const { out } = ffmpeg(['-v', 'error', '-i', file, '-f', 'f32le', '-ac', '2', '-']);
  const samples = new Float32Array(Uint8Array.from(out).buffer);
  const channel = (c: number) => Float32Array.from({ length: samples.length / 2 }, (_, i) => samples[2 * i + c]);
  return [channel(0), channel(1)];
}
const byFfmpeg: DecodesPiece = (file) => {
  const name = path.join(folder, 'piece.flac');
  writeFileSync(name, new Uint8Array(file));
  const channels = decoded(name);
  pieces.push(channels[0].length);
  return Promise.resolve(channels);
};

/** A file of noise in a codec, at a rate in Hz. */
function make(name: string, seconds: number, sampleRate: number, codec: string[]): string {
  const file = path.join(folder, name);
  const noise = (seed: number) => `anoisesrc=d=${seconds}:r=${sampleRate}:a=0.9:c=white:seed=${seed}`;
  const inputs = [1, 2].flatMap((seed) => ['-f', 'lavfi', '-i', noise(seed)]);
  ffmpeg(['-v', 'error', ...inputs, '-filter_complex', 'amerge', ...codec, file]);
  return file;
}
async function decode(bytes: Uint8Array, frames: number, sampleRate: number, step: number) {
  pieces.length = 0;
  const decoder = new MixDecoder(frames, sampleRate, byFfmpeg);
  for (let at = 0; at < bytes.length; at += step) await decoder.push(bytes.subarray(at, at + step));
  return decoder.finish();
}

const FLAC_24 = ['-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24'];
test.each([
  ['24-bit FLAC of several pieces', 'long.flac', 30, 96000, FLAC_24, 100_003, 3],
  ['16-bit FLAC of several pieces', 'cd.flac', 50, 44100, ['-c:a', 'flac', '-sample_fmt', 's16'], 65_536, 3],
  ['FLAC of less than one piece', 'short.flac', 0.5, 44100, FLAC_24, 999, 1],
  ['float WAV', 'float.wav', 3, 48000, ['-c:a', 'pcm_f32le'], 10_001, 0],
  ['float RF64', 'float.w64', 3, 48000, ['-c:a', 'pcm_f32le', '-rf64', 'always', '-f', 'wav'], 77, 0],
])('%s', async (_, name, seconds, sampleRate, codec, step, count) => {
  const file = make(name, seconds, sampleRate, codec);
  const [left, right] = decoded(file);
  const audio = await decode(readFileSync(file), left.length, sampleRate, step);
  expect(pieces).toHaveLength(count);
  expect(audio.sampleRate).toBe(sampleRate);
  expect(Buffer.from(audio.left.buffer).equals(Buffer.from(left.buffer))).toBe(true);
  expect(Buffer.from(audio.right.buffer).equals(Buffer.from(right.buffer))).toBe(true);
});

test('a file that ends early, is longer or shorter than known, or is of another kind is told in words', async () => {
  const bytes = readFileSync(make('whole.flac', 30, 44100, FLAC_24));
  const frames = 30 * 44100;
  await expect(decode(bytes.subarray(0, bytes.length / 2), frames, 44100, 65_536)).rejects.toThrow(
    'could not be decoded',
  );
  await expect(decode(bytes, frames + 1, 44100, 65_536)).rejects.toThrow('could not be decoded');
  await expect(decode(bytes, frames - 1, 44100, 65_536)).rejects.toThrow('could not be decoded');
  await expect(decode(new Uint8Array(100), frames, 44100, 65_536)).rejects.toThrow('could not be decoded');
  const mono = path.join(folder, 'mono.wav');
  ffmpeg(['-v', 'error', '-f', 'lavfi', '-i', 'anoisesrc=d=1', '-c:a', 'pcm_f32le', mono]);
  await expect(decode(readFileSync(mono), 44100, 44100, 65_536)).rejects.toThrow('not 32-bit float stereo');
});
