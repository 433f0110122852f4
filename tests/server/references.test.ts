import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Reference } from '@/contracts/reference';
import { THIRD_OCTAVES_HZ } from '@/core/measure/balance';
import { waveDataStart } from '@/engine/sources/float-wave';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { ebur128, ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { both, silence } from '../support/signals';
import { wave } from '../support/wave';

const RATE = 44100;
let client: Client;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-references-'));
  client = await newClient();
  writeFileSync(path.join(folder, 'piece.wav'), wave(music(6, RATE), RATE));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** The piece in another form, as a file's bytes. */
function encoded(name: string, args: string[]): Buffer {
  const file = path.join(folder, name);
  ffmpeg(['-i', path.join(folder, 'piece.wav'), ...args, file]);
  return readFileSync(file);
}
const send = (name: string, bytes: Uint8Array) =>
  client.ask<Reference>('POST', `/api/references?name=${encodeURIComponent(name)}`, bytes);
const list = async () => (await client.ask<Reference[]>('GET', '/api/references')).body;
const ids = async () => (await list()).map(({ id }) => id);
const measured = (id: string) =>
  until('the reference is measured', async () => {
    const found = (await list()).find((each) => each.id === id);
    return found && ['ready', 'refused'].includes(found.status) && found;
  });

test.each([
  ['Piece.mp3', ['-c:a', 'libmp3lame', '-b:a', '256k'], 'MP3'],
  ['Piece.aac', ['-c:a', 'aac', '-b:a', '256k'], 'AAC'],
  ['Piece.m4a', ['-c:a', 'aac', '-b:a', '256k'], 'MP4'],
  ['Piece.opus', ['-c:a', 'libopus', '-b:a', '192k'], 'Ogg'],
  ['Piece.ac3', ['-c:a', 'ac3', '-b:a', '448k'], 'AC-3'],
  ['Piece.wma', ['-c:a', 'wmav2', '-b:a', '256k'], 'ASF'],
  ['Piece.webm', ['-c:a', 'libvorbis', '-b:a', '256k'], 'Matroska'],
  ['Piece.flac', ['-c:a', 'flac'], 'FLAC'],
] as const)('%s is a reference, with the loudness that ffmpeg measures of it', async (name, args, container) => {
  const bytes = encoded(name, [...args]);
  const { status, body } = await send(name, bytes);
  expect([status, body.title, body.source.container]).toEqual([201, 'Piece', container]);
  const { report, refusal } = await measured(body.id);
  expect(refusal).toBeNull();
  const { integrated, range } = ebur128(path.join(folder, name));
  expect(Math.abs(report!.integratedLufs! - integrated)).toBeLessThan(0.11);
  expect(Math.abs(report!.rangeLu - range)).toBeLessThan(0.5);
  expect(report!.balance).toHaveLength(THIRD_OCTAVES_HZ.length);
  // At whatever rate it is heard.
  const audio = await client.bytes(`/api/references/${body.id}/audio?rate=48000`);
  const frames = (audio.length - waveDataStart(audio)!) / 8;
  expect(frames).toBe(Math.round((report!.frames * 48000) / report!.sampleRate));
});

test('a reference is renamed, taken off the shelf and put back', async () => {
  const { body } = await send('Other.flac', encoded('Other.flac', ['-c:a', 'flac']));
  expect((await client.ask('PATCH', `/api/references/${body.id}`, { title: 'Known record' })).status).toBe(204);
  expect((await list()).find(({ id }) => id === body.id)?.title).toBe('Known record');
  const { status, body: refused } = await client.ask('PATCH', `/api/references/${body.id}`, { title: ' ' });
  expect([status, refused.error]).toEqual([422, 'title: Give the reference a title.']);
  expect((await client.ask('DELETE', `/api/references/${body.id}`)).status).toBe(204);
  expect((await list()).some(({ id }) => id === body.id)).toBe(false);
  const gone = { kind: 'reference', id: body.id };
  expect((await client.ask<object[]>('GET', '/api/removed')).body).toContainEqual(
    expect.objectContaining({ ...gone, title: 'Known record' }),
  );
  expect((await client.ask('POST', '/api/removed/restored', gone)).status).toBe(204);
  expect((await list()).some(({ id }) => id === body.id)).toBe(true);
});

test.each([
  ['nothing', new Uint8Array(0), /is empty/],
  ['text.mp3', Buffer.from('This is no sound at all, although it is named like one.'), /not a readable audio file/],
  ['broken.mp3', Buffer.concat([Buffer.from('ID3'), Buffer.alloc(4000, 7)]), /not a readable audio file|no audio/],
])('%s is refused in words, and nothing is kept', async (name, bytes, words) => {
  const before = await ids();
  const { status, body } = await send(name, bytes);
  expect([status, (body as { error?: string }).error]).toEqual([422, expect.stringMatching(words)]);
  expect(await ids()).toEqual(before);
});

test('silence is refused once it was measured, and says why', async () => {
  const { body } = await send('Silent.wav', wave(both(silence(2, RATE)), RATE));
  expect((await measured(body.id)).refusal).toBe(
    'The file is silent, or too quiet to be compared with. Choose another one.',
  );
  const { status } = await client.ask('GET', `/api/references/${body.id}/audio?rate=${RATE}`);
  expect(status).toBe(409);
});
