import type { EncodeCheck, PassageEncodes } from '@/contracts/encode-check';
import { waveDataStart } from '@/engine/sources/float-wave';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

interface Workspace {
  track: { id: string };
  mix: { frames: number };
  versions: { id: string }[];
  encodes: { id: string; status: string }[];
}

const RATE = 44100;
const limited = (ceilingDbtp: number) => ({
  schema: 1,
  stages: [{ id: 'l', kind: 'limiter', settings: { inputGainDb: 14, ceilingDbtp } }],
});
let client: Client;
let workspace: Workspace;
beforeAll(async () => {
  client = await newClient();
  workspace = await client.takeIn<Workspace>(await client.newRelease(), 'Loud.wav', wave(music(6, RATE, 0.3), RATE));
  await saveLane(0, -0.1);
});

const version = () => workspace.versions[0].id;
const saveLane = (after: number, ceilingDbtp: number) =>
  client.ask('PUT', `/api/versions/${version()}/lane`, { lane: limited(ceilingDbtp), label: 'Ceiling', after });
const start = (body: object) => client.ask<{ id: string }>('POST', `/api/versions/${version()}/encodes`, body);
const list = async () => (await client.ask<EncodeCheck[]>('GET', `/api/versions/${version()}/encodes`)).body;
const ended = (id: string) =>
  until('the encode is checked', async () => {
    const check = (await list()).find((each) => each.id === id);
    return check && ['finished', 'failed'].includes(check.status) && check;
  });
const peakOf = ({ result }: EncodeCheck) => Math.max(...result!.encode.truePeaksDbtp.map((db) => db!));

test('an encode that goes over its limit is told with the ceiling that keeps it there, which it then does', async () => {
  const { status, body } = await start({ codec: 'MP3', kbps: 96, limitDbtp: -0.5 });
  expect(status).toBe(202);
  const check = await ended(body.id);
  expect(peakOf(check)).toBeGreaterThan(-0.4);
  const { source, encode, clearing } = check.result!;
  expect(Math.max(...source.truePeaksDbtp.map((db) => db!))).toBeCloseTo(-0.1, 1);
  expect(encode.overs).toBeGreaterThan(0);
  expect(encode.overSeconds.length).toBeGreaterThan(0);
  expect(clearing).toMatchObject({ stage: 'l', limitDbtp: -0.5 });
  expect(clearing!.truePeakDbtp).toBeLessThanOrEqual(-0.44);
  // The same again is no new work; another lane has none of it; the ceiling does what was said.
  expect((await start({ codec: 'MP3', kbps: 96, limitDbtp: -0.5 })).body.id).toBe(body.id);
  await saveLane(1, clearing!.value);
  expect(await list()).toEqual([]);
  const again = await ended((await start({ codec: 'MP3', kbps: 96, limitDbtp: -0.5 })).body.id);
  expect(peakOf(again)).toBeCloseTo(clearing!.truePeakDbtp, 2);
  expect(again.result!.clearing).toBeNull();
});

test('the loudest passage is encoded in several ways at once', async () => {
  await saveLane(2, -0.1);
  const encodes = [
    { codec: 'MP3', kbps: 96 },
    { codec: 'MP3', kbps: 320 },
  ];
  const ask = (body: object) => client.ask<PassageEncodes>('POST', `/api/versions/${version()}/passage-encodes`, body);
  const { status, body } = await ask({ encodes });
  expect(status).toBe(200);
  const { step, source, encodes: made } = body;
  expect(step).toBe(3);
  expect(made.map(({ codec, kbps }) => ({ codec, kbps }))).toEqual(encodes);
  const highest = (peaks: readonly (number | null)[]) => Math.max(...peaks.map((db) => db!));
  expect(highest(source.truePeaksDbtp)).toBeCloseTo(-0.1, 1);
  // A low rate goes further over than a high one, and both are about as loud as what they are made of.
  const [low, high] = made.map(({ figures }) => figures);
  expect(highest(low.truePeaksDbtp)).toBeGreaterThan(highest(high.truePeaksDbtp));
  for (const { integratedLufs } of [low, high])
    expect(Math.abs(integratedLufs! - source.integratedLufs!)).toBeLessThan(0.5);
  // The loudest passage is the whole of this mix: the figures are those of the whole check, but for the cut's short fades.
  const whole = await ended((await start({ codec: 'MP3', kbps: 96, limitDbtp: 3 })).body.id);
  expect(Math.abs(peakOf(whole) - highest(low.truePeaksDbtp))).toBeLessThan(0.3);
  expect((await ask({ encodes: [] })).status).toBe(422);
  expect((await ask({ encodes: Array(7).fill(encodes[0]) })).body.error).toMatch(/At most 6/);
});

test('the encode is heard in time with the master, as long as it, at any rate', async () => {
  const { body } = await start({ codec: 'Opus', kbps: 192 });
  await ended(body.id);
  for (const rate of [RATE, 48000]) {
    const bytes = await client.bytes(`/api/encodes/${body.id}/audio?rate=${rate}`);
    const frames = (bytes.length - waveDataStart(bytes)!) / 8;
    expect(frames).toBe(Math.round((workspace.mix.frames * rate) / RATE));
  }
  const { encodes } = (await client.ask<Workspace>('GET', `/api/tracks/${workspace.track.id}`)).body;
  expect(encodes.find(({ id }) => id === body.id)?.status).toBe('finished');
  const candidates = [{ kind: 'encode', encodeId: body.id }];
  const kept = await client.ask('PUT', `/api/tracks/${workspace.track.id}/candidates`, { candidates });
  expect(kept.status).toBe(204);
  expect((await client.ask('DELETE', `/api/encodes/${body.id}`)).status).toBe(204);
  expect((await client.ask('GET', `/api/encodes/${body.id}/audio?rate=${RATE}`)).status).toBe(404);
});

test('without a limiter the level is what clears it; a codec or rate that there is not is refused in words', async () => {
  const lane = { schema: 1, stages: [{ id: 't', kind: 'trim', settings: { gainDb: 6 } }] };
  await client.ask('PUT', `/api/versions/${version()}/lane`, { lane, label: 'Trim', after: 3 });
  const check = await ended((await start({ codec: 'MP3', kbps: 96, limitDbtp: -6 })).body.id);
  const { clearing } = check.result!;
  expect(clearing).toMatchObject({ stage: null });
  expect(clearing!.value).toBeLessThan(0);
  expect(clearing!.truePeakDbtp).toBeLessThanOrEqual(-5.94);
  for (const body of [
    { codec: 'WMA', kbps: 128 },
    { codec: 'MP3', kbps: 127 },
    { codec: 'MP3', kbps: 128, limitDbtp: 9 },
  ])
    expect((await start(body)).status).toBe(422);
});
