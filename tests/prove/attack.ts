// What one visitor or one account does to harm the others: each is done for real, and the others have to be served meanwhile.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { join } from 'node:path';
import type { Application } from '../support/application';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';
import { beginUpload } from './faults';

export interface Attack {
  name: string;
  /** `times` multiplies how much is done. */
  attack(application: Application, times: number): Promise<void>;
}

/** What the application of these attacks gives an account, in GB. */
export const QUOTA_GB = 0.02;
const RATE = 44100;

/** Throws with words unless something holds. */
function must(holds: boolean, words: string): void {
  if (!holds) throw new Error(words);
}

interface Details {
  track: { id: string };
  mix: { id: string };
  versions: { id: string; step: number; lane: object }[];
  destinations: { id: string; settings: { name: string } }[];
}

const client = (application: Application) => newClient(application.url, application.databaseUrl);

async function withTrack(
  application: Application,
  seconds = 2,
): Promise<{ owner: Client; release: string; details: Details }> {
  const owner = await client(application);
  const release = await owner.newRelease();
  return { owner, release, details: await owner.takeIn(release, 'mix.wav', wave(music(seconds, RATE), RATE)) };
}

/** Whether a conversion of a mix is sent whole. */
async function converts(owner: Client, { mix }: Details): Promise<boolean> {
  const bytes = await owner.bytes(`/api/mixes/${mix.id}/audio?rate=48000`);
  return bytes.subarray(0, 4).toString('latin1') === 'RIFF' && bytes.length > 48_000;
}

/** Asks for something over a connection of its own and reads none of the answer. */
function askUnread({ url, cookie }: Client, path: string): Promise<Socket> {
  const { hostname, port } = new URL(url);
  return new Promise((resolve, reject) => {
    const socket = connect(Number(port), hostname, () => {
      socket.pause();
      socket.write(`GET ${path} HTTP/1.1\r\nHost: ${hostname}:${port}\r\nCookie: ${cookie}\r\n\r\n`, () =>
        resolve(socket),
      );
    });
    socket.on('error', reject);
  });
}

export const ATTACKS: Attack[] = [
  {
    name: 'HEAD requests on audio begin nothing',
    async attack(application, times) {
      const [one, other] = [await withTrack(application), await withTrack(application)];
      const path = `/api/mixes/${one.details.mix.id}/audio`;
      for (let i = 0; i < 40 * times; i++) {
        const { status } = await one.owner.ask('HEAD', `${path}${i % 2 === 0 ? '?rate=48000' : ''}`);
        must(status === 200, `HEAD was answered with ${status}.`);
      }
      must(await converts(one.owner, one.details), 'The same account hears nothing any more.');
      must(await converts(other.owner, other.details), 'Another account hears nothing any more.');
    },
  },
  {
    name: 'bodies that are never read hold up their own account only, and end',
    async attack(application, times) {
      // Longer than what the connection itself takes in.
      const [one, other] = [await withTrack(application, 20), await withTrack(application)];
      const path = `/api/mixes/${one.details.mix.id}/audio?rate=96000`;
      const sockets = await Promise.all(Array.from({ length: 30 * times }, () => askUnread(one.owner, path)));
      try {
        const refused = await until('its own account is told to wait', async () => {
          const { status, headers } = await one.owner.ask('HEAD', path);
          return status === 503 && headers;
        });
        must(refused.has('retry-after'), 'It is not said when to try again.');
        must(await converts(other.owner, other.details), 'Another account hears nothing any more.');
        await until('what nobody reads has ended', async () => (await one.owner.ask('HEAD', path)).status === 200);
      } finally {
        for (const socket of sockets) socket.destroy();
      }
    },
  },
  {
    name: 'unfinished uploads count as announced, and are not many',
    async attack(application) {
      const owner = await client(application);
      const bytes = Buffer.alloc(QUOTA_GB * 1e9 * 0.4);
      const begun = [];
      for (let i = 0; i < 3; i++) begun.push(await beginUpload(owner, bytes));
      must(
        begun.map(({ status }) => status).join() === '201,201,413',
        `Uploads over the quota were begun: ${begun.map(({ status }) => status).join()}.`,
      );
      const sent = await begun[0].send(0);
      must(sent === bytes.length, 'An upload within the quota did not arrive.');
      must((await begun[1].cancel()) === 204, 'An upload can’t be cancelled.');
      must((await beginUpload(owner, bytes)).status === 201, 'What was cancelled counts on.');
      const many = await client(application);
      const statuses = [];
      for (let i = 0; i < 25; i++) statuses.push((await beginUpload(many, Buffer.alloc(1000))).status);
      must(statuses.filter((status) => status === 201).length === 20, `Of 25 uploads ${statuses.join()} were begun.`);
      must(statuses.at(-1) === 429, 'One upload too many is not refused as such.');
    },
  },
  {
    name: 'what is ordered counts before it is made: nothing is begun that has no room',
    async attack(application) {
      const { owner, release, details } = await withTrack(application, 30);
      // Less is left than any of these takes.
      for (let i = 0; i < 20; i++) if ((await beginUpload(owner, Buffer.alloc(1_000_000))).status !== 201) break;
      const [{ id: versionId }] = details.versions;
      const destinationId = details.destinations.find(({ settings }) => settings.name === 'Disc')!.id;
      const trackId = details.track.id;
      const orders: [string, object][] = [
        [`/api/tracks/${trackId}/deliveries`, { versionId, destinationId }],
        [`/api/releases/${release}/images`, { destinationId, format: 'WAV' }],
        [`/api/releases/${release}/links`, { recipient: 'Dana', tracks: [{ trackId }] }],
        [`/api/versions/${versionId}/encodes`, { codec: 'MP3', kbps: 320, limitDbtp: 0 }],
      ];
      for (const [path, body] of orders) {
        const { status, body: told } = await owner.ask('POST', path, body);
        must(
          status === 413 && /GB of room/.test(told.error ?? ''),
          `${path} was answered with ${status}: ${told.error}`,
        );
      }
    },
  },
  {
    name: 'many requests that need a transaction do not block each other',
    async attack(application, times) {
      const { owner, release, details } = await withTrack(application);
      const { body } = await owner.ask<{ destinations: { id: string; settings: { name: string } }[] }>(
        ...(['GET', `/api/releases/${release}`] as const),
      );
      const disc = body.destinations.find(({ settings }) => settings.name === 'Disc') ?? details.destinations[0];
      const asked = { destinationId: disc.id, format: 'WAV' };
      for (let i = 0; i < times; i++) {
        const answers = await Promise.all(
          Array.from({ length: 24 }, () => owner.ask('POST', `/api/releases/${release}/images`, asked)),
        );
        const statuses = answers.map(({ status }) => status);
        // Over the quota is an answer too.
        must(
          statuses.every((status) => status < 500),
          `Images were answered with ${statuses.join()}.`,
        );
      }
    },
  },
  {
    name: 'a large lane that is valid is saved',
    async attack(application) {
      const { owner, details } = await withTrack(application);
      const [{ id, step, lane }] = details.versions;
      const bands = Array.from({ length: 16 }, (_, i) => ({
        ...{ shape: 'bell', frequencyHz: 40 + 900 * i, gainDb: 0.1234567890123 * i, q: 1.0123456789012, on: true },
        dynamics: { thresholdDbfs: -30.123456789, rangeDb: -4.0123456789, attackMs: 10.123456789, releaseMs: 150 },
      }));
      const stages = Array.from({ length: 12 }, (_, i) => ({
        ...{ id: `stage-${i}`, kind: 'equalizer', on: true, settings: { bands } },
        alternatives: [
          { name: 'A', settings: null },
          { name: 'B', settings: { bands } },
        ],
      }));
      const body = { lane: { ...lane, stages }, label: 'Large', after: step };
      must(JSON.stringify(body).length > 64 * 1024, 'The lane is not large.');
      const { status, body: told } = await owner.ask('PUT', `/api/versions/${id}/lane`, body);
      must(status === 200, `A large lane was answered with ${status}: ${told.error}`);
    },
  },
  {
    name: 'names in other scripts and invisible controls are taken, or refused in words',
    async attack(application) {
      const { owner, details } = await withTrack(application);
      const change = (values: object) => owner.ask('PATCH', `/api/tracks/${details.track.id}`, values);
      for (const title of ['Żółć', 'Ночь', 'Νύχτα', '夜'.repeat(40), 'ליל', 'ليل'])
        must((await change({ title })).status === 204, `“${title}” is refused as a title.`);
      for (const title of ['one\ntwo', 'abc\u202egnp', 'a\u2066b'])
        must((await change({ title })).status === 422, `${JSON.stringify(title)} is taken as a title.`);
    },
  },
  {
    name: 'a receipt that was changed is told apart from the one that was signed',
    async attack(application) {
      const { owner, details } = await withTrack(application);
      // Far louder than the broadcast destination asks for.
      const destinationId = details.destinations.find(({ settings }) => settings.name === 'Broadcast')!.id;
      const order = { destinationId, versionId: details.versions[0].id };
      const path = `/api/tracks/${details.track.id}/deliveries`;
      const { id } = (await owner.ask<{ id: string }>('POST', path, order)).body;
      await until('the delivery is finished', async () => {
        const { body } = await owner.ask<{ status: string }>('GET', `/api/deliveries/${id}`);
        return body.status === 'finished';
      });
      const folder = mkdtempSync(join(application.folder, 'receipt-'));
      const [file, told] = [join(folder, 'file.wav'), join(folder, 'receipt.json')];
      writeFileSync(file, await owner.bytes(`/api/deliveries/${id}/file`));
      const receipt = JSON.parse((await owner.bytes(`/api/deliveries/${id}/receipt?form=json`)).toString()) as {
        verdict: object;
      };
      const { key } = (await owner.ask<{ key: string }>('GET', '/api/receipt-key')).body;
      const verify = (of: object) => {
        writeFileSync(told, JSON.stringify(of));
        const args = ['verify', told, file, '--key', key];
        const { status, stdout, stderr } = spawnSync('scripts/command', args, { encoding: 'utf8' });
        return { status, said: stdout + stderr };
      };
      const { status, said } = verify(receipt);
      must(status === 0, `The receipt itself is not taken as true: ${said}`);
      const forged = { ...receipt, verdict: { ...receipt.verdict, standing: 'meets', requirements: [] } };
      must(verify(forged).status === 2, 'A receipt whose verdict was changed is taken as true.');
    },
  },
  {
    name: 'a link to what was deleted gives nothing, and comes back with it',
    async attack(application) {
      const { owner, release, details } = await withTrack(application);
      const asked = { recipient: 'Dana', tracks: [{ trackId: details.track.id }], download: true };
      await owner.ask('POST', `/api/releases/${release}/links`, asked);
      const link = await until('the link is rendered', async () => {
        const { body } = await owner.ask<{ path: string; status: string }[]>('GET', `/api/releases/${release}/links`);
        return body[0].status === 'finished' && body[0];
      });
      const at = link.path.replace('/listen/', '/api/listening/');
      const places = ['', '/streams/master/opus', `/tracks/${details.track.id}/file`];
      const answers = async () =>
        (await Promise.all(places.map((place) => fetch(`${application.url}${at}${place}`, { method: 'HEAD' })))).map(
          ({ status }) => status,
        );
      must(
        (await answers()).every((status) => status < 300),
        'The link does not work at first.',
      );
      await owner.ask('DELETE', `/api/tracks/${details.track.id}`);
      must(
        (await answers()).every((status) => status === 410),
        `What was deleted is given: ${(await answers()).join()}.`,
      );
      await owner.ask('POST', '/api/removed/restored', { kind: 'track', id: details.track.id });
      must(
        (await answers()).every((status) => status < 300),
        'The link does not come back.',
      );
    },
  },
];
