import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { ReleaseDetail, ReleasePage } from '@/contracts/release';
import type { TrackDetails } from '@/contracts/track';
import { newClient, type Client } from '../support/client';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';

let client: Client;
const ids: Record<string, string> = {};
beforeAll(async () => {
  client = await newClient();
  for (const [title, artist] of [
    ['Umbra', 'Vesper'],
    ['aurora', 'Zenith'],
    ['100 % _Light_', 'Zenith'],
    ['Meridian', 'anode'],
  ]) {
    const { body } = await client.ask<{ id: string }>('POST', '/api/releases', { title, artist });
    ids[title] = body.id;
  }
});

const found = async (query: Record<string, string>) => {
  const { body } = await client.ask<ReleasePage>('GET', `/api/releases?${new URLSearchParams(query).toString()}`);
  return body.releases.map(({ title }) => title);
};

test.each([
  [{ order: 'title' }, ['100 % _Light_', 'aurora', 'Meridian', 'Umbra']],
  [{ order: 'artist' }, ['Meridian', 'Umbra', 'aurora', '100 % _Light_']],
  [{ order: 'oldest' }, ['Umbra', 'aurora', '100 % _Light_', 'Meridian']],
  [{ search: 'zenith', order: 'oldest' }, ['aurora', '100 % _Light_']],
  [{ search: 'URO' }, ['aurora']],
  // Signs that have a meaning in patterns are only signs.
  [{ search: '% _' }, ['100 % _Light_']],
  [{ search: '%' }, ['100 % _Light_']],
  [{ search: '\\' }, []],
  [{ search: "'; drop table releases; --" }, []],
])('releases by %j', async (query, titles) => {
  const list = await found(query);
  // Equal artists are told apart by their identifiers.
  if ('order' in query && query.order === 'artist') expect(new Set(list.slice(2))).toEqual(new Set(titles.slice(2)));
  else expect(list).toEqual(titles);
});

test.each(['order=constructor', `search=${'x'.repeat(101)}`, 'after=x', 'other=x'])(
  'a list by %s is refused',
  async (query) => {
    expect((await client.ask('GET', `/api/releases?${query}`)).status).toBe(422);
  },
);

test.each([
  ['kohler', 'Köhler'],
  ['KÖHLER', 'Köhler'],
  ['lukasz', 'Łukasz'],
  ['smørrebrød', 'Smørrebrød'],
])('%s finds %s', async (search, title) => {
  const other = await newClient();
  for (const each of ['Köhler', 'Łukasz', 'Smørrebrød']) await other.ask('POST', '/api/releases', { title: each });
  const { body } = await other.ask<ReleasePage>('GET', `/api/releases?search=${encodeURIComponent(search)}`);
  expect(body.releases.map((release) => release.title)).toEqual([title]);
});

test('pages follow each other in every order without a gap or a repeat', async () => {
  const other = await newClient();
  for (let i = 0; i < 103; i++)
    await other.ask('POST', '/api/releases', { title: `Release ${i % 7}`, artist: `Artist ${i % 3}` });
  for (const order of ['newest', 'oldest', 'title', 'artist']) {
    const seen: string[] = [];
    let after: string | null = null;
    do {
      const query: string = after === null ? '' : `&after=${after}`;
      const { body } = await other.ask<ReleasePage>('GET', `/api/releases?order=${order}${query}`);
      seen.push(...body.releases.map(({ id }) => id));
      after = body.next;
    } while (after);
    expect([order, seen.length, new Set(seen).size]).toEqual([order, 103, 103]);
  }
});

test('a track is found by its title and code, moves to another release with all it has, and the others close up', async () => {
  const [from, to] = [ids.Umbra, ids.aurora];
  const mix = wave(both(sine(441, -12, 1, 44100)), 44100);
  const first = await client.takeIn<TrackDetails>(from, 'Penumbra.wav', mix);
  const second = await client.takeIn<TrackDetails>(from, 'Corona.wav', mix);
  await client.ask('PATCH', `/api/tracks/${first.track.id}`, { isrc: 'AA-6Q7-26-00047' });
  expect(await found({ search: 'penum' })).toEqual(['Umbra']);
  expect(await found({ search: 'AA-6Q7-26-00047' })).toEqual(['Umbra']);
  const move = (releaseId: string) => client.ask('PUT', `/api/tracks/${first.track.id}/release`, { releaseId });
  expect((await move(to)).status).toBe(204);
  const detail = async (id: string) => (await client.ask<ReleaseDetail>('GET', `/api/releases/${id}`)).body;
  expect((await detail(from)).tracks.map(({ id, position }) => [id, position])).toEqual([[second.track.id, 1]]);
  expect((await detail(to)).tracks.map(({ id, position, mix: own }) => [id, position, own?.status])).toEqual([
    [first.track.id, 1, 'ready'],
  ]);
  expect(await found({ search: 'penum' })).toEqual(['aurora']);
  const again = await move(to);
  expect([again.status, again.body.error]).toEqual([409, 'The track is in that release already.']);
  const stranger = await newClient();
  const { body: theirs } = await stranger.ask<{ id: string }>('POST', '/api/releases', { title: 'Theirs' });
  expect((await move(theirs.id)).status).toBe(404);
});

test('what intake found comes as text and as PDF for the client', async () => {
  const clipped = sine(441, 6, 2, 44100).map((x) => (x > 0.99999 ? 0.99999 : x < -1 ? -1 : x));
  const { mix } = await client.takeIn<TrackDetails>(ids.Meridian, 'hot.wav', wave(both(clipped), 44100));
  const text = (await client.bytes(`/api/mixes/${mix!.id}/report?form=txt`)).toString();
  expect(text).toMatch(/^What we found in mix 1 of “hot”\nhot\.wav, from Meridian\n/);
  expect(text).toMatch(/- Fault, Clipped: /);
  expect(text).toMatch(/Integrated: −\d\.\d LUFS|Integrated: \d\.\d LUFS/);
  expect(text).toContain('Format: 44.1 kHz, 24-bit');
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-finding-'));
  try {
    const file = path.join(folder, 'report.pdf');
    writeFileSync(file, await client.bytes(`/api/mixes/${mix!.id}/report?form=pdf`));
    const printed = spawnSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).stdout;
    expect(printed).toContain('What we found in mix 1 of “hot”');
    expect(printed).toMatch(/Fault\s+Clipped/);
  } finally {
    rmSync(folder, { recursive: true });
  }
  const wrong = await client.ask('GET', `/api/mixes/${mix!.id}/report?form=constructor`);
  expect([wrong.status, wrong.body.error]).toEqual([422, 'An intake report comes as txt or pdf.']);
});
