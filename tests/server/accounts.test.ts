import { randomUUID } from 'node:crypto';
import { Client, newClient, PASSWORD } from '../support/client';
import { READY_MADE } from '@/core/deliver/ready-made';
import { HOUSE_LANES } from '@/core/house/ready-made';
import { music } from '../support/music';
import { wave } from '../support/wave';

const ID = randomUUID();
const LANE = { lane: { schema: 2, stages: [] }, label: 'Test', after: 0 };
const BLIND = { kind: 'tell', names: ['a', 'b'], trials: 2, startSeconds: 0, sampleRate: 44100, frames: 44100 };
const PROPOSAL = {
  ...{ versionId: ID, step: 0, author: 'x', madeAt: '2026-01-01T00:00:00Z' },
  positions: { handles: { Weight: 60 }, amountPercent: 100 },
};
const DELIVERY = { destinationId: ID, versionId: ID };

/** Every route that belongs to an account, with a body that is valid. */
const routes = (
  id: Record<
    | 'release'
    | 'track'
    | 'version'
    | 'mix'
    | 'delivery'
    | 'response'
    | 'note'
    | 'reference'
    | 'blind'
    | 'shelf'
    | 'houseLane'
    | 'image'
    | 'link'
    | 'proposal',
    string
  >,
): [string, string, unknown?][] => [
  ['GET', `/api/releases/${id.release}`],
  ['PATCH', `/api/releases/${id.release}`, { title: 'Other' }],
  ['DELETE', `/api/releases/${id.release}`],
  ['PUT', `/api/releases/${id.release}/order`, { ids: [] }],
  ['POST', `/api/releases/${id.release}/copies`],
  ['POST', `/api/releases/${id.release}/mixes?name=x.wav`, wave(music(1, 44100), 44100)],
  ['GET', `/api/tracks/${id.track}`],
  ['PATCH', `/api/tracks/${id.track}`, { title: 'Other' }],
  ['DELETE', `/api/tracks/${id.track}`],
  ['POST', `/api/tracks/${id.track}/copies`],
  ['PUT', `/api/tracks/${id.track}/release`, { releaseId: id.release }],
  ['PUT', `/api/tracks/${id.track}/version-order`, { ids: [] }],
  ['POST', `/api/tracks/${id.track}/deliveries`, DELIVERY],
  ['POST', `/api/tracks/${id.track}/mixes?name=x.wav`, wave(music(1, 44100), 44100)],
  ['PUT', `/api/tracks/${id.track}/mix`, { mixId: ID }],
  ['PUT', `/api/tracks/${id.track}/candidates`, { candidates: [] }],
  ['POST', `/api/tracks/${id.track}/notes`, { kind: 'wish', startSeconds: 1, endSeconds: null, text: 'x' }],
  ['PATCH', `/api/notes/${id.note}`, { text: 'x' }],
  ['DELETE', `/api/notes/${id.note}`],
  ['PATCH', `/api/versions/${id.version}`, { name: 'Other' }],
  ['DELETE', `/api/versions/${id.version}`],
  ['POST', '/api/removed/restored', { kind: 'track', id: id.track }],
  ['PUT', `/api/versions/${id.version}/lane`, LANE],
  ['GET', `/api/versions/${id.version}/steps`],
  ['POST', `/api/versions/${id.version}/undo`, { after: 0 }],
  ['POST', `/api/versions/${id.version}/redo`, { after: 0 }],
  ['POST', `/api/versions/${id.version}/copies`, { name: 'Copy' }],
  ['PUT', `/api/versions/${id.version}/pins`, { pins: [] }],
  ['GET', `/api/mixes/${id.mix}/audio`],
  ['GET', `/api/mixes/${id.mix}/audio?rate=48000`],
  ['DELETE', `/api/mixes/${id.mix}`],
  ['GET', `/api/mixes/${id.mix}/report?form=pdf`],
  ['GET', `/api/deliveries/${id.delivery}`],
  ['DELETE', `/api/deliveries/${id.delivery}`],
  ['GET', `/api/deliveries/${id.delivery}/file`],
  ['GET', `/api/deliveries/${id.delivery}/audio?rate=48000`],
  ['GET', `/api/deliveries/${id.delivery}/receipt`],
  ['POST', `/api/deliveries/${id.delivery}/retry`],
  ['POST', `/api/deliveries/${id.delivery}/desk`],
  ['PUT', `/api/versions/${id.version}/adjustments/${ID}`, { levelDb: 0, driveDb: 0 }],
  ['POST', `/api/versions/${id.version}/passage-encodes`, { encodes: [{ codec: 'AAC', kbps: 256 }] }],
  ['GET', `/api/impulses/${id.response}/audio?rate=44100`],
  ['DELETE', `/api/impulses/${id.response}`],
  ['GET', `/api/tracks/${id.track}/blind-tests`],
  ['POST', `/api/tracks/${id.track}/blind-tests`, BLIND],
  ['GET', `/api/blind-tests/${id.blind}`],
  ['DELETE', `/api/blind-tests/${id.blind}`],
  ['GET', `/api/blind-tests/${id.blind}/sounds?trial=0&letter=X`],
  ['PUT', `/api/blind-tests/${id.blind}/sounds?position=0`, new Uint8Array(8)],
  ['POST', `/api/blind-tests/${id.blind}/begin`],
  ['POST', `/api/blind-tests/${id.blind}/answers`, { trial: 0, answer: { choice: 0 } }],
  ['GET', `/api/references/${id.reference}/audio?rate=44100`],
  ['PATCH', `/api/references/${id.reference}`, { title: 'Other' }],
  ['DELETE', `/api/references/${id.reference}`],
  ['GET', `/api/versions/${id.version}/encodes`],
  ['POST', `/api/versions/${id.version}/encodes`, { codec: 'AAC', kbps: 256 }],
  ['GET', `/api/encodes/${ID}/audio?rate=44100`],
  ['DELETE', `/api/encodes/${ID}`],
  ['GET', `/api/releases/${id.release}/package`],
  ['PUT', `/api/destinations/${id.shelf}`, { settings: READY_MADE[0], starts: true }],
  ['DELETE', `/api/destinations/${id.shelf}`],
  ['PUT', `/api/house-lanes/${id.houseLane}`, HOUSE_LANES[0]],
  ['DELETE', `/api/house-lanes/${id.houseLane}`],
  ['GET', `/api/releases/${id.release}/images`],
  ['POST', `/api/releases/${id.release}/images`, { destinationId: ID }],
  ['GET', `/api/images/${id.image}/file`],
  ['GET', `/api/images/${id.image}/sheet?form=cue`],
  ['DELETE', `/api/images/${id.image}`],
  ['GET', `/api/releases/${id.release}/links`],
  ['POST', `/api/releases/${id.release}/links`, { recipient: 'x', tracks: [{ trackId: id.track }] }],
  ['PATCH', `/api/links/${id.link}`, { revoked: true }],
  ['GET', `/api/tracks/${id.track}/handles`],
  ['GET', `/api/tracks/${id.track}/proposals`],
  ['POST', `/api/tracks/${id.track}/proposals`, PROPOSAL],
  ['POST', `/api/proposals/${id.proposal}`, { decision: 'refused' }],
  ['DELETE', `/api/links/${id.link}`],
  ['GET', `/api/releases/${id.release}/joints/${id.track}`],
  ['POST', `/api/releases/${id.release}/levels`, { trims: [{ versionId: id.version, after: 0, trimDb: -1 }] }],
  ['DELETE', `/api/releases/${id.release}/levels`, { steps: [{ versionId: id.version, step: 1 }] }],
  ['POST', `/api/releases/${id.release}/destinations`, { shelfId: ID }],
  ['PUT', `/api/releases/${id.release}/destinations/${ID}`],
  ['DELETE', `/api/releases/${id.release}/destinations/${ID}`],
  ['GET', `/api/releases/${id.release}/cover`],
  ['PUT', `/api/releases/${id.release}/cover?name=x.png`, new Uint8Array(8)],
  ['DELETE', `/api/releases/${id.release}/cover`],
];
const nothing = {
  release: ID,
  track: ID,
  version: ID,
  mix: ID,
  delivery: ID,
  response: ID,
  note: ID,
  reference: ID,
  shelf: ID,
  houseLane: ID,
  image: ID,
  link: ID,
  proposal: ID,
  blind: ID,
};

test('nobody who is not signed in gets anything', async () => {
  const stranger = new Client(process.env.TEST_URL!);
  const all: [string, string, unknown?][] = [
    ...routes(nothing),
    ['GET', '/api/releases'],
    ['POST', '/api/releases', { title: 'x' }],
    ['GET', '/api/impulses'],
    ['GET', '/api/references'],
    ['GET', '/api/destinations'],
    ['POST', '/api/destinations', { settings: READY_MADE[0], starts: true }],
    ['GET', '/api/house-lanes'],
    ['POST', '/api/house-lanes', HOUSE_LANES[0]],
    ['GET', '/api/drafts'],
    ['POST', '/api/drafts', { wishes: {}, needed: [] }],
    ['PUT', '/api/drafts', { leans: true }],
    ['DELETE', '/api/drafts'],
    ['POST', '/api/references?name=x.wav', wave(music(1, 44100), 44100)],
    ['GET', '/api/inbox'],
    ['POST', '/api/inbox', { until: '2026-01-01T00:00:00Z' }],
    ['GET', '/api/removed'],
    ['PATCH', '/api/account', { name: 'x' }],
    ['PUT', '/api/account/settings', {}],
    ['POST', '/api/impulses?name=x.wav', wave(music(1, 44100), 44100)],
    ['POST', '/api/desk?slip=x', wave(music(1, 44100), 44100)],
  ];
  for (const [method, path, body] of all) {
    const answer = await stranger.ask(method, path, body);
    expect([method, path, answer.status]).toEqual([method, path, 401]);
    expect(answer.body.error).toMatch(/Sign in/);
  }
  for (const page of ['/', '/settings', `/releases/${ID}`, `/tracks/${ID}`, `/deliveries/${ID}`]) {
    const { status, headers } = await fetch(process.env.TEST_URL + page, { redirect: 'manual' });
    expect([status, headers.get('location')]).toEqual([307, `/sign-in?next=${encodeURIComponent(page)}`]);
  }
});

test('another owner’s identifiers answer 404 everywhere, and change nothing', async () => {
  const owner = await newClient();
  const release = await owner.newRelease();
  const { track, mix, versions, destinations } = await owner.takeIn<{
    track: { id: string };
    mix: { id: string };
    versions: { id: string }[];
    destinations: { id: string }[];
  }>(release, 'mine.wav', wave(music(1, 44100), 44100));
  const order = { destinationId: destinations[0].id, versionId: versions[0].id };
  const { body: delivery } = await owner.ask<{ id: string }>('POST', `/api/tracks/${track.id}/deliveries`, order);

  const room = music(1, 44100);
  const { body: response } = await owner.ask<{ id: string }>('POST', '/api/impulses?name=x.wav', wave(room, 44100));

  const { body: reference } = await owner.ask<{ id: string }>('POST', '/api/references?name=x.wav', wave(room, 44100));
  const words = { kind: 'wish', startSeconds: 0.5, endSeconds: null, text: 'louder' };
  const { body: note } = await owner.ask<{ id: string }>('POST', `/api/tracks/${track.id}/notes`, words);

  const { body: blind } = await owner.ask<{ id: string }>('POST', `/api/tracks/${track.id}/blind-tests`, BLIND);

  const [shelf] = (await owner.ask<{ id: string }[]>('GET', '/api/destinations')).body;

  const { body: houseLane } = await owner.ask<{ id: string }>('POST', '/api/house-lanes', HOUSE_LANES[0]);

  const { body: image } = await owner.ask<{ id: string }>('POST', `/api/releases/${release}/images`, {
    destinationId: destinations[0].id,
  });

  const { body: link } = await owner.ask<{ id: string }>('POST', `/api/releases/${release}/links`, {
    recipient: 'Dana',
    tracks: [{ trackId: track.id }],
  });

  const { body: proposal } = await owner.ask<{ id: string }>('POST', `/api/tracks/${track.id}/proposals`, {
    ...PROPOSAL,
    versionId: versions[0].id,
  });

  const other = await newClient();
  const mine = {
    release,
    track: track.id,
    version: versions[0].id,
    mix: mix.id,
    delivery: delivery.id,
    response: response.id,
    note: note.id,
    reference: reference.id,
    shelf: shelf.id,
    houseLane: houseLane.id,
    image: image.id,
    link: link.id,
    proposal: proposal.id,
    blind: blind.id,
  };
  for (const ids of [mine, nothing]) {
    for (const [method, path, body] of routes(ids)) {
      const answer = await other.ask(method, path, body);
      expect([method, path, answer.status]).toEqual([method, path, 404]);
    }
  }
  expect((await other.ask('GET', '/api/releases')).body).toEqual({ releases: [], next: null });
  expect((await owner.ask('GET', `/api/tracks/${track.id}`)).status).toBe(200);
  // One's own track does not take another's version or destination.
  const foreign = await other.newRelease();
  const own = await other.takeIn<{ track: { id: string }; versions: { id: string }[]; destinations: { id: string }[] }>(
    foreign,
    'own.wav',
    wave(music(1, 44100), 44100),
  );
  for (const mixed of [
    { destinationId: destinations[0].id, versionId: own.versions[0].id },
    { destinationId: own.destinations[0].id, versionId: versions[0].id },
  ]) {
    expect((await other.ask('POST', `/api/tracks/${own.track.id}/deliveries`, mixed)).status).toBe(404);
  }
});

test('an identifier that is none answers 404, a body that is none 400, a wrong one 422 with words', async () => {
  const client = await newClient();
  expect((await client.ask('GET', '/api/tracks/7')).status).toBe(404);
  const broken = await fetch(`${client.url}/api/releases`, {
    method: 'POST',
    headers: { cookie: client.cookie, 'Content-Type': 'application/json' },
    body: '{',
  });
  expect(broken.status).toBe(400);
  const { status, body } = await client.ask('POST', '/api/releases', { title: ' ' });
  expect([status, body.error]).toEqual([422, 'title: Give the release a title.']);
});

test('signing out ends the session; a forged cookie is worth nothing', async () => {
  const client = await newClient();
  expect((await client.ask('GET', '/api/releases')).status).toBe(200);
  const kept = client.cookie;
  await client.ask('DELETE', '/api/session');
  expect((await client.ask('GET', '/api/releases')).status).toBe(401);
  // A copy of the cookie has ended with the session.
  client.cookie = kept;
  expect((await client.ask('GET', '/api/releases')).status).toBe(401);
  client.cookie = kept.replace(/copper_lane=(.{20}).{6}/, 'copper_lane=$1AAAAAA');
  expect((await client.ask('GET', '/api/releases')).status).toBe(401);
});

/** Someone at another address, as a proxy in front tells. */
const from = (address: string) => new Client(process.env.TEST_URL!, { 'X-Forwarded-For': `10.9.9.9, ${address}` });

test('too many wrong passwords are held up by address; the owner is not locked out', async () => {
  const owner = await newClient();
  const email = owner.email;
  const stranger = from('192.0.2.1');
  const attempt = (client: Client, password: string) => client.ask('POST', '/api/session', { email, password });
  const unknown = await stranger.ask('POST', '/api/session', { email: 'nobody@example.com', password: 'wrong' });
  const first = await attempt(stranger, 'wrong');
  expect([first.status, first.body.error]).toEqual([401, unknown.body.error]);
  // All at once: each is counted before its password is looked at.
  const burst = await Promise.all(Array.from({ length: 12 }, () => attempt(stranger, 'wrong')));
  expect(burst.filter(({ status }) => status === 401)).toHaveLength(9);
  const held = await attempt(stranger, PASSWORD);
  expect(held.status).toBe(429);
  expect(Number(held.headers.get('retry-after'))).toBeGreaterThan(60);
  // From elsewhere, and with a browser that knows the account even after many more tries by strangers.
  expect((await attempt(from('192.0.2.2'), PASSWORD)).status).toBe(200);
  for (let i = 3; i < 11; i++)
    await Promise.all(Array.from({ length: 8 }, () => attempt(from(`192.0.2.${i}`), 'wrong')));
  expect((await attempt(from('192.0.2.50'), PASSWORD)).status).toBe(429);
  expect((await attempt(owner, PASSWORD)).status).toBe(200);
});

test('nobody tries one password on many accounts', async () => {
  const stranger = from('192.0.2.99');
  const answers: number[] = [];
  for (let i = 0; i < 40; i++)
    answers.push(
      (await stranger.ask('POST', '/api/session', { email: `someone${i}@example.com`, password: 'wrong' })).status,
    );
  expect(answers.filter((status) => status === 401)).toHaveLength(30);
  expect(answers.at(-1)).toBe(429);
});

test('a flood of sign-ins is bounded, and everyone else is served meanwhile', async () => {
  const client = await newClient();
  const flood = Array.from({ length: 60 }, (_, i) =>
    from(`198.51.100.${i}`).ask('POST', '/api/session', { email: `flood${i}@example.com`, password: 'wrong' }),
  );
  expect((await client.ask('GET', '/api/releases')).status).toBe(200);
  const statuses = (await Promise.all(flood)).map(({ status }) => status);
  // Those that would have to wait for long are told to come again.
  expect(statuses.filter((status) => status !== 401 && status !== 503)).toEqual([]);
  const healths = await Promise.all(Array.from({ length: 50 }, () => client.ask('GET', '/api/health')));
  expect(healths.every(({ status }) => status === 200)).toBe(true);
});

test('whoever is signed in can’t guess passwords either', async () => {
  const guesser = await newClient();
  const change = (password: string) =>
    guesser.ask('PUT', '/api/account/password', { password, newPassword: 'a new long password' });
  const statuses: number[] = [];
  for (let i = 0; i < 9; i++) statuses.push((await change(`guess ${i}`)).status);
  expect(new Set(statuses)).toEqual(new Set([403]));
  expect((await change(PASSWORD)).status).toBe(204);
  expect((await change('guess 10')).status).toBe(403);
  expect((await change('guess 11')).status).toBe(429);
  // Deleting the account asks for the same password, and is held up with it.
  expect((await guesser.ask('DELETE', '/api/account', { password: 'a new long password' })).status).toBe(429);
});

test('the password can be changed, which ends other sessions; so can all sessions, and the account', async () => {
  const here = await newClient();
  const there = new Client(here.url);
  const enter = (password: string) => there.ask('POST', '/api/session', { email: here.email, password });
  await enter(PASSWORD);
  const change = (password: string, newPassword: string) =>
    here.ask('PUT', '/api/account/password', { password, newPassword });
  expect((await change('wrong', 'a new long password')).status).toBe(403);
  expect((await change(PASSWORD, 'short')).status).toBe(422);
  expect((await change(PASSWORD, 'a new long password')).status).toBe(204);
  expect((await there.ask('GET', '/api/releases')).status).toBe(401);
  expect((await enter(PASSWORD)).status).toBe(401);
  expect((await enter('a new long password')).status).toBe(200);
  const { body } = await here.ask<{ sessions: { current: boolean }[] }>('GET', '/api/account');
  expect(body.sessions.map(({ current }) => current).sort()).toEqual([false, true]);
  expect((await here.ask('DELETE', '/api/account/sessions')).status).toBe(204);
  expect((await there.ask('GET', '/api/releases')).status).toBe(401);
  await here.newRelease();
  expect((await here.ask('DELETE', '/api/account', { password: 'wrong' })).status).toBe(403);
  expect((await here.ask('DELETE', '/api/account', { password: 'a new long password' })).status).toBe(204);
  expect((await here.ask('GET', '/api/releases')).status).toBe(401);
  expect((await enter('a new long password')).status).toBe(401);
});

test('the first account can be made once; there are accounts here already', async () => {
  const account = { email: 'late@example.com', name: 'Late', password: 'a long enough password' };
  await newClient();
  expect((await new Client(process.env.TEST_URL!).ask('POST', '/api/account/first', account)).status).toBe(403);
});

test.each([
  [{ origin: 'https://elsewhere.example' }],
  [{ origin: 'null' }],
  [{ 'sec-fetch-site': 'cross-site' }],
  [{ 'sec-fetch-site': 'same-site' }],
])('another site cannot send anything: %p', async (headers) => {
  const client = await newClient();
  const send = (method: string, path: string, body: unknown) =>
    fetch(client.url + path, {
      method,
      headers: { cookie: client.cookie, 'Content-Type': 'application/json', ...headers } as Record<string, string>,
      body: JSON.stringify(body),
    });
  expect((await send('POST', '/api/releases', { title: 'x' })).status).toBe(403);
  expect((await send('POST', '/api/session', { email: client.email, password: PASSWORD })).status).toBe(403);
  expect((await send('DELETE', '/api/session', {})).status).toBe(403);
  expect((await client.ask('GET', '/api/releases')).body).toEqual({ releases: [], next: null });
});

test('a form of another type than JSON is refused, pages allow scripts by nonce only, answers stay out of caches', async () => {
  const client = await newClient();
  const text = await fetch(`${client.url}/api/releases`, {
    method: 'POST',
    headers: { cookie: client.cookie, 'Content-Type': 'text/plain' },
    body: '{"title":"x"}',
  });
  expect(text.status).toBe(415);
  const { headers } = await client.ask('GET', '/api/releases');
  expect(headers.get('cache-control')).toBe('no-store');
  const page = await fetch(`${client.url}/sign-in`);
  const policy = page.headers.get('content-security-policy')!;
  const nonce = /'nonce-([^']+)'/.exec(policy)![1];
  const scripts = /script-src[^;]*/.exec(policy)![0];
  expect(scripts).not.toContain('unsafe-inline');
  const html = await page.text();
  for (const [tag] of html.matchAll(/<script[^>]*>/g)) expect(tag).toContain(`nonce="${nonce}"`);
  const again = await fetch(`${client.url}/sign-in`);
  expect(again.headers.get('content-security-policy')).not.toContain(nonce);
  expect(page.headers.get('permissions-policy')).toContain('camera=()');
});

test('health tells that database, store, ffmpeg and worker work', async () => {
  const { status, body } = await new Client(process.env.TEST_URL!).ask('GET', '/api/health');
  expect(status).toBe(200);
  expect(body).toEqual({ database: true, store: true, ffmpeg: true, worker: true });
});

test('the sign-in page offers the demo only while its data is present', async () => {
  expect(await (await fetch(`${process.env.TEST_URL}/sign-in`)).text()).not.toContain('Open the demo');
});
