import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { containerOf } from './container';
import { probe } from './probe';
import { wave } from '../../../tests/support/wave';
import { music } from '../../../tests/support/music';
import { whole } from './decode';

let folder: string;
beforeEach(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'copper-probe-'))));
afterEach(() => rmSync(folder, { recursive: true }));
const file = (bytes: Buffer) => {
  const name = path.join(folder, 'x.wav');
  writeFileSync(name, bytes);
  return name;
};
const missingBytes = async (name: string) => (await containerOf(name)).missingBytes;
const WAVE = wave(music(1, 44100), 44100);

test('a whole file misses nothing, a cut one what its header announces', async () => {
  expect(await missingBytes(file(WAVE))).toBe(0);
  expect(await missingBytes(file(WAVE.subarray(0, WAVE.length - 600)))).toBe(600);
  await expect(missingBytes(file(WAVE.subarray(0, 30)))).rejects.toMatchObject({ status: 422 });
});

test('other chunks before the sound, with odd lengths, are stepped over', async () => {
  const list = Buffer.concat([Buffer.from('LIST'), Buffer.from([5, 0, 0, 0]), Buffer.from('hello\0')]);
  const bytes = Buffer.concat([WAVE.subarray(0, 36), list, WAVE.subarray(36)]);
  bytes.writeUInt32LE(bytes.length - 8, 4);
  expect(await missingBytes(file(bytes))).toBe(0);
  expect((await probe(file(bytes))).sampleRate).toBe(44100);
});

test('a recorder that could not go back to write the length is believed', async () => {
  const bytes = Buffer.from(WAVE);
  bytes.writeUInt32LE(0xffffffff, 40);
  expect(await missingBytes(file(bytes))).toBe(0);
});

test('what a file is, by its own account', async () => {
  expect(await probe(file(WAVE))).toMatchObject({
    container: 'WAV',
    codec: 'pcm_s24le',
    sampleRate: 44100,
    channels: 2,
    bits: 24,
    float: false,
  });
  expect(await probe(file(wave(music(1, 96000), 96000, '32f')))).toMatchObject({
    bits: 32,
    float: true,
    sampleRate: 96000,
  });
  await expect(probe(file(Buffer.from('RIFF....WAVE')))).rejects.toMatchObject({ status: 422 });
});

test('a stream of bytes is cut at whole frames, wherever its chunks end', async () => {
  const bytes = Buffer.from(Array.from({ length: 70 }, (_, i) => i));
  async function* chunks() {
    for (const [from, to] of [
      [0, 3],
      [3, 21],
      [21, 22],
      [22, 70],
    ])
      yield await Promise.resolve(bytes.subarray(from, to));
  }
  const got: number[] = [];
  for await (const part of whole(chunks(), 8)) {
    expect(part.length % 8).toBe(0);
    expect(part.byteOffset % 8).toBe(0);
    got.push(...part);
  }
  expect(got).toEqual([...bytes.subarray(0, 64)]);
});
