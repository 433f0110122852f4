import { randomUUID } from 'node:crypto';
import { Client, newClient, PASSWORD } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const ID = randomUUID();
const LANE = { lane: { schema: 2, stages: [] }, label: 'Test', after: 0 };
const DELIVERY = { destinationId: ID, versionId: ID };

/** Every route that belongs to an account, with a body that is valid. */
const routes = (
  id: Record<'release' | 'track' | 'version' | 'mix' | 'delivery' | 'response', string>,
): [string, string, unknown?][] => [
  ['GET', `/api/releases/${id.release}`],
  ['POST', `/api/releases/${id.release}/mixes?name=x.wav`, wave(music(1, 44100), 44100)],
  ['GET', `/api/tracks/${id.track}`],
  ['DELETE', `/api/tracks/${id.track}`],
  ['POST', `/api/tracks/${id.track}/deliveries`, DELIVERY],
  ['POST', `/api/tracks/${id.track}/mixes?name=x.wav`, wave(music(1, 44100), 44100)],
  ['PUT', `/api/tracks/${id.track}/mix`, { mixId: ID }],
  ['PUT', `/api/versions/${id.version}/lane`, LANE],
  ['POST', `/api/versions/${id.version}/undo`],
  ['POST', `/api/versions/${id.version}/redo`],
  ['POST', `/api/versions/${id.version}/copies`, { name: 'Copy' }],
  ['PUT', `/api/versions/${id.version}/pins`, { pins: [] }],
  ['GET', `/api/mixes/${id.mix}/audio`],
  ['DELETE', `/api/mixes/${id.mix}`],
  ['GET', `/api/deliveries/${id.delivery}`],
  ['DELETE', `/api/deliveries/${id.delivery}`],
  ['GET', `/api/deliveries/${id.delivery}/file`],
  ['GET', `/api/deliveries/${id.delivery}/receipt`],
  ['GET', `/api/responses/${id.response}/audio?rate=44100`],
  ['DELETE', `/api/responses/${id.response}`],
];
const nothing = { release: ID, track: ID, version: ID, mix: ID, delivery: ID, response: ID };

test('nobody who is not signed in gets anything', async () => {
  const stranger = new Client(process.env.TEST_URL!);
  const all: [string, string, unknown?][] = [
    ...routes(nothing),
    ['GET', '/api/releases'],
    ['POST', '/api/releases', { title: 'x' }],
    ['GET', '/api/responses'],
    ['POST', '/api/responses?name=x.wav', wave(music(1, 44100), 44100)],
  ];
  for (const [method, path, body] of all) {
    const answer = await stranger.ask(method, path, body);
    expect([method, path, answer.status]).toEqual([method, path, 401]);
    expect(answer.body.error).toMatch(/Sign in/);
  }
  for (const page of ['/', `/releases/${ID}`, `/tracks/${ID}`, `/deliveries/${ID}`]) {
    const { status, headers } = await fetch(process.env.TEST_URL + page, { redirect: 'manual' });
    expect([status, headers.get('location')]).toEqual([307, '/sign-in']);
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
  const { body: response } = await owner.ask<{ id: string }>('POST', '/api/responses?name=x.wav', wave(room, 44100));

  const other = await newClient();
  const mine = {
    release,
    track: track.id,
    version: versions[0].id,
    mix: mix.id,
    delivery: delivery.id,
    response: response.id,
  };
  for (const ids of [mine, nothing]) {
    for (const [method, path, body] of routes(ids)) {
      const answer = await other.ask(method, path, body);
      expect([method, path, answer.status]).toEqual([method, path, 404]);
    }
  }
  expect((await other.ask<unknown[]>('GET', '/api/releases')).body).toEqual([]);
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
    headers: { cookie: client.cookie },
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
  client.cookie = kept.slice(0, -6) + 'AAAAAA';
  expect((await client.ask('GET', '/api/releases')).status).toBe(401);
});

test('a wrong password is refused, and too many of them are held up', async () => {
  const { email } = await newClient();
  const client = new Client(process.env.TEST_URL!);
  const attempt = (password: string) => client.ask('POST', '/api/session', { email, password });
  expect((await attempt('wrong')).status).toBe(401);
  const unknown = await client.ask('POST', '/api/session', { email: 'nobody@example.com', password: 'wrong' });
  expect(unknown.body.error).toBe((await attempt('wrong')).body.error);
  let last = 401;
  for (let i = 0; i < 12 && last === 401; i++) last = (await attempt('wrong')).status;
  expect(last).toBe(429);
  expect((await attempt(PASSWORD)).status).toBe(429);
});

test('health tells that database, store and ffmpeg work', async () => {
  const { status, body } = await new Client(process.env.TEST_URL!).ask('GET', '/api/health');
  expect(status).toBe(200);
  expect(body).toMatchObject({ database: true, store: true, ffmpeg: true });
});

test('the sign-in page offers the demo only while its data is present', async () => {
  expect(await (await fetch(`${process.env.TEST_URL}/sign-in`)).text()).not.toContain('Open the demo');
});
