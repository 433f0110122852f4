import type { DraftHabits } from '@/contracts/draft';
import type { KeptHouseLane } from '@/contracts/house-lane';
import { LANE_SCHEMA } from '@/core/lane/schema';
import { HOUSE_LANES } from '@/core/house/ready-made';
import { newClient, type Client } from '../support/client';

let client: Client;
beforeAll(async () => {
  client = await newClient();
});

const kept = async () => (await client.ask<KeptHouseLane[]>('GET', '/api/house-lanes')).body;
const [even, warm] = HOUSE_LANES;

test('a house lane is kept with its handles, changed and deleted; one of a lane before handles is read', async () => {
  expect(await kept()).toEqual([]);
  const { status, body } = await client.ask<{ id: string }>('POST', '/api/house-lanes', warm);
  expect(status).toBe(201);
  expect(await kept()).toEqual([{ id: body.id, houseLane: warm }]);
  const renamed = { ...warm, name: 'Warm, ours', sentence: '' };
  expect((await client.ask('PUT', `/api/house-lanes/${body.id}`, renamed)).status).toBe(204);
  expect(await kept()).toEqual([{ id: body.id, houseLane: renamed }]);
  const older = { ...even, lane: { schema: 7, stages: [{ id: 't', kind: 'trim', settings: { gainDb: -2 } }] } };
  expect((await client.ask('POST', '/api/house-lanes', older)).status).toBe(201);
  expect((await kept()).map(({ houseLane }) => houseLane.lane.schema)).toEqual([LANE_SCHEMA, LANE_SCHEMA]);
  expect((await client.ask('DELETE', `/api/house-lanes/${body.id}`)).status).toBe(204);
  expect((await kept()).map(({ houseLane }) => houseLane.name)).toEqual([even.name]);
});

test('what cannot be is refused in words, and changes nothing', async () => {
  const before = await kept();
  const answers = await Promise.all([
    client.ask('POST', '/api/house-lanes', even),
    client.ask('POST', '/api/house-lanes', { ...warm, name: ' ' }),
    client.ask('POST', '/api/house-lanes', { ...warm, schema: 2 }),
    client.ask('POST', '/api/house-lanes', {
      ...warm,
      lane: { ...warm.lane, house: { handles: Array(7).fill({ name: 'x', moves: [] }) } },
    }),
    client.ask('POST', '/api/house-lanes', {
      ...warm,
      name: 'Bad',
      lane: {
        ...warm.lane,
        house: { handles: [{ name: 'x', moves: [{ stage: 'tone', control: '__proto__', from: 0, rest: 0, to: 1 }] }] },
      },
    }),
  ]);
  expect(answers.map(({ status, body }) => [status, (body as { error: string }).error])).toEqual([
    [409, expect.stringMatching(/already a house lane named “Even finish”/)],
    [422, expect.stringMatching(/Give the house lane a name/)],
    [422, expect.stringMatching(/newer Copper Lane/)],
    [422, expect.stringMatching(/at most 6 handles/)],
    [422, expect.stringMatching(/words and numbers with dots/)],
  ]);
  expect(await kept()).toEqual(before);
});

test('what was done to drafts is counted for its account alone, leans only when switched on, and is forgotten', async () => {
  const habits = async (of = client) => (await of.ask<DraftHabits>('GET', '/api/drafts')).body;
  expect(await habits()).toEqual({ leans: false, drafts: [] });
  const draft = { wishes: { steps: { clipper: { on: false } } }, needed: ['clipper', 'limiter'] };
  expect((await client.ask('POST', '/api/drafts', draft)).status).toBe(204);
  expect((await client.ask('POST', '/api/drafts', { ...draft, needed: ['nothing'] })).status).toBe(422);
  expect((await client.ask('PUT', '/api/drafts', { leans: true })).status).toBe(204);
  const now = await habits();
  expect(now.leans).toBe(true);
  expect(now.drafts).toMatchObject([{ wishes: { steps: { clipper: { on: false, strengthPercent: 100 } } } }]);
  expect(await habits(await newClient())).toEqual({ leans: false, drafts: [] });
  expect((await client.ask('DELETE', '/api/drafts')).status).toBe(204);
  expect(await habits()).toEqual({ leans: true, drafts: [] });
});
