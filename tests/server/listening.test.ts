// Listening links: who may open them and for how long, what is heard, and what comes back.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Inbox, LinkSummary, ListeningPage, PreferenceTest } from '@/contracts/listening';
import type { ReleaseDetail, ReleasePage } from '@/contracts/release';
import type { TrackDetails } from '@/contracts/track';
import { LANE_SCHEMA } from '@/core/lane/schema';
import { until } from '../support/application';
import { Client, newClient, testDatabase } from '../support/client';
import { ebur128, ffmpeg, ffmpegSamples } from '../support/ffmpeg';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';

const RATE = 44100;
const STREAM_RATE = 48000;
let client: Client;
let release: string;
let folder: string;
const tracks: TrackDetails[] = [];
let link: LinkSummary;
let address: string;
const db = testDatabase();
let visitors = 0;
/** Somebody with a browser of their own, at an address of their own. */
const visitor = () => new Client(process.env.TEST_URL!, { 'X-Forwarded-For': `10.77.0.${++visitors}` });
const guest = visitor();

const links = async () => (await client.ask<LinkSummary[]>('GET', `/api/releases/${release}/links`)).body;
const pathOf = ({ path: page }: LinkSummary) => page!.replace('/listen/', '/api/listening/');
const finished = (id: string) =>
  until('the streams are rendered', async () => {
    const found = (await links()).find((each) => each.id === id);
    if (found?.status === 'failed') throw new Error(found.problem ?? 'It failed.');
    return found?.status === 'finished' && found;
  });
async function newLink(more: object = {}): Promise<LinkSummary> {
  const body = { recipient: 'Dana', tracks: tracks.map(({ track }) => ({ trackId: track.id })), ...more };
  const made = await client.ask<{ id: string }>('POST', `/api/releases/${release}/links`, body);
  expect([made.status, made.body.error]).toEqual([201, undefined]);
  return (await links()).find(({ id }) => id === made.body.id)!;
}
const page = async (at = address) => (await guest.ask<ListeningPage>('GET', at)).body;
interface Edited {
  edges?: object;
  stages?: object[];
}
const edit = (index: number, gainDb: number, after: number, { edges, stages = [] as object[] } = {} as Edited) => {
  const lane = { schema: LANE_SCHEMA, stages: [{ id: 't', kind: 'trim', settings: { gainDb } }, ...stages], edges };
  const { id } = tracks[index].versions[0];
  return client.ask('PUT', `/api/versions/${id}/lane`, { lane, label: 'Trim', after });
};
const status = async () =>
  (await client.ask<ReleasePage>('GET', '/api/releases')).body.releases.find(({ id }) => id === release)!.status;
const detail = async () => (await client.ask<ReleaseDetail>('GET', `/api/releases/${release}`)).body;

beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-listening-'));
  client = await newClient();
  release = await client.newRelease('Slow Orbits');
  expect(await status()).toBe('waiting');
  for (const [name, level] of [
    ['One', -20],
    ['Two', -26],
  ] as const)
    tracks.push(await client.takeIn<TrackDetails>(release, `${name}.wav`, wave(both(sine(441, level, 4, RATE)), RATE)));
  expect(await status()).toBe('working');
  // The first begins half a second into its mix; the second follows to the sample.
  // Its master has harmonics that its mix lacks.
  const clipper = { id: 'c', kind: 'clipper', settings: { ceilingDbfs: -15 } };
  await edit(0, 6, 0, { edges: { startSeconds: 0.5 }, stages: [clipper] });
  await client.ask('PATCH', `/api/tracks/${tracks[1].track.id}`, { joint: { kind: 'gap', discFrames: 0 } });
  const preference = { trackId: tracks[0].track.id, between: ['mix', 'master'], trials: 4 };
  link = await finished((await newLink({ lossless: true, download: true, preference })).id);
  address = pathOf(link);
});
afterAll(async () => {
  rmSync(folder, { recursive: true });
  await db.destroy();
});

/** A stream as the guest gets it, decoded to mono floats at its own rate, and the file. */
async function stream(source: string, codec: string): Promise<{ file: string; samples: Float32Array }> {
  const file = path.join(folder, `${source}.${codec}`);
  writeFileSync(file, await guest.bytes(`${address}/streams/${source}/${codec}`));
  const { out } = ffmpeg(['-i', file, '-af', 'pan=mono|c0=c0', '-f', 'f32le', '-ar', String(STREAM_RATE), '-']);
  return { file, samples: new Float32Array(Uint8Array.from(out).buffer) };
}

test('the programme is one stream without a gap, its tracks where the page says', async () => {
  const { tracks: heard, release: title, engineer, recipient, sources } = await page();
  expect([title, engineer, recipient, sources]).toEqual(['Slow Orbits', 'Test engineer', 'Dana', ['mix', 'master']]);
  expect(heard.map(({ startSeconds, endSeconds }) => [startSeconds, endSeconds])).toEqual([
    [0, 3.5],
    [3.5, 7.5],
  ]);
  const { samples } = await stream('master', 'flac');
  // To the sample, and to the end of the last frame of a disc.
  expect(Math.abs(samples.length - 7.5 * STREAM_RATE)).toBeLessThan(STREAM_RATE / 75 + 1);
  const joint = 3.5 * STREAM_RATE;
  const peak = (from: number, to: number) => samples.subarray(from, to).reduce((most, x) => (x > most ? x : most), 0);
  // A period of 441 Hz has 109 samples at 48 kHz: in every such window there is a crest.
  for (let at = joint - 1000; at < joint - 120; at += 110) expect(peak(at, at + 110)).toBeCloseTo(0.2, 1);
  for (let at = joint + 120; at < joint + 1000; at += 110) expect(peak(at, at + 110)).toBeCloseTo(0.05, 2);
  expect(heard[0].outline).toHaveLength(160);
});

test.each(['opus', 'aac'])('mix and master are equally loud in %s, track by track', async (codec) => {
  for (const [source] of [['mix'], ['master']]) await stream(source, codec);
  const loudness = (source: string, from: number) => {
    const cut = path.join(folder, 'cut.wav');
    ffmpeg(['-ss', String(from), '-t', '3', '-i', path.join(folder, `${source}.${codec}`), '-f', 'wav', cut]);
    return ebur128(cut).integrated;
  };
  for (const from of [0.2, 4])
    expect(Math.abs(loudness('mix', from) - loudness('master', from))).toBeLessThanOrEqual(0.1);
});

test('a stream is sought by Range, with its index in front', async () => {
  const at = `${address}/streams/master/opus`;
  const whole = await guest.bytes(at);
  const part = await fetch(guest.url + at, { headers: { Range: 'bytes=1000-1999' } });
  expect([part.status, part.headers.get('content-range')]).toEqual([206, `bytes 1000-1999/${whole.length}`]);
  expect(Buffer.from(await part.arrayBuffer()).equals(whole.subarray(1000, 2000))).toBe(true);
  // Matroska: Cues (1C53BB6B) before the first Cluster (1F43B675). MP4: moov before mdat.
  const index = (bytes: Buffer, mark: string) => bytes.indexOf(Buffer.from(mark, 'hex'));
  expect(index(whole, '1c53bb6b')).toBeGreaterThan(0);
  expect(index(whole, '1c53bb6b')).toBeLessThan(index(whole, '1f43b675'));
  const aac = await guest.bytes(`${address}/streams/master/aac`);
  expect(aac.indexOf('moov')).toBeLessThan(aac.indexOf('mdat'));
});

test('each master can be saved where the link allows it: 24 bits, at its own level, to the sample', async () => {
  const answer = await fetch(`${guest.url}${address}/tracks/${tracks[0].track.id}/file`);
  expect(answer.headers.get('content-disposition')).toContain('01 One.flac');
  const file = path.join(folder, 'saved.flac');
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
  const { said } = ffmpeg(['-i', file, '-af', 'astats=metadata=0', '-f', 'null', '-']);
  expect(said).toMatch(/flac, 48000 Hz, stereo, s32 \(24 bit\)/);
  expect(Number(/Number of samples: (\d+)/.exec(said)?.[1])).toBe(3.5 * STREAM_RATE);
  expect(Number(/Peak level dB: (-?[\d.]+)/.exec(said)?.[1])).toBeCloseTo(-15, 1);
  const closed = await newLink();
  const at = pathOf(closed);
  await finished(closed.id);
  const refused = await guest.ask('GET', `${at}/tracks/${tracks[0].track.id}/file`);
  expect([refused.status, refused.body.error]).toEqual([
    403,
    'This link is for listening only. Ask whoever sent it for files.',
  ]);
  expect((await guest.ask('GET', `${at}/streams/master/flac`)).status).toBe(404);
  await client.ask('DELETE', `/api/links/${closed.id}`);
  expect((await guest.ask('GET', at)).status).toBe(410);
  expect((await links()).some(({ id }) => id === closed.id)).toBe(false);
  // Undone, it works again under its address.
  await client.ask('POST', '/api/removed/restored', { kind: 'link', id: closed.id });
  expect((await guest.ask('GET', at)).status).toBe(200);
  await client.ask('DELETE', `/api/links/${closed.id}`);
});

test('a link has an address that nobody guesses; guesses are held up', async () => {
  const secret = link.path!.slice('/listen/'.length);
  expect(secret).toMatch(/^[\w-]{32}$/);
  expect((await db('listening_links').where({ id: link.id }).first<object>()) as unknown).not.toMatchObject({
    sealed_token: expect.stringContaining(secret) as unknown,
  });
  const guesser = visitor();
  const answers: number[] = [];
  for (let i = 0; i < 22; i++)
    answers.push((await guesser.ask('GET', `/api/listening/${'x'.repeat(31)}${i % 10}`)).status);
  expect(answers).toEqual([...new Array<number>(20).fill(404), 429, 429]);
  const { headers, body } = await guesser.ask('GET', '/api/listening/x');
  expect(Number(headers.get('retry-after'))).toBeGreaterThan(0);
  expect(body.error).toMatch(/^Too many wrong addresses or passphrases\. Wait \d+ minutes and try again\.$/);
  // Others at the same address of the network are not locked out, and nobody elsewhere is held up.
  expect((await guesser.ask('GET', address)).status).toBe(200);
  expect((await visitor().ask('GET', '/api/listening/x')).status).toBe(404);
  expect((await fetch(`${guest.url}/listen/x`)).status).toBe(404);
});

test('a link ends when it expires or is revoked, and opens again; nothing is heard meanwhile', async () => {
  const change = (body: object) => client.ask('PATCH', `/api/links/${link.id}`, body);
  const answers = async () => {
    const all = [address, `${address}/streams/master/opus`, `${address}/tracks/${tracks[0].track.id}/file`];
    return Promise.all(all.map(async (at) => (await fetch(guest.url + at)).status));
  };
  await change({ revoked: true });
  expect(await answers()).toEqual([410, 410, 410]);
  const { body } = await guest.ask('GET', address);
  expect(body.error).toBe('This listening link has ended. Ask whoever sent it for a new one.');
  expect(await (await fetch(guest.url + link.path)).text()).toContain('This link has ended');
  await change({ revoked: false });
  expect(await answers()).toEqual([200, 200, 200]);
  await db('listening_links')
    .where({ id: link.id })
    .update({ expires_at: new Date(Date.now() - 1000) });
  expect(await answers()).toEqual([410, 410, 410]);
  expect((await change({ expiresAt: new Date(Date.now() - 1000).toISOString() })).status).toBe(422);
  expect((await change({ expiresAt: new Date(Date.now() + 60_000).toISOString() })).status).toBe(204);
  expect(await answers()).toEqual([200, 200, 200]);
  await change({ expiresAt: null });
});

test('a passphrase opens its link in this browser, and no other; wrong ones are held up', async () => {
  const { id } = await newLink({ passphrase: 'north star' });
  const at = pathOf(await finished(id));
  const one = visitor();
  const enter = (who: Client, passphrase: string, where = at) => who.ask('POST', `${where}/passphrase`, { passphrase });
  const locked = await one.ask<{ code: string }>('GET', at);
  expect([locked.status, locked.body.code]).toEqual([401, 'passphrase']);
  expect((await fetch(`${one.url}${at}/streams/master/opus`)).status).toBe(401);
  expect((await enter(one, 'south star')).status).toBe(401);
  expect((await enter(one, 'north star')).status).toBe(204);
  expect((await one.ask('GET', at)).status).toBe(200);
  expect((await visitor().ask('GET', at)).status).toBe(401);
  const guesser = visitor();
  for (let i = 0; i < 20; i++) await enter(guesser, `guess ${i}`);
  expect((await enter(guesser, 'north star')).status).toBe(429);
  // From many places at once the link itself is held up; who has opened it goes on.
  const crowd = await Promise.all(
    Array.from({ length: 60 }, (_, i) => enter(visitor(), `guess ${i}`).then(({ status: each }) => each)),
  );
  expect(crowd).toContain(429);
  expect((await enter(visitor(), 'north star')).status).toBe(429);
  expect((await one.ask('GET', at)).status).toBe(200);
  // The cookie of this link opens no other one.
  const second = pathOf(await finished((await newLink({ passphrase: 'north star' })).id));
  expect((await one.ask('GET', second)).status).toBe(401);
});

test('links reach nothing of other releases and other accounts', async () => {
  const foreign = await client.newRelease('Another');
  const other = await client.takeIn<TrackDetails>(foreign, 'Other.wav', wave(both(sine(441, -20, 1, RATE)), RATE));
  const elsewhere = { trackId: other.track.id };
  const make = (body: object) => client.ask('POST', `/api/releases/${release}/links`, { recipient: 'Dana', ...body });
  expect((await make({ tracks: [elsewhere] })).status).toBe(404);
  const [own] = tracks;
  const versionId = other.versions[0].id;
  expect((await make({ tracks: [{ trackId: own.track.id, versionId }] })).status).toBe(404);
  expect((await make({ tracks: [] })).status).toBe(422);
  const test = { trackId: own.track.id, between: ['master', 'other'], trials: 4 };
  expect((await make({ tracks: [{ trackId: own.track.id }], preference: test })).status).toBe(422);
  const note = { ...elsewhere, seconds: 1, text: 'louder', author: 'Dana' };
  expect((await guest.ask('POST', `${address}/notes`, note)).status).toBe(404);
  const approval = { trackIds: [other.track.id], approved: true, author: 'Dana' };
  expect((await guest.ask('PUT', `${address}/approvals`, approval)).status).toBe(404);
  // A note of the engineer can't be taken back by a guest, and a session is no link.
  const { body: mine } = await client.ask<{ id: string }>('POST', `/api/tracks/${own.track.id}/notes`, {
    ...{ kind: 'wish', startSeconds: 1, endSeconds: null, text: 'mine' },
  });
  expect((await guest.ask('DELETE', `${address}/notes/${mine.id}`)).status).toBe(404);
  expect((await page()).notes).toEqual([]);
  for (const at of ['streams/master/constructor', 'streams/__proto__/opus', 'streams/other/opus'])
    expect((await guest.ask('GET', `${address}/${at}`)).status).toBe(404);
});

test('notes stand at their place in the track, whatever its edges; visits are counted', async () => {
  await guest.ask('POST', `${address}/visits`);
  const [one] = tracks;
  const note = { trackId: one.track.id, seconds: 1, text: 'voice too sharp', author: 'Dana' };
  const { body: added } = await guest.ask<{ id: string }>('POST', `${address}/notes`, note);
  const second = { ...note, seconds: 1000, text: 'end', author: 'Kim' };
  const { body: last } = await guest.ask<{ id: string }>('POST', `${address}/notes`, second);
  // Heard at 1 s, which is 1.5 s of its mix; nothing lies after the end.
  const { notes } = (await client.ask<TrackDetails>('GET', `/api/tracks/${one.track.id}`)).body;
  expect(
    notes.filter(({ author }) => author).map(({ author, startSeconds, text }) => [author, startSeconds, text]),
  ).toEqual([
    ['Dana', 1.5, 'voice too sharp'],
    ['Kim', 4, 'end'],
  ]);
  expect((await page()).notes).toEqual([
    { id: added.id, ...note },
    { id: last.id, ...second, seconds: 3.5 },
  ]);
  expect((await guest.ask('DELETE', `${address}/notes/${last.id}`)).status).toBe(204);
  expect((await guest.ask('POST', `${address}/notes`, { ...note, text: ' ' })).status).toBe(422);
  expect((await links()).find(({ id }) => id === link.id)).toMatchObject({ visits: 1 });
});

test('approvals reach the release and its status, as long as nothing was changed', async () => {
  expect(await status()).toBe('client');
  const ids = tracks.map(({ track }) => track.id);
  const approve = (trackIds: string[], approved: boolean) =>
    guest.ask('PUT', `${address}/approvals`, { trackIds, approved, author: 'Dana' });
  expect((await approve([ids[0]], true)).status).toBe(204);
  expect([(await page()).approved, await status()]).toEqual([[ids[0]], 'client']);
  await approve(ids, true);
  expect(await status()).toBe('approved');
  expect((await client.ask<ReleasePage>('GET', '/api/releases?status=approved')).body.releases).toHaveLength(1);
  await approve([ids[1]], false);
  expect([(await page()).approved, await status()]).toEqual([[ids[0]], 'client']);
  await approve(ids, true);
  const approvals = async () => (await detail()).tracks.map(({ approval }) => [approval?.author, approval?.current]);
  expect(await approvals()).toEqual([
    ['Dana', true],
    ['Dana', true],
  ]);
  await edit(1, -1, 0);
  expect(await status()).toBe('client');
  expect(await approvals()).toEqual([
    ['Dana', true],
    ['Dana', false],
  ]);
  // What counts is the version that the track is released with.
  const { body: copy } = await client.ask<{ id: string }>('POST', `/api/versions/${tracks[1].versions[0].id}/copies`, {
    name: 'Softer',
  });
  await client.ask('POST', `/api/versions/${tracks[1].versions[0].id}/undo`, { after: 1 });
  expect(await status()).toBe('approved');
  await client.ask('PATCH', `/api/tracks/${ids[1]}`, { chosenVersionId: copy.id });
  expect([await status(), (await approvals())[1]]).toEqual(['client', ['Dana', false]]);
  await client.ask('PATCH', `/api/tracks/${ids[1]}`, { chosenVersionId: null });
  await client.ask('DELETE', `/api/versions/${copy.id}`);
  await client.ask('POST', `/api/versions/${tracks[1].versions[0].id}/redo`, { after: 0 });
  // The page still plays, and approves, what it was made of.
  expect((await page()).approved).toEqual(ids);
});

test('updating renders the versions as they are now under the same address; approvals are asked for again', async () => {
  const before = await page();
  await client.ask('PATCH', `/api/links/${link.id}`, { update: true });
  // What was there is heard until the new streams are.
  expect((await page()).tracks).toHaveLength(2);
  await until('the new streams are there', async () => (await page()).edition !== before.edition);
  const after = await page();
  expect(after.approved).toEqual([tracks[0].track.id]);
  const files = await db('listening_files').where({ link_id: link.id }).pluck<string[]>('codec');
  expect(files.sort()).toEqual(['aac', 'aac', 'flac', 'flac', 'flac', 'flac', 'flac', 'opus', 'opus']);
});

test('a deleted track ends the link at once, and brings it back when it is restored', async () => {
  const { id } = tracks[0].track;
  const paths = ['', `/tracks/${id}/file`, `/streams/master/opus`].map((path) => address + path);
  const statuses = () => Promise.all(paths.map(async (path) => (await fetch(guest.url + path)).status));
  const kept = await fetch(guest.url + paths[1]);
  await kept.body?.cancel();
  expect(kept.headers.get('cache-control')).toContain('no-store');
  expect((await client.ask('DELETE', `/api/tracks/${id}`)).status).toBe(204);
  expect(await statuses()).toEqual([410, 410, 410]);
  const note = { trackId: id, seconds: 1, text: 'still there?', author: 'Dana' };
  expect((await guest.ask('POST', `${address}/notes`, note)).status).toBe(410);
  expect(
    (await guest.ask('PUT', `${address}/approvals`, { trackIds: [id], approved: true, author: 'Dana' })).status,
  ).toBe(410);
  expect((await client.ask('POST', '/api/removed/restored', { kind: 'track', id })).status).toBe(204);
  expect(await statuses()).toEqual([200, 200, 200]);
});

test('a link gets another address, and the old one ends', async () => {
  const before = address;
  expect((await client.ask('PATCH', `/api/links/${link.id}`, { newAddress: true })).status).toBe(204);
  address = pathOf((await links()).find(({ id }) => id === link.id)!);
  expect(address).not.toBe(before);
  expect([(await guest.ask('GET', before)).status, (await guest.ask('GET', address)).status]).toEqual([404, 200]);
  // As after a restore to a server with another secret.
  await db('listening_links').where({ id: link.id }).update({ sealed_token: 'sealed by another' });
  expect((await links()).find(({ id }) => id === link.id)!.path).toBeNull();
  expect((await guest.ask('GET', address)).status).toBe(200);
});

test('the blind test tells nothing before its end, and its result comes to the inbox', async () => {
  const start = await guest.ask<PreferenceTest>('POST', `${address}/preference`, { author: 'Dana' });
  const { testId } = start.body;
  expect(start.body).toEqual({ trackId: tracks[0].track.id, trials: 4, testId, answered: 0, result: null });
  const at = `${address}/preference/${testId}`;
  const { assignment } = await db('preference_tests').where({ id: testId }).first<{ assignment: number[] }>();
  /** Whether an encode has the third harmonic of the tone. */
  const clipped = (bytes: Buffer) => {
    const samples = ffmpegSamples(bytes).filter((_, i) => i % 2 === 0);
    const at = (hz: number) => {
      let [re, im] = [0, 0];
      for (const [i, x] of samples.slice(STREAM_RATE / 2, STREAM_RATE * 1.5).entries()) {
        re += x * Math.cos((2 * Math.PI * hz * i) / STREAM_RATE);
        im += x * Math.sin((2 * Math.PI * hz * i) / STREAM_RATE);
      }
      return Math.hypot(re, im);
    };
    return at(1323) > 0.01 * at(441);
  };
  const seen = new Set<string>();
  for (let trial = 0; trial < 4; trial++) {
    const audio = (letter: string) => `${at}/audio?trial=${trial}&letter=${letter}&codec=opus`;
    const [a, b] = [await guest.bytes(audio('A')), await guest.bytes(audio('B'))];
    const first = assignment[trial] === 0 ? 'mix' : 'master';
    expect([clipped(a), clipped(b)]).toEqual([first === 'master', first === 'mix']);
    // Neither the length nor the bytes of another trial tell which it is.
    expect(a.length).toBe(b.length);
    for (const bytes of [a, b]) seen.add(bytes.toString('base64'));
    expect(seen.size).toBe(2 * (trial + 1));
    const answered = await fetch(guest.url + audio('A'));
    expect([answered.headers.get('etag'), answered.headers.get('cache-control')]).toEqual([null, 'private, no-store']);
    const inAac = (letter: string) => guest.bytes(audio(letter).replace('opus', 'aac'));
    const [aInAac, bInAac] = [await inAac('A'), await inAac('B')];
    expect(aInAac.length).toBe(bInAac.length);
    expect([clipped(aInAac), clipped(bInAac)]).toEqual([first === 'master', first === 'mix']);
    // Always the master.
    const letter = first === 'master' ? 'A' : 'B';
    const answer = await guest.ask<PreferenceTest>('POST', `${at}/answers`, { trial, letter });
    expect(answer.body.answered).toBe(trial + 1);
    if (trial < 3) expect(answer.body.result).toBeNull();
    expect((await guest.ask('POST', `${at}/answers`, { trial, letter })).status).toBe(409);
    expect((await guest.ask('GET', audio('A'))).status).toBe(409);
  }
  const said = 'Chose the master in 4 of 4 trials, the mix in 0. This may well be chance.';
  expect((await page()).preference?.result).toBe(said);

  const { body: inbox } = await client.ask<Inbox>('GET', '/api/inbox');
  expect(inbox.items.map(({ kind, author, track, text, seconds }) => [kind, author, track, text, seconds])).toEqual([
    ['preference', 'Dana', 'One', said, null],
    // Both at once.
    ['approval', 'Dana', expect.any(String), '', null],
    ['approval', 'Dana', expect.any(String), '', null],
    ['note', 'Dana', 'One', 'voice too sharp', 1.5],
  ]);
  expect(inbox.unseen).toBe(4);
  // Seen up to the approvals: what comes later stays new.
  await client.ask('POST', '/api/inbox', { until: inbox.items[1].at });
  expect((await client.ask<Inbox>('GET', '/api/inbox')).body.unseen).toBe(1);
  const stranger = await newClient();
  await stranger.ask('POST', '/api/inbox', { until: inbox.items[0].at });
  expect((await stranger.ask<Inbox>('GET', '/api/inbox')).body.items).toEqual([]);
  expect((await client.ask<Inbox>('GET', '/api/inbox')).body.unseen).toBe(1);

  // What was said stays when the link is deleted.
  await client.ask('DELETE', `/api/links/${link.id}`);
  expect((await client.ask<Inbox>('GET', '/api/inbox')).body.items).toHaveLength(4);
  expect((await detail()).tracks[0].approval).toMatchObject({ author: 'Dana', current: true });
});
