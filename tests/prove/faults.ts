// Faults that an installation must survive: each is provoked for real, and what must hold afterwards is looked at from outside.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { Application } from '../support/application';
import { until } from '../support/application';
import { newClient, testDatabase, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

export interface Fault {
  name: string;
  provoke(application: Application): Promise<void>;
}

interface TrackDetails {
  track: { id: string };
  mix: { id: string; status: string; refusal: string | null; heldBecause: string | null };
  versions: { id: string }[];
  destinations: { id: string; settings: { name: string } }[];
}
interface Delivery {
  id: string;
  status: string;
  progress: number;
  problem: string | null;
  heldBecause: string | null;
  receipt: { file: { sha256: string } } | null;
}

const RATE = 44100;

/** Throws with words unless something holds. */
function must(holds: boolean, words: string): void {
  if (!holds) throw new Error(words);
}

const client = (application: Application) => newClient(application.url, application.databaseUrl);

async function takeIn(owner: Client, seconds = 2): Promise<TrackDetails> {
  return owner.takeIn<TrackDetails>(await owner.newRelease(), 'mix.wav', wave(music(seconds, RATE), RATE));
}

async function order(owner: Client, { track, versions, destinations }: TrackDetails): Promise<string> {
  const destination = destinations.find(({ settings }) => settings.name === 'Broadcast')!;
  const body = { destinationId: destination.id, versionId: versions[0].id };
  return (await owner.ask<{ id: string }>('POST', `/api/tracks/${track.id}/deliveries`, body)).body.id;
}

const delivery = async (owner: Client, id: string) => (await owner.ask<Delivery>('GET', `/api/deliveries/${id}`)).body;

async function underWay(owner: Client, id: string): Promise<void> {
  await until('rendering is under way', async () => (await delivery(owner, id)).progress > 0);
}

/** Waits for the end of a delivery, and holds the downloaded file against its receipt. */
async function endsWell(owner: Client, id: string): Promise<void> {
  const { status, problem, receipt } = await until(
    'the delivery has ended',
    async () => {
      const found = await delivery(owner, id);
      return ['finished', 'failed', 'cancelled'].includes(found.status) && found;
    },
    120_000,
  );
  must(status === 'finished', `The delivery ended as ${status}: ${problem}`);
  const bytes = await owner.bytes(`/api/deliveries/${id}/file`);
  must(
    createHash('sha256').update(bytes).digest('hex') === receipt!.file.sha256,
    'The file is not what its receipt says.',
  );
}

const files = (application: Application) =>
  readdirSync(path.join(application.folder, 'audio'), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /^[0-9a-f]{64}$/.test(entry.name))
    .map(({ name }) => name)
    .sort();

/** A second database beside the application's own, migrated or not. */
async function anotherDatabase(application: Application, name: string): Promise<string> {
  const db = testDatabase(application.databaseUrl);
  await db.raw(`drop database if exists ${name} with (force)`);
  await db.raw(`create database ${name}`);
  await db.destroy();
  return application.databaseUrl.replace(/\/[^/]*$/, `/${name}`);
}

/** Damages a stored file in place. */
function damage(file: string): void {
  const bytes = readFileSync(file);
  bytes[bytes.length >> 1] ^= 1;
  rmSync(file);
  writeFileSync(file, bytes);
}

/** For an application that is to be provoked: quick to give work to others, and to try again what was held up. */
export const FAULTS_ENVIRONMENT = { COPPER_MIN_FREE_MB: '0', COPPER_LEASE_S: '5', COPPER_HELD_S: '2' };

export const FAULTS: Fault[] = [
  {
    name: 'a worker started against another, empty database touches nothing',
    async provoke(application) {
      await takeIn(await client(application));
      const before = files(application);
      const databaseUrl = await anotherDatabase(application, 'elsewhere');
      application.command('migrate', [], { env: { DATABASE_URL: databaseUrl } });
      const worker = spawn(process.execPath, ['dist/jobs/worker.js'], {
        env: { ...application.env, DATABASE_URL: databaseUrl },
        stdio: ['ignore', 'pipe', 'ignore'],
      });
      try {
        let said = '';
        worker.stdout.on('data', (text: Buffer) => (said += text.toString()));
        await until('the worker says what is wrong', () => Promise.resolve(/do not belong together/.test(said)));
        must(files(application).join() === before.join(), 'Files are gone from the store.');
        let refusal = '';
        try {
          application.command('store', ['sweep', '--all'], { env: { DATABASE_URL: databaseUrl } });
        } catch (error) {
          refusal = String(error);
        }
        must(/do not belong together/.test(refusal), `The operator's sweep was not refused: ${refusal}`);
        must(files(application).join() === before.join(), 'The operator’s sweep removed files.');
      } finally {
        worker.kill('SIGKILL');
      }
    },
  },
  {
    name: 'a delivery whose worker is killed is taken up again',
    async provoke(application) {
      const owner = await client(application);
      const id = await order(owner, await takeIn(owner, 40));
      await underWay(owner, id);
      await application.killWorker();
      const decoders = () => spawnSync('pgrep', ['-f', `^ffmpeg .*${application.folder}/`]).status === 0;
      await until('its decoders are gone with it', () => Promise.resolve(!decoders()), 20_000);
      application.startWorker();
      await endsWell(owner, id);
    },
  },
  {
    name: 'a worker that is told to stop gives its work back at once',
    async provoke(application) {
      const owner = await client(application);
      const id = await order(owner, await takeIn(owner, 40));
      await underWay(owner, id);
      application.signalWorker('SIGTERM');
      await until('the work is back in the queue', async () => (await delivery(owner, id)).status === 'waiting');
      application.startWorker();
      await endsWell(owner, id);
    },
  },
  {
    name: 'a listening link whose worker is restarted goes on from the tracks that were done',
    async provoke(application) {
      const owner = await client(application);
      const release = await owner.newRelease();
      const tracks: TrackDetails[] = [];
      for (const seconds of [2, 30])
        tracks.push(await owner.takeIn<TrackDetails>(release, 'mix.wav', wave(music(seconds, RATE), RATE)));
      const asked = { recipient: 'Dana', tracks: tracks.map(({ track }) => ({ trackId: track.id })) };
      const { id } = (await owner.ask<{ id: string }>('POST', `/api/releases/${release}/links`, asked)).body;
      const incoming = path.join(application.folder, 'audio', 'incoming');
      const kept = () =>
        readdirSync(incoming)
          .filter((name) => name.startsWith(`kept.${id}.`) && name.endsWith('.raw'))
          .map((name) => `${name} ${statSync(path.join(incoming, name)).ino}`);
      const [first] = await until('a track is rendered', () => Promise.resolve(kept().length > 0 && kept()));
      application.signalWorker('SIGTERM');
      application.startWorker();
      await until('the next track is rendered', () => Promise.resolve(kept().length > 1));
      must(kept().includes(first), 'The track that was rendered before the restart was rendered again.');
      await until(
        'the link is finished',
        async () => {
          const { body } = await owner.ask<{ id: string; status: string }[]>('GET', `/api/releases/${release}/links`);
          return body.find((each) => each.id === id)!.status === 'finished';
        },
        120_000,
      );
      await until('nothing is kept once it is finished', () => Promise.resolve(kept().length === 0));
    },
  },
  {
    name: 'a frozen worker spoils nothing when it goes on',
    async provoke(application) {
      const owner = await client(application);
      const id = await order(owner, await takeIn(owner, 40));
      await underWay(owner, id);
      application.signalWorker('SIGSTOP');
      const frozen = application.leaveWorker();
      const before = application.log().length;
      application.startWorker();
      try {
        await until('another worker has taken over and is under way', async () => {
          const { progress, status } = await delivery(owner, id);
          const taken = application.log().slice(before).includes('taking up abandoned work');
          return taken && status === 'rendering' && progress > 0;
        });
      } finally {
        // The frozen one goes on while the other works on the same delivery.
        frozen.resume();
      }
      await endsWell(owner, id);
      await frozen.end();
    },
  },
  {
    name: 'a damaged or missing stored file is told, and never sent',
    async provoke(application) {
      const owner = await client(application);
      const { mix } = await takeIn(owner, 3);
      const db = testDatabase(application.databaseUrl);
      const row = await db('mixes').where({ id: mix.id }).first<{ working_hash: string }>('working_hash');
      await db.destroy();
      const { working_hash: hash } = row;
      const file = path.join(application.folder, 'audio', 'files', hash.slice(0, 2), hash);
      must((await owner.bytes(`/api/mixes/${mix.id}/audio`)).length > 0, 'The whole file is not sent.');
      const whole = readFileSync(file);
      for (const state of ['damaged', 'missing'] as const) {
        if (state === 'damaged') damage(file);
        else rmSync(file);
        const { status, body } = await owner.ask('GET', `/api/mixes/${mix.id}/audio`);
        must(
          status === 500 && new RegExp(state).test(body.error ?? ''),
          `A ${state} file was answered with ${status}: ${body.error}`,
        );
        must(!/\/|0x/.test((body.error ?? '').replace('…', '')), `The answer names a path: ${body.error}`);
        let said = '';
        try {
          application.command('store', ['check']);
        } catch (error) {
          said = String(error);
        }
        must(/must be restored from a backup/.test(said), 'The check command found nothing.');
      }
      writeFileSync(file, whole);
      must(
        createHash('sha256')
          .update(await owner.bytes(`/api/mixes/${mix.id}/audio`))
          .digest('hex') === hash,
        'The restored file is not sent.',
      );
    },
  },
  {
    name: 'PostgreSQL killed in the middle of a delivery',
    async provoke(application) {
      const owner = await client(application);
      const id = await order(owner, await takeIn(owner, 40));
      await underWay(owner, id);
      application.crashDatabase();
      await application.answering();
      await endsWell(owner, id);
    },
  },
  {
    name: 'the server killed in the middle of an upload, which goes on where it was',
    async provoke(application) {
      const owner = await client(application);
      const bytes = wave(music(6, RATE), RATE);
      const release = await owner.newRelease();
      const half = bytes.length >> 1;
      const { id, send } = await beginUpload(owner, bytes);
      must((await send(0, half)) === half, 'The first half did not arrive.');
      await application.killServer();
      application.startServer();
      await application.answering();
      must((await send(null)) === half, 'The server forgot what had arrived.');
      must((await send(half)) === bytes.length, 'The second half did not arrive.');
      const { status } = await owner.ask('POST', `/api/releases/${release}/mixes`, { upload: id, name: 'mix.wav' });
      must(status === 201, `The upload was not taken: ${status}`);
    },
  },
  {
    name: 'the disk full while a mix arrives, while it is analysed and while it is delivered',
    provoke: diskFull,
  },
];

/** Begins a resumable upload; `send` sends from an offset, or only asks how much has arrived, and gives what has. */
export async function beginUpload(owner: Client, bytes: Buffer) {
  const headers = { cookie: owner.cookie, 'Tus-Resumable': '1.0.0' };
  const created = await fetch(`${owner.url}/api/uploads`, {
    method: 'POST',
    headers: { ...headers, 'Upload-Length': String(bytes.length) },
  });
  const id = created.headers.get('location')?.split('/').at(-1) ?? '';
  const send = async (from: number | null, to = bytes.length): Promise<number> => {
    const answer = await fetch(`${owner.url}/api/uploads/${id}`, {
      method: from === null ? 'HEAD' : 'PATCH',
      headers:
        from === null
          ? headers
          : { ...headers, 'Upload-Offset': String(from), 'Content-Type': 'application/offset+octet-stream' },
      body: from === null ? undefined : Uint8Array.from(bytes.subarray(from, to)),
    });
    return Number(answer.headers.get('upload-offset'));
  };
  const cancel = async () => (await fetch(`${owner.url}/api/uploads/${id}`, { method: 'DELETE', headers })).status;
  return { id, status: created.status, send, cancel };
}

/** Runs as root, or through sudo. */
function asRoot(...command: string[]): void {
  const [program, ...args] = process.getuid?.() === 0 ? command : ['sudo', '-n', ...command];
  const { status, stderr } = spawnSync(program, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`${command.join(' ')} failed: ${stderr}`);
}

/** A small file system in place of the incoming folder of the store, filled up and freed again. */
async function diskFull(application: Application): Promise<void> {
  const owner = await client(application);
  const folder = path.join(application.folder, 'audio', 'incoming');
  await takeIn(owner);
  asRoot('mount', '-t', 'tmpfs', '-o', 'size=3m,mode=0777', 'none', folder);
  const filler = path.join(folder, 'filler');
  try {
    writeFileSync(filler, Buffer.alloc(2.5 * 1024 * 1024));
    const release = await owner.newRelease();
    const { status, body } = await owner.send(release, 'large.wav', wave(music(8, RATE), RATE));
    must(
      status === 507 && /out of disk space/.test(body.error ?? ''),
      `A full disk was answered with ${status}: ${body.error}`,
    );
    must(readdirSync(folder).join() === 'filler', 'Half a file was left behind.');
    rmSync(filler);
  } finally {
    asRoot('umount', folder);
  }
  // The mix arrives whole, but there is no room to work on it; then there is.
  const release = await owner.newRelease();
  await application.killWorker();
  const sent = await owner.send(release, 'mix.wav', wave(music(20, RATE), RATE));
  must(sent.status === 201, `The mix was not taken: ${sent.status}`);
  asRoot('mount', '-t', 'tmpfs', '-o', 'size=1m,mode=0777', 'none', folder);
  const workspace = async () => (await owner.ask<TrackDetails>('GET', `/api/tracks/${sent.body.trackId}`)).body;
  let mounted = true;
  try {
    application.startWorker();
    const held = await until('the analysis says what it waits for', async () => {
      const { mix } = await workspace();
      return (mix.heldBecause ?? mix.refusal) !== null && mix;
    });
    must(
      held.status === 'waiting' && /out of disk space/.test(held.heldBecause ?? ''),
      `The mix is ${held.status}: ${held.refusal}`,
    );
    asRoot('umount', folder);
    mounted = false;
    await until(
      'the mix is analysed once there is room',
      async () => (await workspace()).mix.status === 'ready',
      90_000,
    );
    // The same for a delivery of it.
    asRoot('mount', '-t', 'tmpfs', '-o', 'size=1m,mode=0777', 'none', folder);
    mounted = true;
    const id = await order(owner, await workspace());
    await until('the delivery says what it waits for', async () => {
      const { status, heldBecause, problem } = await delivery(owner, id);
      must(status !== 'failed', `The delivery failed: ${problem}`);
      return status === 'waiting' && /out of disk space/.test(heldBecause ?? '');
    });
    asRoot('umount', folder);
    mounted = false;
    await endsWell(owner, id);
  } finally {
    if (mounted) asRoot('umount', folder);
  }
  must(existsSync(folder), 'The folder is gone.');
}
