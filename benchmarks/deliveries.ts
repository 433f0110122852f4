import type { EncodeCheck } from '../src/contracts/encode-check';
import { Application, until } from '../tests/support/application';
import { newClient, type Client } from '../tests/support/client';
import { music } from '../tests/support/music';
import { wave } from '../tests/support/wave';
import { REFERENCE_LANE } from './core';
import { SECONDS } from './material';
import { print } from './support';

const RATE = 44100;
const TRACKS = 10;
const DESTINATIONS = ['Streaming', 'Broadcast', 'Disc', 'Download'];

interface Named {
  id: string;
  settings: { name: string };
}
interface Workspace {
  track: { id: string };
  versions: { id: string }[];
  destinations: Named[];
}

/** Milliseconds from ordering all tracks for all destinations until the last of them is finished. */
async function deliverAll(client: Client, release: string, tracks: Workspace[]): Promise<number> {
  const deliveries = tracks.flatMap(({ track, versions, destinations }) =>
    destinations
      .filter(({ settings }) => DESTINATIONS.includes(settings.name))
      .map(({ id }) => ({ trackId: track.id, versionId: versions[0].id, destinationId: id, levelDb: -6 })),
  );
  if (deliveries.length !== tracks.length * DESTINATIONS.length) throw new Error('A destination is missing.');
  const since = Date.now();
  const { status, body } = await client.ask<{ id: string }[]>('POST', `/api/releases/${release}/deliveries`, {
    deliveries,
  });
  if (status !== 202) throw new Error(`Ordering answered ${status}: ${body.error}`);
  for (const { id } of body)
    await until(
      'the delivery is finished',
      async () => {
        const { body: made } = await client.ask<{ status: string; problem: string | null }>(
          'GET',
          `/api/deliveries/${id}`,
        );
        if (made.status === 'failed') throw new Error(`A delivery failed: ${made.problem}`);
        return made.status === 'finished';
      },
      20 * 60_000,
    );
  return Date.now() - since;
}

/** Seconds from asking for an encode check of a whole track until its figures are there. */
async function checkSeconds(client: Client, versionId: string, encode: object): Promise<string> {
  const since = Date.now();
  const { body } = await client.ask<{ id: string }>('POST', `/api/versions/${versionId}/encodes`, encode);
  await until('the encode is checked', async () => {
    const { body: list } = await client.ask<EncodeCheck[]>('GET', `/api/versions/${versionId}/encodes`);
    return list.find(({ id }) => id === body.id)?.status === 'finished';
  });
  return `${((Date.now() - since) / 1000).toFixed(1)} s`;
}

/** How long an installation takes to deliver a release, and to check a master in encodes. */
export async function benchDeliveries(): Promise<void> {
  const application = await new Application().start();
  try {
    const client = await newClient(application.url, application.databaseUrl);
    const release = await client.newRelease();
    const { body: shelf } = await client.ask<Named[]>('GET', '/api/destinations');
    const download = shelf.find(({ settings }) => settings.name === 'Download')!;
    await client.ask('POST', `/api/releases/${release}/destinations`, { shelfId: download.id });
    const bytes = wave(music(SECONDS, RATE, 0.35), RATE);
    const tracks: Workspace[] = [];
    for (let i = 1; i <= TRACKS; i++) {
      const workspace = await client.takeIn<Workspace>(release, `track ${i}.wav`, bytes);
      // A lane of its own, so that none is shared between tracks.
      const stages = REFERENCE_LANE.stages.map((stage) =>
        stage.kind === 'trim' ? { ...stage, settings: { ...stage.settings, gainDb: -i / 10 } } : stage,
      );
      const lane = { ...REFERENCE_LANE, stages };
      await client.ask('PUT', `/api/versions/${workspace.versions[0].id}/lane`, { lane, label: 'Set up', after: 0 });
      tracks.push(workspace);
    }
    const checks = [];
    for (const codec of ['AAC', 'MP3', 'Opus', 'Vorbis'])
      checks.push({
        what: `whole master checked in an encode, ${codec} at 256 kb/s`,
        figure: await checkSeconds(client, tracks[0].versions[0].id, { codec, kbps: 256, limitDbtp: 3 }),
        aim: 'at most 8 s',
      });
    const passages: number[] = [];
    for (let i = 0; i < 6; i++) {
      const since = Date.now();
      await client.ask('POST', `/api/versions/${tracks[0].versions[0].id}/passage-encodes`, {
        encodes: [{ codec: 'AAC', kbps: 256 }],
      });
      // The first one starts the thread that does it.
      if (i > 0) passages.push(Date.now() - since);
    }
    const ms = await deliverAll(client, release, tracks);
    const delivered = TRACKS * DESTINATIONS.length * SECONDS * 1000;
    print('Delivered by one worker, tracks of 4 minutes with the reference lane', [
      {
        what: `${TRACKS} tracks for ${DESTINATIONS.length} destinations, one with a checked encode`,
        figure: `${(ms / 1000).toFixed(0)} s, ${(delivered / ms).toFixed(0)} × real time`,
        aim: 'at least 60 ×',
      },
      ...checks,
      {
        what: 'loudest passage encoded after a change, with the 0.25 s until a change is saved',
        figure: `${(0.25 + passages.sort((a, b) => a - b)[2] / 1000).toFixed(2)} s`,
        aim: 'at most 1.5 s',
      },
    ]);
  } finally {
    await application.stop();
  }
}
