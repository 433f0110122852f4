// Handles moved on a phone: who may, what is kept, and how an answer and other changes of a version meet.
import type { Inbox, LinkSummary, ListeningPage } from '@/contracts/listening';
import type { HandlesPage, Proposal } from '@/contracts/proposal';
import type { TrackDetails } from '@/contracts/track';
import type { VersionState } from '@/contracts/version';
import { controlValue } from '@/core/lane/control-path';
import { LANE_SCHEMA, type Lane } from '@/core/lane/schema';
import { until } from '../support/application';
import { Client, newClient } from '../support/client';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';

let client: Client;
let release: string;
let track: TrackDetails;
let other: TrackDetails;
let address: string;
let page: HandlesPage;
const guest = new Client(process.env.TEST_URL!, { 'X-Forwarded-For': '10.78.0.1' });
const MADE = '2026-03-01T12:00:00.000Z';

const proposal = (change: object = {}) => ({
  ...{ versionId: page.versionId, step: page.step, author: 'Dana', madeAt: MADE },
  positions: { handles: { Loudness: 75, Weight: 60, Presence: 50, Width: 50 }, amountPercent: 100 },
  ...change,
});
const propose = (body: object) =>
  guest.ask<{ id: string }>('POST', `${address}/tracks/${track.track.id}/proposals`, body);
const listed = async () => (await client.ask<Proposal[]>('GET', `/api/tracks/${track.track.id}/proposals`)).body;
const decide = (id: string, body: object) => client.ask<VersionState>('POST', `/api/proposals/${id}`, body);
const gainOf = (lane: Lane) =>
  controlValue(
    lane.stages.find(({ kind }) => kind === 'limiter')!,
    'inputGainDb',
  );

async function newLink(handles: boolean): Promise<string> {
  const body = { recipient: 'Dana', handles, tracks: [{ trackId: track.track.id }] };
  const { body: made } = await client.ask<{ id: string }>('POST', `/api/releases/${release}/links`, body);
  const link = await until('the streams are rendered', async () => {
    const { body: all } = await client.ask<LinkSummary[]>('GET', `/api/releases/${release}/links`);
    return all.find(({ id, status }) => id === made.id && status === 'finished');
  });
  return link.path!.replace('/listen/', '/api/listening/');
}

beforeAll(async () => {
  client = await newClient();
  release = await client.newRelease('Slow Orbits');
  const mix = wave(both(sine(441, -20, 2, 44100)), 44100);
  track = await client.takeIn<TrackDetails>(release, 'One.wav', mix);
  other = await client.takeIn<TrackDetails>(release, 'Two.wav', mix);
  const lane = { schema: LANE_SCHEMA, stages: [{ id: 'l', kind: 'limiter', settings: { inputGainDb: 3 } }] };
  await client.ask('PUT', `/api/versions/${track.versions[0].id}/lane`, { lane, label: 'Limiter', after: 0 });
  address = await newLink(true);
  page = (await guest.ask<HandlesPage>('GET', `${address}/tracks/${track.track.id}/handles`)).body;
});

test('a link that allows it brings the handles and the mix, and no other track', async () => {
  expect(page).toMatchObject({
    title: 'One',
    release: 'Slow Orbits',
    version: 'First version',
    step: 1,
    author: 'Dana',
  });
  expect(page.lane.house?.handles.map(({ name }) => name)).toEqual(['Loudness', 'Weight', 'Presence', 'Width']);
  expect((await guest.ask<ListeningPage>('GET', address)).body.handles).toBe(true);
  const mix = await guest.bytes(`${address}/tracks/${track.track.id}/mix`);
  expect(mix.subarray(0, 4).toString()).toBe('fLaC');
  for (const at of ['handles', 'mix'])
    expect((await guest.ask('GET', `${address}/tracks/${other.track.id}/${at}`)).status).toBe(404);
  const closed = await newLink(false);
  for (const at of ['handles', 'mix']) {
    const { status, body } = await guest.ask('GET', `${closed}/tracks/${track.track.id}/${at}`);
    expect([status, body.error]).toEqual([
      403,
      'This link is for listening only. Ask whoever sent it for one with handles.',
    ]);
  }
  expect((await guest.ask('POST', `${closed}/tracks/${track.track.id}/proposals`, proposal())).status).toBe(403);
});

test('a proposal waits with author and time, and is kept once however often it is sent', async () => {
  const first = await propose(proposal());
  const again = await propose(proposal());
  expect([first.status, again.status, again.body.id]).toEqual([201, 201, first.body.id]);
  expect(await listed()).toEqual([
    expect.objectContaining({
      ...{ id: first.body.id, author: 'Dana', madeAt: MADE, version: 'First version', moved: false, decision: null },
      changes: 'Loudness 50 → 75, Weight 50 → 60',
    }),
  ]);
  // Nothing has changed of the version.
  const { body } = await client.ask<TrackDetails>('GET', `/api/tracks/${track.track.id}`);
  expect([body.versions[0].step, body.versions[0].lane.stages.length]).toEqual([1, 1]);
  const { items } = (await client.ask<Inbox>('GET', '/api/inbox')).body;
  expect(items[0]).toMatchObject({ kind: 'proposal', text: 'Loudness 50 → 75, Weight 50 → 60' });
});

test.each([
  [{ positions: { handles: { Loudness: 50 }, amountPercent: 100 } }, 422, 'Move a handle first'],
  [{ positions: { handles: { constructor: 60 }, amountPercent: 100 } }, 409, 'The handles of this version are others'],
  [{ positions: { handles: { Loudness: 101 }, amountPercent: 100 } }, 422, 'positions.handles.Loudness'],
  [{ author: ' ' }, 422, 'Enter a name.'],
  [{ madeAt: 'yesterday' }, 422, 'madeAt'],
])('a proposal with %j is refused', async (change, status, words) => {
  const answer = await propose(proposal({ madeAt: '2026-03-01T13:00:00.000Z', ...change }));
  expect(answer.status).toBe(status);
  expect(answer.body.error).toContain(words);
});

test('a proposal for a version of another track is no proposal for this one', async () => {
  const answer = await propose(proposal({ versionId: other.versions[0].id, madeAt: '2026-03-01T14:00:00.000Z' }));
  expect(answer.status).toBe(404);
});

test('taken, it is one step on the version as it is now; undone, nothing is left of it', async () => {
  const [{ id }] = await listed();
  const { id: versionId } = track.versions[0];
  // Meanwhile the version was changed in the workspace.
  const changed = { schema: LANE_SCHEMA, stages: [{ id: 'l', kind: 'limiter', settings: { inputGainDb: 5 } }] };
  await client.ask('PUT', `/api/versions/${versionId}/lane`, { lane: changed, label: 'Louder', after: 1 });
  expect((await listed())[0].moved).toBe(true);
  // A window that does not know of that can't take it.
  const blind = await decide(id, { decision: 'taken', after: 1 });
  expect([blind.status, blind.body]).toMatchObject([409, { code: 'versionChanged' }]);
  expect((await listed())[0].decision).toBeNull();
  const taken = await decide(id, { decision: 'taken', after: 2 });
  expect([taken.status, taken.body.step, taken.body.undo]).toEqual([
    ...[200, 3, 'Proposal of Dana: Loudness 50 → 75, Weight 50 → 60'],
  ]);
  // Two decibels more than what the workspace had made of it.
  expect(gainOf(taken.body.lane)).toBe(7);
  const twice = await decide(id, { decision: 'refused' });
  expect([twice.status, twice.body.error]).toEqual([
    409,
    'The proposal of Dana for “First version” was taken already. Reload the page to see what is there now.',
  ]);
  const { body: undone } = await client.ask<VersionState>('POST', `/api/versions/${versionId}/undo`, { after: 3 });
  expect(undone.lane.stages.map(({ kind }) => kind)).toEqual(['limiter']);
  expect(gainOf(undone.lane)).toBe(5);
});

test('refused, it changes nothing; of two answers at once only one counts', async () => {
  const { body: one } = await propose(proposal({ madeAt: '2026-03-01T15:00:00.000Z' }));
  expect((await decide(one.id, { decision: 'refused' })).status).toBe(204);
  const { body } = await client.ask<TrackDetails>('GET', `/api/tracks/${track.track.id}`);
  const { step } = body.versions[0];
  const { body: two } = await propose(proposal({ madeAt: '2026-03-01T16:00:00.000Z' }));
  const both = await Promise.all([1, 2].map(() => decide(two.id, { decision: 'taken', after: step })));
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
});

test('whoever is signed in proposes from a phone as well; others do not', async () => {
  const own = await client.ask<HandlesPage>('GET', `/api/tracks/${track.track.id}/handles`);
  expect(own.body.author).toBe('Test engineer');
  const body = {
    ...{ versionId: own.body.versionId, step: own.body.step, author: 'Test engineer' },
    madeAt: '2026-03-01T17:00:00.000Z',
    positions: { handles: { Width: 80 }, amountPercent: 100 },
  };
  expect((await client.ask('POST', `/api/tracks/${track.track.id}/proposals`, body)).status).toBe(201);
  expect((await listed())[0]).toMatchObject({ author: 'Test engineer', changes: 'Width 50 → 80' });
  const stranger = await newClient();
  for (const [method, path, sent] of [
    ['GET', `/api/tracks/${track.track.id}/handles`, undefined],
    ['GET', `/api/tracks/${track.track.id}/proposals`, undefined],
    ['POST', `/api/tracks/${track.track.id}/proposals`, body],
    ['POST', `/api/proposals/${(await listed())[0].id}`, { decision: 'refused' }],
  ] as const)
    expect([method, path, (await stranger.ask(method, path, sent)).status]).toEqual([method, path, 404]);
});
