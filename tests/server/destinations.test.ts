import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { ReleaseDestination, ShelfEntry } from '@/contracts/destination';
import { READY_MADE, readyMade, STARTING_NAMES } from '@/core/deliver/ready-made';
import type { Receipt } from '@/core/deliver/receipt';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { wave } from '../support/wave';

interface Release {
  destinations: ReleaseDestination[];
  cover: { type: string } | null;
}
interface Workspace {
  track: { id: string };
  versions: { id: string }[];
  tags: Record<string, string>;
}

const RATE = 44100;
let client: Client;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-destinations-'));
  client = await newClient();
});
afterAll(() => rmSync(folder, { recursive: true }));

const shelf = async () => (await client.ask<ShelfEntry[]>('GET', '/api/destinations')).body;
const onShelf = async (name: string) => (await shelf()).find(({ settings }) => settings.name === name)!;
const releaseOf = async (id: string) => (await client.ask<Release>('GET', `/api/releases/${id}`)).body;
const take = (release: string, shelfId: string) =>
  client.ask<{ id: string }>('POST', `/api/releases/${release}/destinations`, { shelfId });

test('a shelf begins with the ready-made ones, and a release with those that it says', async () => {
  const all = await shelf();
  expect(all.map(({ settings }) => settings)).toEqual(READY_MADE);
  expect(all.filter(({ starts }) => starts).map(({ settings }) => settings.name)).toEqual(STARTING_NAMES);
  const { destinations } = await releaseOf(await client.newRelease());
  expect(destinations.map(({ settings, newer }) => [settings.name, newer])).toEqual(
    STARTING_NAMES.map((name) => [name, null]),
  );
});

test('a release keeps the values that it was given; newer ones are offered and can be taken', async () => {
  const settings = { ...readyMade('Streaming')!, name: 'Station', source: 'The station’s own list' };
  const { status, body } = await client.ask<{ id: string }>('POST', '/api/destinations', { settings, starts: true });
  expect(status).toBe(201);
  const release = await client.newRelease();
  const changed = { ...settings, truePeak: { ...settings.truePeak, maxDbtp: -2 } };
  const put = { settings: changed, starts: false };
  expect((await client.ask('PUT', `/api/destinations/${body.id}`, put)).status).toBe(204);
  const station = async () => (await releaseOf(release)).destinations.find((each) => each.settings.name === 'Station')!;
  expect(await station()).toMatchObject({ settings: { truePeak: { maxDbtp: -1 } }, newer: changed });
  const { id } = await station();
  expect((await client.ask('PUT', `/api/releases/${release}/destinations/${id}`)).status).toBe(204);
  expect(await station()).toMatchObject({ settings: changed, newer: null });
  // One that is no longer on the shelf stays with its releases, offers nothing and can be brought back.
  expect((await client.ask('DELETE', `/api/destinations/${body.id}`)).status).toBe(204);
  expect(await station()).toMatchObject({ settings: changed, newer: null });
  expect((await client.ask('PUT', `/api/releases/${release}/destinations/${id}`)).status).toBe(404);
  const restored = await client.ask('POST', '/api/removed/restored', { kind: 'destination', id: body.id });
  expect([restored.status, (await onShelf('Station')).starts]).toEqual([204, false]);
  expect((await client.ask('DELETE', `/api/releases/${release}/destinations/${id}`)).status).toBe(204);
  expect(await station()).toBeUndefined();
});

test('what cannot be is refused in words, and changes nothing', async () => {
  const before = await shelf();
  const [streaming] = before;
  const put = (change: object) =>
    client.ask('POST', '/api/destinations', { settings: { ...streaming.settings, ...change }, starts: false });
  const answers = await Promise.all([
    put({}),
    put({ name: '' }),
    put({ name: 'Loud', truePeak: { maxDbtp: 3 } }),
    put({ name: 'MP3', format: { name: 'MP3', kbps: null } }),
    put({ name: 'Named', fileNamePattern: '{colour}' }),
  ]);
  expect(answers.map(({ status, body }) => [status, body.error])).toEqual([
    [409, expect.stringContaining('already a destination named “Streaming”')],
    [422, expect.stringContaining('Give the destination a name.')],
    [422, expect.stringContaining('Enter a number from −12 to 0 dBTP.')],
    [422, expect.stringContaining('MP3 and AAC have a rate in kb/s.')],
    [422, expect.stringContaining('{colour} is not a part of a name.')],
  ]);
  const release = await client.newRelease();
  expect((await take(release, streaming.id)).body.error).toContain('already has a destination of that name');
  expect(await shelf()).toEqual(before);
});

test('a cover must be a picture of a usable size; it can be seen, replaced and taken away', async () => {
  const release = await client.newRelease();
  const picture = (name: string, size: string) => {
    ffmpeg(['-f', 'lavfi', '-i', `color=teal:s=${size}`, '-frames:v', '1', path.join(folder, name)]);
    return readFileSync(path.join(folder, name));
  };
  const send = (name: string, bytes: Uint8Array) =>
    client.ask('PUT', `/api/releases/${release}/cover?name=${name}`, bytes);
  const sound = wave(music(1, RATE), RATE);
  const answers = [
    await send('sound.png', sound),
    await send('small.png', picture('small.png', '120x120')),
    await send('movie.gif', picture('movie.gif', '320x320')),
  ];
  expect(answers.map(({ status, body }) => [status, body.error])).toEqual([
    [422, 'sound.png is not a JPEG or PNG picture. Choose another file.'],
    [422, 'small.png has 120 × 120 pixels. A cover has from 300 to 6000 on each edge.'],
    [422, 'movie.gif is not a JPEG or PNG picture. Choose another file.'],
  ]);
  expect((await releaseOf(release)).cover).toBeNull();
  const jpeg = picture('cover.jpg', '640x640');
  expect((await send('cover.jpg', jpeg)).status).toBe(204);
  expect((await releaseOf(release)).cover).toMatchObject({ type: 'image/jpeg' });
  expect((await client.bytes(`/api/releases/${release}/cover`)).equals(jpeg)).toBe(true);
  expect((await client.ask('DELETE', `/api/releases/${release}/cover`)).status).toBe(204);
  expect((await client.ask('GET', `/api/releases/${release}/cover`)).status).toBe(404);
});

test('a download has its tags and a clean AAC encode, and says so in its receipt', async () => {
  const release = await client.newRelease('Slow Orbits');
  await client.ask('PATCH', `/api/releases/${release}`, { artist: 'Ensemble', ean: '4006381333931', year: 2026 });
  ffmpeg(['-f', 'lavfi', '-i', 'color=teal:s=320x320', '-frames:v', '1', path.join(folder, 'front.png')]);
  await client.ask(
    'PUT',
    `/api/releases/${release}/cover?name=front.png`,
    readFileSync(path.join(folder, 'front.png')),
  );
  const mix = wave(music(5, RATE, 0.2), RATE);
  const { track, versions } = await client.takeIn<Workspace>(release, 'Dusk.wav', mix);
  const taken = await take(release, (await onShelf('Download')).id);
  expect(taken.status).toBe(201);
  const deliver = async () => {
    const body = { destinationId: taken.body.id, versionId: versions[0].id };
    const { id } = (await client.ask<{ id: string }>('POST', `/api/tracks/${track.id}/deliveries`, body)).body;
    const { receipt } = await until('the delivery is finished', async () => {
      const answer = await client.ask<{ status: string; receipt: Receipt }>('GET', `/api/deliveries/${id}`);
      return answer.body.status === 'finished' && answer.body;
    });
    return { id, receipt };
  };
  const standings = ({ verdict }: Receipt) =>
    Object.fromEntries(verdict.requirements.map(({ title, standing, miss }) => [title, miss || standing]));
  const before = await deliver();
  expect(standings(before.receipt)).toMatchObject({
    Tags: 'no ISRC',
    'True peak in AAC 256 kb/s': 'meets',
    Mix: 'meets',
  });
  expect((await client.ask('PATCH', `/api/tracks/${track.id}`, { isrc: 'AA-6Q7-20-00047' })).status).toBe(204);
  const { id, receipt } = await deliver();
  // A WAV carries no picture.
  expect([receipt.verdict.standing, receipt.cover]).toEqual(['meets', null]);
  expect(receipt.encodes).toMatchObject([{ codec: 'AAC', kbps: 256, overs: 0 }]);
  expect(receipt.tags).toMatchObject({ isrc: 'AA6Q72000047', barcode: '4006381333931', tracks: '1' });
  const file = path.join(folder, 'download.wav');
  writeFileSync(file, await client.bytes(`/api/deliveries/${id}/file`));
  expect(receipt.file.sha256).toBe(createHash('sha256').update(readFileSync(file)).digest('hex'));
  const { stdout } = spawnSync('mediainfo', ['--ParseSpeed=1', file], { encoding: 'utf8' });
  expect(stdout).toMatch(/ISRC\s+: AA6Q72000047/);
  expect(stdout).not.toMatch(/Cover\s+: Yes/);
  const { body } = await client.ask<Workspace>('GET', `/api/tracks/${track.id}`);
  expect(body.tags).toMatchObject({ title: 'Dusk', artist: 'Ensemble', album: 'Slow Orbits' });
});
