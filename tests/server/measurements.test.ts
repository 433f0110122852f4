// What was measured of a version is kept, computed where it is missing, and shown without opening the track.
import { packMeasurement, unpackMeasurement, measurementKey } from '@/engine/measure/kept-measurement';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import type { Measurement } from '@/engine/measure/measurement';
import { EMPTY_LANE, newStage, type Lane } from '@/core/lane/schema';
import type { ReleaseDetail, TrackSummary } from '@/contracts/release';
import type { TrackDetails } from '@/contracts/track';
import type { Steps } from '@/contracts/version';
import { until } from '../support/application';
import { newClient, testDatabase, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const RATE = 44100;
const SIGNAL = music(6, RATE);
/** In floats, so that the file holds what is measured here. */
const MIX = wave(SIGNAL, RATE, '32f');
const LANE: Lane = {
  ...EMPTY_LANE,
  stages: [
    newStage('equalizer', 'e'),
    { ...newStage('limiter', 'l'), settings: { ...newStage('limiter', 'l').settings, inputGainDb: 6 } },
  ],
};

let client: Client & { email: string };
beforeAll(async () => {
  client = await newClient();
});

const kept = async (versionId: string) => {
  const bytes = await client.bytes(`/api/versions/${versionId}/measurement`);
  return bytes.length > 0 ? unpackMeasurement(bytes) : null;
};
const keep = (versionId: string, bytes: Uint8Array, by = client) =>
  by.ask('PUT', `/api/versions/${versionId}/measurement`, bytes);
const releaseOf = async (id: string) => (await client.ask<ReleaseDetail>('GET', `/api/releases/${id}`)).body;

/** The tracks of a release once each has a measured master. */
const measured = (id: string): Promise<TrackSummary[]> =>
  until('the masters are measured', async () => {
    const { tracks } = await releaseOf(id);
    return tracks.every(({ master }) => master?.summary) && tracks;
  });

async function track(lane: Lane = EMPTY_LANE): Promise<{ release: string; track: TrackDetails }> {
  const release = await client.newRelease('Measured');
  const details = await client.takeIn<TrackDetails>(release, 'Mix.wav', MIX);
  if (lane !== EMPTY_LANE) {
    const { status } = await client.ask('PUT', `/api/versions/${details.versions[0].id}/lane`, {
      lane,
      label: 'Set up',
      after: 0,
    });
    expect(status).toBe(200);
  }
  return { release, track: details };
}

async function measure(lane: Lane, { mix }: TrackDetails): Promise<Measurement> {
  const [left, right] = [SIGNAL.left, SIGNAL.right].map((channel) => Float32Array.from(channel));
  const measurer = new LaneMeasurer({ left, right, sampleRate: RATE }, { loudest: mix!.report!.loudest });
  return measurer.run(lane, { turn: () => Promise.resolve() });
}

test('the server measures as a page does, and the list of tracks shows it', async () => {
  const { release, track: details } = await track(LANE);
  const [{ id: versionId, name }] = details.versions;
  expect(await kept(versionId)).toBeNull();
  const [{ master }] = await measured(release);
  const here = await measure(LANE, details);
  expect(master).toMatchObject({ versionId, versionName: name, checking: null, problem: null });
  expect(master!.summary!.integratedLufs).toBe(here.master.integratedLufs);
  expect(master!.summary!.truePeakDbtp).toBe(here.master.truePeakDbtp);
  const there = (await kept(versionId))!;
  expect(there.key).toBe(await measurementKey(details.mix!.id, LANE));
  // To the bit: traces, spectra, pictures and excerpts.
  expect(packMeasurement(there)).toEqual(packMeasurement({ key: there.key, measurement: here }));
});

test('what a page measured is kept for that lane alone', async () => {
  const { release, track: details } = await track(LANE);
  const [{ id: versionId }] = details.versions;
  const measurement = await measure(LANE, details);
  const key = await measurementKey(details.mix!.id, LANE);
  const bytes = packMeasurement({ key, measurement })!;
  expect((await keep(versionId, bytes)).status).toBe(204);
  expect(await kept(versionId)).toEqual(unpackMeasurement(bytes));
  expect((await releaseOf(release)).tracks[0].master!.summary!.integratedLufs).toBe(measurement.master.integratedLufs);
  // Without a job: nothing was missing.
  const db = testDatabase();
  const rows = await db('measurements').where({ mix_id: details.mix!.id }).select<{ status: string }[]>('status');
  await db.destroy();
  expect(rows).toEqual([{ status: 'finished' }]);

  const another = await measurementKey(details.mix!.id, EMPTY_LANE);
  const refused = await keep(versionId, packMeasurement({ key: another, measurement })!);
  expect([refused.status, refused.body.error]).toEqual([409, expect.stringMatching(/not of “.+” as it is saved/)]);
  await client.ask('PUT', `/api/versions/${versionId}/lane`, { lane: EMPTY_LANE, label: 'Clear', after: 1 });
  expect(await kept(versionId)).toBeNull();
});

test('the history has the figures that were measured after a step, with the mix in use', async () => {
  const { track: details } = await track(LANE);
  const [{ id: versionId }] = details.versions;
  const figures = async () => {
    const { body } = await client.ask<Steps>('GET', `/api/versions/${versionId}/steps`);
    return body.map((step) => step.figures);
  };
  expect(await figures()).toEqual([null, null]);
  const measurement = await measure(LANE, details);
  const key = await measurementKey(details.mix!.id, LANE);
  await keep(versionId, packMeasurement({ key, measurement })!);
  const { integratedLufs, truePeakDbtp, plrLu } = measurement.master;
  expect(await figures()).toEqual([{ integratedLufs, truePeakDbtp, plrLu }, null]);
  // An older step keeps its own; one that is amended is another.
  await client.ask('PUT', `/api/versions/${versionId}/lane`, { lane: EMPTY_LANE, label: 'Clear', after: 1 });
  expect(await figures()).toEqual([null, { integratedLufs, truePeakDbtp, plrLu }, null]);
  await client.ask('POST', `/api/versions/${versionId}/undo`, { after: 2 });
  await client.ask('PUT', `/api/versions/${versionId}/lane`, { lane: EMPTY_LANE, label: 'x', after: 1, amends: true });
  expect(await figures()).toEqual([null, null, null]);
});

test('what is not a measurement, too large, or for another is refused', async () => {
  const { track: details } = await track();
  const [{ id: versionId }] = details.versions;
  for (const bytes of [new Uint8Array(0), new Uint8Array(1000).fill(0xc1), Buffer.from('{"key":1}')])
    expect((await keep(versionId, bytes)).status).toBe(422);
  expect((await keep(versionId, new Uint8Array(24 * 2 ** 20 + 1))).status).toBe(413);
  const stranger = await newClient();
  expect((await keep(versionId, new Uint8Array(1), stranger)).status).toBe(422);
  expect((await stranger.ask('GET', `/api/versions/${versionId}/measurement`)).status).toBe(404);
  expect((await client.ask('GET', '/api/health')).status).toBe(200);
});

test('of each mix the measurements of the last lanes are kept', async () => {
  const { release, track: details } = await track();
  const [{ id: versionId }] = details.versions;
  for (let gainDb = 1; gainDb <= 14; gainDb++) {
    const trim = newStage('trim', 't');
    const lane = { ...EMPTY_LANE, stages: [{ ...trim, settings: { ...trim.settings, gainDb } }] };
    await client.ask('PUT', `/api/versions/${versionId}/lane`, { lane, label: 'Trim', after: gainDb - 1 });
    await releaseOf(release);
  }
  const [{ master, mix }] = await measured(release);
  expect(master!.summary!.integratedLufs! - mix!.report!.integratedLufs!).toBeCloseTo(14, 1);
  const db = testDatabase();
  const [{ count }] = await db('measurements').where({ mix_id: mix!.id }).count<{ count: string }[]>('id');
  await db.destroy();
  expect(Number(count)).toBe(12);
});

test('a mix that is too long for a worker’s memory is said to be, and harms no worker', async () => {
  const { release, track: details } = await track(LANE);
  const db = testDatabase();
  await db('mixes')
    .where({ id: details.mix!.id })
    .update({ findings: db.raw(`jsonb_set(findings, '{frames}', '600000000')`) });
  await db.destroy();
  const problem = await until('the server has looked at it', async () => {
    const [{ master }] = (await releaseOf(release)).tracks;
    return master?.problem;
  });
  expect(problem).toContain('too long to be measured on the server');
});

test('several tracks are delivered for several destinations at once, or none of them', async () => {
  const release = await client.newRelease('Album');
  for (const name of ['One.wav', 'Two.wav']) await client.takeIn<TrackDetails>(release, name, MIX);
  const tracks = await measured(release);
  const { destinations } = await releaseOf(release);
  const deliveries = tracks.flatMap(({ id, master }) =>
    destinations.slice(0, 2).map((destination) => ({
      ...{ trackId: id, versionId: master!.versionId, destinationId: destination.id, levelDb: -1 },
    })),
  );
  const start = (body: object) => client.ask('POST', `/api/releases/${release}/deliveries`, body);
  const unknown = { ...deliveries[0], destinationId: release };
  expect((await start({ deliveries: [...deliveries, unknown] })).status).toBe(404);
  expect((await start({ deliveries: [] })).status).toBe(422);
  expect((await releaseOf(release)).tracks.flatMap((each) => each.deliveries)).toEqual([]);
  const others = await track();
  const foreign = { ...deliveries[0], trackId: others.track.track.id };
  expect((await start({ deliveries: [foreign] })).status).toBe(404);

  const { status, body } = await start({ deliveries });
  expect([status, (body as unknown as object[]).length]).toEqual([202, 4]);
  const finished = await until('all are delivered', async () => {
    const all = (await releaseOf(release)).tracks.map((each) => each.deliveries);
    return all.flat().every(({ standing }) => standing) && all;
  });
  const names = destinations.slice(0, 2).map(({ settings }) => settings.name);
  for (const of of finished) expect(of.map(({ destination }) => destination).sort()).toEqual([...names].sort());
});
