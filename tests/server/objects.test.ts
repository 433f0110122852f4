// Releases, tracks and versions as things one names, orders, copies, files away, deletes and has back.
import { pino } from 'pino';
import { purgeRemoved } from '@/server/removed/removed';
import type { ReleaseDetail, ReleasePage } from '@/contracts/release';
import type { TrackDetails } from '@/contracts/track';
import { until } from '../support/application';
import { newClient, PASSWORD, testDatabase, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const RATE = 44100;
const MIX = wave(music(1, RATE), RATE);

let client: Client & { email: string };
beforeAll(async () => {
  client = await newClient();
});

const releaseOf = async (id: string) => (await client.ask<ReleaseDetail>('GET', `/api/releases/${id}`)).body;
const trackOf = async (id: string) => (await client.ask<TrackDetails>('GET', `/api/tracks/${id}`)).body;
const titles = async (id: string) => (await releaseOf(id)).tracks.map(({ title, position }) => `${position} ${title}`);
const restore = (kind: string, id: string) => client.ask('POST', '/api/removed/restored', { kind, id });
const removed = async () =>
  (await client.ask<{ kind: string; id: string; title: string; of: string }[]>('GET', '/api/removed')).body;

/** A release with tracks of these titles, each taken in. */
async function album(...names: string[]): Promise<{ id: string; tracks: string[] }> {
  const id = await client.newRelease('Album');
  const tracks: string[] = [];
  for (const name of names) tracks.push((await client.takeIn<TrackDetails>(id, `${name}.wav`, MIX)).track.id);
  return { id, tracks };
}

test('what a release and a track carry is kept, checked, and written into the file', async () => {
  const { id, tracks } = await album('One');
  const change = (path: string, body: object) => client.ask('PATCH', path, body);
  expect(
    (await change(`/api/releases/${id}`, { artist: 'Ensemble', year: 2026, ean: '6291041-500213', title: 'Slow' }))
      .status,
  ).toBe(204);
  expect((await change(`/api/tracks/${tracks[0]}`, { isrc: 'aa-6q7-20-00047', composer: 'A. Nobody' })).status).toBe(
    204,
  );
  expect(await releaseOf(id)).toMatchObject({ title: 'Slow', artist: 'Ensemble', year: 2026, ean: '6291041500213' });
  expect((await releaseOf(id)).tracks[0]).toMatchObject({ isrc: 'AA6Q72000047', composer: 'A. Nobody', title: 'One' });
  for (const [path, body, words] of [
    [`/api/releases/${id}`, { ean: '6291041500214' }, 'An EAN has 13 digits'],
    [`/api/releases/${id}`, { title: ' ' }, 'Give the release a title.'],
    [`/api/releases/${id}`, { account_id: id }, 'account_id'],
    [`/api/tracks/${tracks[0]}`, { isrc: 'AA' }, 'An ISRC has 12 characters'],
  ] as const) {
    const { status, body: said } = await change(path, body);
    expect([status, said.error]).toEqual([422, expect.stringContaining(words)]);
  }

  const settings = {
    fileNamePattern: '{isrc} {title} {version}',
    studio: 'Room 4',
    engineer: 'E. Sample',
  };
  expect((await client.ask('PUT', '/api/account/settings', settings)).status).toBe(204);
  const { destinations, versions } = await trackOf(tracks[0]);
  const order = { destinationId: destinations[0].id, versionId: versions[0].id };
  const { body } = await client.ask<{ id: string }>('POST', `/api/tracks/${tracks[0]}/deliveries`, order);
  const delivery = await until('the delivery is finished', async () => {
    const { body: at } = await client.ask<{ status: string; fileName: string; receipt: { by: object } }>(
      'GET',
      `/api/deliveries/${body.id}`,
    );
    return at.status === 'finished' && at;
  });
  expect(delivery.fileName).toBe('AA6Q72000047 One First version.flac');
  expect(delivery.receipt.by).toEqual({ studio: 'Room 4', engineer: 'E. Sample' });
  // FLAC keeps its tags as plain text (RFC 9639, 8.6).
  const head = (await client.bytes(`/api/deliveries/${body.id}/file`))
    .subarray(0, 4096)
    .toString('latin1')
    .toLowerCase();
  for (const tag of [
    'title=one',
    'album=slow',
    'artist=ensemble',
    'isrc=aa6q72000047',
    'composer=a. nobody',
    'date=2026',
  ])
    expect(head).toContain(tag);
  const wrong = await client.ask('PUT', '/api/account/settings', { ...settings, fileNamePattern: '{label}' });
  expect([wrong.status, wrong.body.error]).toEqual([422, expect.stringContaining('{label} is not a part of a name')]);
});

test('tracks are reordered; a list that is not theirs is refused and changes nothing', async () => {
  const { id, tracks } = await album('A', 'B', 'C');
  const order = (ids: string[]) => client.ask('PUT', `/api/releases/${id}/order`, { ids });
  expect((await order([tracks[2], tracks[0], tracks[1]])).status).toBe(204);
  expect(await titles(id)).toEqual(['1 C', '2 A', '3 B']);
  const other = await album('D');
  for (const ids of [[], tracks.slice(1), [...tracks, other.tracks[0]], [tracks[0], tracks[0], tracks[1]]])
    expect((await order(ids)).status).toBe(409);
  expect(await titles(id)).toEqual(['1 C', '2 A', '3 B']);
});

test('a deleted track leaves the list, its place closes up, and it comes back where it was', async () => {
  const { id, tracks } = await album('A', 'B', 'C');
  expect((await client.ask('DELETE', `/api/tracks/${tracks[1]}`)).status).toBe(204);
  expect(await titles(id)).toEqual(['1 A', '2 C']);
  expect((await client.ask('GET', `/api/tracks/${tracks[1]}`)).status).toBe(404);
  expect((await client.ask('DELETE', `/api/tracks/${tracks[1]}`)).status).toBe(404);
  expect(await removed()).toContainEqual(expect.objectContaining({ kind: 'track', title: 'B', of: 'Album' }));
  expect((await restore('track', tracks[1])).status).toBe(204);
  expect(await titles(id)).toEqual(['1 A', '2 B', '3 C']);
  expect((await trackOf(tracks[1])).mix?.status).toBe('ready');
  expect((await restore('track', tracks[1])).status).toBe(409);
  // When the list has become shorter meanwhile, it comes last.
  await client.ask('DELETE', `/api/tracks/${tracks[2]}`);
  await client.ask('DELETE', `/api/tracks/${tracks[0]}`);
  await restore('track', tracks[2]);
  expect(await titles(id)).toEqual(['1 B', '2 C']);
});

test('a deleted release takes everything in it out of reach, and brings all of it back', async () => {
  const { id, tracks } = await album('A');
  const { mix, versions } = await trackOf(tracks[0]);
  await client.ask('DELETE', `/api/releases/${id}`);
  for (const path of [`releases/${id}`, `tracks/${tracks[0]}`, `mixes/${mix!.id}/audio`])
    expect([path, (await client.ask('GET', `/api/${path}`)).status]).toEqual([path, 404]);
  expect((await client.ask('PUT', `/api/versions/${versions[0].id}/pins`, { pins: [] })).status).toBe(404);
  // What went with it is not listed by itself, nor can it be restored alone.
  expect((await removed()).filter((each) => [id, tracks[0]].includes(each.id))).toMatchObject([{ kind: 'release' }]);
  expect((await restore('track', tracks[0])).status).toBe(404);
  await restore('release', id);
  expect(await titles(id)).toEqual(['1 A']);
});

test('an archived release leaves the list and is found in the archive', async () => {
  const id = await client.newRelease('Old one');
  const listed = async (query: string) =>
    (await client.ask<ReleasePage>('GET', `/api/releases${query}`)).body.releases.some((each) => each.id === id);
  await client.ask('PATCH', `/api/releases/${id}`, { archived: true });
  expect([await listed(''), await listed('?archived')]).toEqual([false, true]);
  expect((await releaseOf(id)).archived).toBe(true);
  await client.ask('PATCH', `/api/releases/${id}`, { archived: false });
  expect([await listed(''), await listed('?archived')]).toEqual([true, false]);
});

test('the list says how far each release is', async () => {
  const { id } = await album('A', 'B');
  const damaged = music(1, RATE);
  damaged.left[1000] = NaN;
  await client.takeIn(id, 'damaged.wav', wave(damaged, RATE, '32f'));
  const { releases } = (await client.ask<ReleasePage>('GET', '/api/releases')).body;
  expect(releases.find((each) => each.id === id)).toMatchObject({
    tracks: 3,
    analysing: 0,
    refused: 1,
    deliveredTracks: 0,
  });
});

test('a copied track comes right after it with its mix, versions and lane, and its own history', async () => {
  const { id, tracks } = await album('A', 'B');
  const [version] = (await trackOf(tracks[0])).versions;
  const lane = { schema: 2, stages: [{ id: 'a', kind: 'trim', settings: { gainDb: -3 } }] };
  await client.ask('PUT', `/api/versions/${version.id}/lane`, { lane, label: 'Gain', after: 0 });
  await client.ask('PATCH', `/api/tracks/${tracks[0]}`, { isrc: 'AA6Q72000047', artist: 'Someone' });
  const { body } = await client.ask<{ id: string }>('POST', `/api/tracks/${tracks[0]}/copies`);
  expect(await titles(id)).toEqual(['1 A', '2 A copy', '3 B']);
  const copy = await trackOf(body.id);
  expect(copy.versions[0]).toMatchObject({ name: 'First version', step: 0, undo: null });
  expect(copy.versions[0].lane.stages[0].settings).toMatchObject({ gainDb: -3 });
  // An ISRC belongs to one recording.
  expect((await releaseOf(id)).tracks[1]).toMatchObject({ artist: 'Someone', isrc: '' });
  await client.ask('DELETE', `/api/tracks/${tracks[0]}`);
  expect((await client.bytes(`/api/mixes/${copy.mix!.id}/audio`)).length).toBeGreaterThan(1000);
});

test('a copied release has the same tracks in the same order, with the mixes that were chosen', async () => {
  const { id, tracks } = await album('A', 'B');
  const path = `/api/tracks/${tracks[0]}/mixes?name=second.wav`;
  await client.ask('POST', path, MIX);
  const { mixes } = await until('the second mix is ready', async () => {
    const track = await trackOf(tracks[0]);
    return track.mixes.every(({ status }) => status === 'ready') && track.mixes.length === 2 && track;
  });
  await client.ask('PUT', `/api/tracks/${tracks[0]}/mix`, { mixId: mixes[1].id });
  const { body } = await client.ask<{ id: string }>('POST', `/api/releases/${id}/copies`);
  const copy = await releaseOf(body.id);
  expect(copy.title).toBe('Album copy');
  expect(copy.tracks.map(({ title, mix }) => [title, mix?.number])).toEqual([
    ['A', 1],
    ['B', 1],
  ]);
  expect(copy.tracks[0].mix?.id).not.toBe(mixes[1].id);
});

test('versions are renamed, reordered, deleted and restored; the last one stays', async () => {
  const { tracks } = await album('A');
  const [first] = (await trackOf(tracks[0])).versions;
  const copy = async (name: string) =>
    (await client.ask<{ id: string }>('POST', `/api/versions/${first.id}/copies`, { name })).body.id;
  const [warm, cold] = [await copy('Warm'), await copy('Cold')];
  const names = async () => (await trackOf(tracks[0])).versions.map(({ name }) => name);
  await client.ask('PATCH', `/api/versions/${warm}`, { name: 'Warmer' });
  expect(await names()).toEqual(['First version', 'Warmer', 'Cold']);
  await client.ask('PUT', `/api/tracks/${tracks[0]}/version-order`, { ids: [cold, warm, first.id] });
  expect(await names()).toEqual(['Cold', 'Warmer', 'First version']);
  await client.ask('DELETE', `/api/versions/${warm}`);
  await client.ask('DELETE', `/api/versions/${first.id}`);
  expect(await names()).toEqual(['Cold']);
  const last = await client.ask('DELETE', `/api/versions/${cold}`);
  expect([last.status, last.body.error]).toEqual([409, 'A track needs a version. Save another one first.']);
  await restore('version', warm);
  expect(await names()).toEqual(['Cold', 'Warmer']);
  const { body } = await client.ask<{ createdAt: string }>('POST', `/api/versions/${cold}/copies`, { name: 'New' });
  expect(Date.parse(body.createdAt)).toBeGreaterThan(Date.now() - 60_000);
  expect(await names()).toEqual(['Cold', 'Warmer', 'New']);
});

test('a deleted mix can be had back; one that was never ready leaves nothing', async () => {
  const { tracks } = await album('A');
  await client.ask('POST', `/api/tracks/${tracks[0]}/mixes?name=second.wav`, MIX);
  const second = await until('the second mix is ready', async () => {
    const [mix] = (await trackOf(tracks[0])).mixes;
    return mix.number === 2 && mix.status === 'ready' && mix;
  });
  await client.ask('DELETE', `/api/mixes/${second.id}`);
  expect((await trackOf(tracks[0])).mix?.number).toBe(1);
  await restore('mix', second.id);
  expect((await trackOf(tracks[0])).mix?.number).toBe(2);
});

test('what was deleted long ago goes for good, with its deliveries; what was deleted lately stays', async () => {
  const { id, tracks } = await album('A', 'B', 'C');
  const { destinations, versions } = await trackOf(tracks[0]);
  const order = { destinationId: destinations[0].id, versionId: versions[0].id };
  const { body } = await client.ask<{ id: string }>('POST', `/api/tracks/${tracks[0]}/deliveries`, order);
  for (const track of tracks.slice(0, 2)) await client.ask('DELETE', `/api/tracks/${track}`);
  const db = testDatabase();
  await db('tracks')
    .where({ id: tracks[0] })
    .update({ removed_at: db.raw("now() - interval '31 days'") });
  await purgeRemoved(db, pino({ level: 'silent' }));
  expect(await db('tracks').whereIn('id', tracks).pluck<string[]>('title')).toEqual(expect.arrayContaining(['B', 'C']));
  expect(await db('deliveries').where({ id: body.id })).toEqual([]);
  await db('releases')
    .where({ id })
    .update({ removed_at: db.raw("now() - interval '31 days'") });
  await purgeRemoved(db, pino({ level: 'silent' }));
  expect(await db('tracks').whereIn('id', tracks)).toEqual([]);
  await db.destroy();
});

test('name and address change; the address only with the password, and not to another account’s', async () => {
  const me = await newClient();
  const change = async (body: object) => (await me.ask('PATCH', '/api/account', body)).status;
  const email = `new-${me.email}`;
  expect(await change({ name: 'New name' })).toBe(204);
  expect(await change({ email })).toBe(422);
  expect(await change({ email, password: 'wrong' })).toBe(403);
  expect(await change({ email: client.email, password: PASSWORD })).toBe(409);
  expect(await change({ email, password: PASSWORD })).toBe(204);
  const { body } = await me.ask<{ name: string; email: string }>('GET', '/api/account');
  expect(body).toMatchObject({ name: 'New name', email });
});
