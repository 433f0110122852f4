// What comes from outside, mutated at random: uploads, lanes, bodies and addresses. Nothing may answer with a fault of the
// server, show how it looks inside, or keep it from answering others. The seed makes a run repeatable.
import fc from 'fast-check';
import { LANE_SCHEMA, newStage } from '@/core/lane/schema';
import { STAGE_KINDS } from '@/core/stages/registry';
import { Random } from '@/core/signal/random';
import { newClient, type Client } from '../support/client';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { wave } from '../support/wave';

export interface FuzzOptions {
  url: string;
  databaseUrl: string;
  /** How many of each kind. */
  uploads: number;
  lanes: number;
  bodies: number;
  seed: number;
}

const RATE = 44100;
/** What must not stand in an answer: addresses in memory, folders, what programs call themselves inside. */
const INSIDE =
  /0x[0-9a-f]{4,}|\/(tmp|var|home|root|work|usr)\/|\bat .*\.[jt]s:\d|node_modules|ffmpeg|ffprobe|postgres/i;

/** Throws unless an answer is one that a person could have been given. */
function requireFit(what: string, { status, body }: { status: number; body: { error?: string } }): void {
  if (status >= 500) throw new Error(`${what} was answered with ${status}: ${body.error}`);
  if (status >= 400 && !body.error) throw new Error(`${what} was refused with ${status}, without a word.`);
  if (body.error && INSIDE.test(body.error)) throw new Error(`${what} was told too much: ${body.error}`);
}

/** Whole files of the formats that are read, small ones. */
function originals(): [string, Buffer][] {
  const base = wave(music(1, RATE), RATE);
  const made = (...args: string[]) =>
    ffmpeg(['-f', 'lavfi', '-i', 'sine=440:sample_rate=44100:duration=1', '-ac', '2', ...args, '-']).out;
  return [
    ['a.wav', base],
    ['b.wav', wave(music(1, RATE), RATE, '32f')],
    ['c.flac', made('-c:a', 'flac', '-f', 'flac')],
    ['d.aiff', made('-c:a', 'pcm_s24be', '-f', 'aiff')],
    ['e.caf', made('-c:a', 'pcm_s16le', '-f', 'caf')],
    ['f.wv', made('-c:a', 'wavpack', '-f', 'wv')],
  ];
}

/** Changes some bytes, most of them in the header, cuts or repeats a part. */
function mutated(bytes: Buffer, random: Random): Buffer {
  const below = (most: number) => Math.floor(random.uniform() * most);
  let out = Buffer.from(bytes);
  for (let i = 0, count = 1 + below(8); i < count; i++) {
    const at = random.uniform() < 0.7 ? below(Math.min(120, out.length)) : below(out.length);
    switch (below(5)) {
      case 0:
        out[at] = below(256);
        break;
      case 1:
        out[at] ^= 1 << below(8);
        break;
      case 2:
        if (at + 4 <= out.length) out.writeUInt32LE([0, 1, 0x7fffffff, 0xffffffff, 0x80000000][below(5)], at);
        break;
      case 3:
        out = Buffer.concat([out.subarray(0, at), out.subarray(Math.min(out.length, at + below(64)))]);
        break;
      default:
        out = Buffer.concat([out.subarray(0, at), out.subarray(at, at + below(64)), out.subarray(at)]);
    }
    if (out.length === 0) return Buffer.from('RIFF');
  }
  return out;
}

async function uploads(client: Client, count: number, random: Random): Promise<void> {
  const files = originals();
  const release = await client.newRelease('Mutated');
  for (let i = 0; i < count; i++) {
    const [name, bytes] = files[i % files.length];
    const answer = await client.send(release, name, mutated(bytes, random));
    requireFit(`Mutation ${i} of ${name}`, answer);
    // What was taken goes at once: the worker sees some of them, and the release stays small.
    if (answer.status === 201 && i % 3 !== 0) await client.ask('DELETE', `/api/tracks/${answer.body.trackId}`);
    if (i % 50 === 49)
      for (const { id } of (await client.ask<{ tracks: { id: string }[] }>('GET', `/api/releases/${release}`)).body
        .tracks)
        await client.ask('DELETE', `/api/tracks/${id}`);
  }
}

/** A request without an answer for this long hangs, also on a machine that is starved of time. */
const ANSWER_MS = 60_000;

/** Names that lead astray where an object is used as a map. */
const ASTRAY = ['__proto__', 'constructor', 'prototype', 'toString', 'hasOwnProperty', 'valueOf'];
const anything = fc.anything({
  key: fc.oneof(fc.string(), fc.constantFrom(...ASTRAY)),
  maxDepth: 4,
  withNullPrototype: false,
});
const value = fc.oneof(
  fc.constantFrom(...ASTRAY, null, -1, 0, 1e308, '', '\0', '\ud800', LANE_SCHEMA, true),
  fc.double({ noNaN: true }),
  fc.string(),
  anything,
);

/** Lanes that are nearly right: a setting, a field or the schema is something else. */
const lanes = fc
  .record({
    kind: fc.constantFrom(...STAGE_KINDS),
    place: fc.constantFrom('schema', 'kind', 'id', 'on', 'settings', 'setting', 'crossovers', 'stages', 'extra'),
    value,
    key: fc.oneof(fc.constantFrom(...ASTRAY), fc.string()),
    pick: fc.nat(),
  })
  .map(({ kind, place, value: given, key, pick }): Record<string, unknown> => {
    const stage = newStage(kind, 's') as unknown as Record<string, unknown> & { settings: Record<string, unknown> };
    const lane: Record<string, unknown> = { schema: LANE_SCHEMA, stages: [stage] };
    if (place === 'schema' || place === 'crossovers' || place === 'stages') lane[place] = given;
    else if (place === 'setting') {
      const names = Object.keys(stage.settings);
      stage.settings[names[pick % names.length]] = given;
    } else if (place === 'extra') Object.defineProperty(stage.settings, key, { value: given, enumerable: true });
    else (stage as Record<string, unknown>)[place] = given;
    return lane;
  });

async function changedLanes(client: Client, count: number, seed: number): Promise<void> {
  const { versions } = await client.takeIn<{ versions: { id: string }[] }>(
    await client.newRelease('Lanes'),
    'mix.wav',
    wave(music(1, RATE), RATE),
  );
  let step = 0;
  const given = [...ASTRAY.map((schema) => ({ schema, stages: [] })), ...fc.sample(lanes, { numRuns: count, seed })];
  for (const lane of given) {
    let text: string;
    try {
      text = JSON.stringify({ lane, label: 'Changed', after: step });
    } catch {
      // What cannot be written as JSON (a big integer) cannot be sent either.
      continue;
    }
    const response = await fetch(`${client.url}/api/versions/${versions[0].id}/lane`, {
      method: 'PUT',
      headers: { ...client.headers, cookie: client.cookie, 'Content-Type': 'application/json' },
      body: text,
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    requireFit(`The lane ${text.slice(0, 300)}`, { status: response.status, body: (await response.json()) as object });
    if (response.ok) step++;
  }
}

/** Routes that take JSON, with what they want of it. */
const BODIES: [string, string, object][] = [
  ['POST', '/api/releases', { title: 'Title', artist: 'Artist' }],
  ['POST', '/api/session', { email: 'someone@example.com', password: 'x' }],
  ['PUT', '/api/account/password', { password: 'x', newPassword: 'y' }],
  ['PUT', '/api/account/settings', { destinations: ['Disc'], fileNamePattern: '{title}', studio: '', engineer: '' }],
  ['PATCH', '/api/account', { name: 'A' }],
  ['POST', '/api/removed/restored', { kind: 'track', id: '00000000-0000-4000-8000-000000000000' }],
  ['POST', '/api/account/first', { email: 'a@example.com', name: 'A', password: 'long enough password' }],
];

async function bodies(client: Client, count: number, seed: number, random: Random): Promise<void> {
  const values = fc.sample(value, { numRuns: count, seed });
  for (const [i, given] of values.entries()) {
    const [method, path, wanted] = BODIES[i % BODIES.length];
    const names = Object.keys(wanted);
    const changed = i % 5 === 0 ? given : { ...wanted, [names[i % names.length]]: given };
    let text: string | undefined;
    try {
      text = JSON.stringify(changed);
    } catch {
      continue;
    }
    if (text === undefined) continue;
    if (random.uniform() < 0.1) text = text.slice(0, -1);
    const response = await fetch(client.url + path, {
      method,
      headers: { ...client.headers, cookie: client.cookie, 'Content-Type': 'application/json' },
      body: text,
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    const said = await response.text();
    // The sign-in may be busy; nothing else may be.
    if (response.status === 503 && path === '/api/session') continue;
    requireFit(`${method} ${path} ${text.slice(0, 200)}`, {
      status: response.status,
      body: said ? (JSON.parse(said) as object) : {},
    });
  }
}

/** Runs all kinds; throws with the first that should not have been. */
export async function fuzz({ url, databaseUrl, seed, ...counts }: FuzzOptions): Promise<void> {
  const client = await newClient(url, databaseUrl);
  const random = new Random(seed);
  await uploads(client, counts.uploads, random);
  await changedLanes(client, counts.lanes, seed);
  await bodies(client, counts.bodies, seed, random);
  const { status } = await client.ask('GET', '/api/health');
  if (status !== 200) throw new Error(`After all that the server is not well: ${status}`);
}
