import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

interface Version {
  id: string;
  name: string;
  step: number;
  lane: { stages: { settings: { gainDb: number } }[] };
  undo: string | null;
  redo: string | null;
  pins: object[];
}

let client: Client;
let track: string;
let version: Version;
beforeAll(async () => {
  client = await newClient();
  const taken = await client.takeIn<{ track: { id: string }; versions: Version[] }>(
    await client.newRelease(),
    'mix.wav',
    wave(music(1, 44100), 44100),
  );
  track = taken.track.id;
  version = taken.versions[0];
});

const trim = (gainDb: number) => ({ schema: 2, stages: [{ id: 'a', kind: 'trim', settings: { gainDb } }] });
const save = (gainDb: number, after: number) =>
  client.ask<Version>('PUT', `/api/versions/${version.id}/lane`, {
    lane: trim(gainDb),
    label: `Gain ${gainDb}`,
    after,
  });
/** One step back or forward from where the version is. */
const step = async (direction: 'undo' | 'redo') => {
  const { body } = await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`);
  const { step: after } = body.versions.find(({ id }) => id === version.id)!;
  return (await client.ask<Version>('POST', `/api/versions/${version.id}/${direction}`, { after })).body;
};
const gain = ({ lane }: Version) => lane.stages[0]?.settings.gainDb;

test('changes are kept, undone and redone, also after the page is opened anew', async () => {
  expect((await save(-1, 0)).body).toMatchObject({ step: 1, undo: 'Gain -1', redo: null });
  await save(-2, 1);
  await save(-3, 2);
  expect(gain(await step('undo'))).toBe(-2);
  expect(gain(await step('undo'))).toBe(-1);
  const { body } = await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`);
  expect(body.versions[0]).toMatchObject({ step: 1, undo: 'Gain -1', redo: 'Gain -2' });
  expect(gain(await step('redo'))).toBe(-2);
  // A new change drops what was undone.
  expect((await save(-9, 2)).body.redo).toBeNull();
  expect(gain(await step('redo'))).toBe(-9);
});

test('the steps of the history are told, the newest first, wherever the version stands', async () => {
  const { body } = await client.ask<{ step: number; label: string; at: string }[]>(
    'GET',
    `/api/versions/${version.id}/steps`,
  );
  expect(body.map(({ step: number, label }) => [number, label])).toEqual([
    [3, 'Gain -9'],
    [2, 'Gain -2'],
    [1, 'Gain -1'],
    [0, 'Start'],
  ]);
  expect(body.every(({ at }) => Math.abs(Date.parse(at) - Date.now()) < 600_000)).toBe(true);
});

test('a version can begin from any step, and from none that the history does not have', async () => {
  const copies = (body: object) => client.ask<Version>('POST', `/api/versions/${version.id}/copies`, body);
  const { status, body } = await copies({ name: 'From the second', step: 2 });
  expect([status, gain(body), body.step]).toEqual([201, -2, 0]);
  expect((await copies({ name: 'From nowhere', step: 77 })).status).toBe(404);
  expect((await copies({ name: 'From before', step: -1 })).status).toBe(422);
  await client.ask('DELETE', `/api/versions/${body.id}`);
});

test('undo stops at the beginning', async () => {
  for (let i = 0; i < 10; i++) await step('undo');
  expect(await step('undo')).toMatchObject({ step: 0, undo: null });
});

test('undo from a step that another window has left is refused and loses nothing', async () => {
  const { body } = await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`);
  const { status, body: refusal } = await client.ask<{ code: string }>('POST', `/api/versions/${version.id}/redo`, {
    after: body.versions[0].step + 1,
  });
  expect([status, refusal.code]).toEqual([409, 'versionChanged']);
  expect((await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`)).body).toEqual(body);
});

test('a change made on another window’s step is refused and loses nothing', async () => {
  await save(-4, 0);
  const { status, body } = await save(-5, 0);
  expect([status, body.error]).toEqual([
    409,
    'This version was changed in another window. Reload the page to continue from there.',
  ]);
  const { body: now } = await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`);
  expect(gain(now.versions[0])).toBe(-4);
});

test('settings out of range are refused in words', async () => {
  const { status, body } = await save(99, 1);
  expect([status, body.error]).toEqual([422, 'lane.stages.0.settings.gainDb: Gain must be at most 24 dB.']);
});

test('pins are kept beside the lane, outside its history', async () => {
  const pins = [{ stage: 'a', control: 'gainDb', value: -2.5 }];
  expect((await client.ask('PUT', `/api/versions/${version.id}/pins`, { pins })).status).toBe(204);
  expect((await step('undo')).pins).toEqual(pins);
  await step('redo');
  const { status, body } = await client.ask('PUT', `/api/versions/${version.id}/pins`, { pins: [{ stage: 'a' }] });
  expect([status, body.error]).toEqual([422, expect.stringContaining('pins.0.control')]);
});

test('a kept version has the same lane and a history of its own', async () => {
  const { body: copy } = await client.ask<Version>('POST', `/api/versions/${version.id}/copies`, { name: 'Calmer' });
  expect(copy).toMatchObject({ name: 'Calmer', step: 0, undo: null, pins: [{ value: -2.5 }] });
  expect(gain(copy)).toBe(-4);
  await save(-7, 1);
  const { body } = await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`);
  expect(body.versions.map(gain)).toEqual([-7, -4]);
});

test('what belongs to the last step is saved into it, and undo still takes one step', async () => {
  const { body: before } = await client.ask<{ versions: Version[] }>('GET', `/api/tracks/${track}`);
  const { step: at, undo } = before.versions[0];
  const lane = { schema: 1, stages: [{ id: 'a', kind: 'trim', settings: { gainDb: -7.5 } }] };
  const path = `/api/versions/${version.id}/lane`;
  const { body } = await client.ask<Version>('PUT', path, { lane, label: 'Makeup', after: at, amends: true });
  expect(body).toMatchObject({ step: at, undo });
  expect(gain(body)).toBe(-7.5);
  expect(gain(await step('undo'))).not.toBe(-7.5);
  expect(gain(await step('redo'))).toBe(-7.5);
});
