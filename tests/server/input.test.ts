import { connect } from 'node:net';
import { ffmpeg } from '../support/ffmpeg';
import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { beginUpload } from '../prove/faults';
import { silence, sine, both } from '../support/signals';
import { wave } from '../support/wave';

const RATE = 44100;
let client: Client;
let release: string;
beforeAll(async () => {
  client = await newClient();
  release = await client.newRelease();
});

interface Taken {
  mix: {
    status: string;
    refusal: string | null;
    source: { bits: number; float: boolean };
    report: {
      bitsUsed: number;
      samplePeakDbfs: [number, number];
      durationSeconds: number;
      findings: { title: string }[];
    };
  };
}

const WAVE = wave(music(1, RATE), RATE);
const chunk = (name: string, bytes: Buffer) => {
  const head = Buffer.alloc(8);
  head.write(name, 0, 'latin1');
  head.writeUInt32LE(bytes.length, 4);
  return Buffer.concat([head, bytes]);
};
/** A WAV file of these chunks. */
const riff = (...chunks: Buffer[]) => {
  const body = Buffer.concat([Buffer.from('WAVE'), ...chunks]);
  return chunk('RIFF', body);
};
const [FORMAT, DATA] = [WAVE.subarray(12, 36), WAVE.subarray(36)];

/** A WAV of 24 valid bits at the top of 32, as its extended header says. */
function twentyFourInThirtyTwo(): Buffer {
  const format = Buffer.alloc(40);
  format.writeUInt16LE(0xfffe, 0);
  format.writeUInt16LE(2, 2);
  format.writeUInt32LE(RATE, 4);
  format.writeUInt32LE(RATE * 8, 8);
  format.writeUInt16LE(8, 12);
  format.writeUInt16LE(32, 14);
  format.writeUInt16LE(22, 16);
  format.writeUInt16LE(24, 18);
  format.writeUInt32LE(3, 20);
  Buffer.from('0100000000001000800000aa00389b71', 'hex').copy(format, 24);
  const tone = sine(997, -6, 2, RATE);
  const data = Buffer.alloc(tone.length * 8);
  tone.forEach((x, i) => {
    const value = Math.round(x * 8388607) * 256;
    data.writeInt32LE(value, i * 8);
    data.writeInt32LE(value, i * 8 + 4);
  });
  // Something after the audio, which must not be played.
  return riff(chunk('fmt ', format), chunk('data', data), chunk('LIST', Buffer.alloc(4000, 0x55)));
}

test.each([
  ['two blocks of audio', () => riff(FORMAT, DATA, DATA), /two blocks of audio/],
  [
    '200,000 empty chunks',
    () => riff(Buffer.concat(Array(200_000).fill(chunk('junk', Buffer.alloc(0)))), FORMAT, DATA),
    /more than 1000 chunks/,
  ],
  [
    'an odd number of bytes',
    () => riff(FORMAT, chunk('data', Buffer.alloc(6001)), Buffer.alloc(1)),
    /middle of a sample/,
  ],
  ['no audio', () => riff(FORMAT), /before its audio starts/],
  [
    'a playlist',
    () => Buffer.from('#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\n/etc/hostname\n'),
    /not a readable audio file/,
  ],
  ['a list of files', () => Buffer.from("ffconcat version 1.0\nfile '/etc/hostname'\n"), /not a readable audio file/],
])('%s is refused with the reason', async (_, bytes, words) => {
  const { status, body } = await client.send(release, 'mix.wav', bytes());
  expect([status, body.error]).toEqual([422, expect.stringMatching(words)]);
});

test.each(['NaN', 'Infinity', '-Infinity'])(
  '%s in a float file is refused by the job, with the reason',
  async (value) => {
    const signal = music(1, RATE);
    signal.left[500] = Number(value);
    const { mix } = await client.takeIn<Taken>(release, 'float.wav', wave(signal, RATE, '32f'));
    expect([mix.status, mix.refusal]).toEqual(['refused', expect.stringMatching(/has samples that are NaN, infinite/)]);
  },
);

test('what unpacks to more than it announces, or than a mix may have, stops there', async () => {
  const flac = (...args: string[]) => ffmpeg(['-f', 'lavfi', '-i', ...args, '-f', 'flac', '-']).out;
  const hour = await client.takeIn<Taken>(
    release,
    'bomb.flac',
    flac('anullsrc=r=32000:cl=mono:d=3700', '-c:a', 'flac'),
  );
  expect(hour.mix.refusal).toMatch(/longer than 60 minutes/);
  const lying = flac('sine=997:sample_rate=44100:duration=15', '-ac', '2', '-c:a', 'flac');
  // 36 bits of STREAMINFO say how many samples there are: one second of them.
  lying.writeUInt32BE(RATE, 22);
  const { mix } = await client.takeIn<Taken>(release, 'lying.flac', lying);
  expect(mix.refusal).toMatch(/has more audio than its header says/);
});

test('24 bits in containers of 32 are read as what they are', async () => {
  const { mix } = await client.takeIn<Taken>(release, 'extended.wav', twentyFourInThirtyTwo());
  expect(mix.source).toMatchObject({ bits: 24, float: false });
  expect(mix.report.bitsUsed).toBe(24);
  expect(mix.report.samplePeakDbfs[0]).toBeCloseTo(-6, 2);
  expect(mix.report.durationSeconds).toBe(2);
});

test('a FLAC that does not say how long it is is taken in; silence is called silence', async () => {
  const args = ['-f', 'lavfi', '-i', 'sine=997:sample_rate=44100:duration=15', '-ac', '2', '-f', 'flac', '-'];
  const { mix } = await client.takeIn<Taken>(release, 'piped.flac', ffmpeg(args).out);
  expect([mix.status, mix.refusal]).toEqual(['ready', null]);
  expect(mix.report.durationSeconds).toBe(15);
  const quiet = await client.takeIn<Taken>(release, 'silence.wav', wave(both(silence(30, RATE)), RATE));
  expect(quiet.mix.report.findings.map(({ title }) => title)).toEqual(['Silent']);
});

test('a body that is too large, too deep or no text is refused before it is looked at', async () => {
  const send = (body: BodyInit, path = '/api/session') =>
    fetch(client.url + path, {
      method: 'POST',
      headers: { cookie: client.cookie, 'Content-Type': 'application/json' },
      body,
    });
  expect((await send(JSON.stringify({ email: 'a@b.example', password: 'x'.repeat(600_000) }))).status).toBe(413);
  expect((await send(`${'['.repeat(5000)}${']'.repeat(5000)}`)).status).toBe(422);
  expect((await send(Uint8Array.of(0x22, 0xff, 0xfe, 0x22))).status).toBe(400);
  for (const title of ['a\0b', 'a\ud800b']) {
    const answer = await send(JSON.stringify({ title }), '/api/releases');
    expect([answer.status, await answer.json()]).toEqual([
      422,
      { code: 'invalid', error: expect.stringMatching(/invalid characters/) as string },
    ]);
  }
  // Announced as endless, it is cut off where the limit is.
  const chunked = new ReadableStream<Uint8Array>({
    pull: (controller) => controller.enqueue(new Uint8Array(65536).fill(0x20)),
  });
  const endless = await fetch(`${client.url}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: chunked,
    duplex: 'half',
  } as RequestInit).then(
    ({ status }) => status,
    () => 413,
  );
  expect(endless).toBe(413);
});

test('a file name with half a character or NUL does no harm', async () => {
  for (const name of ['%00x.wav', 'a%ED%A0%80.wav']) {
    const response = await fetch(`${client.url}/api/releases/${release}/mixes?name=${name}`, {
      method: 'POST',
      headers: { cookie: client.cookie },
      body: Uint8Array.from(WAVE),
    });
    expect([201, 400, 422]).toContain(response.status);
  }
});

test('an upload is resumed where it was, and belongs to who began it', async () => {
  const { id, status, send } = await beginUpload(client, WAVE);
  expect(status).toBe(201);
  expect(await send(0, 1000)).toBe(1000);
  const other = await newClient();
  const foreign = await fetch(`${client.url}/api/uploads/${id}`, {
    method: 'HEAD',
    headers: { cookie: other.cookie, 'Tus-Resumable': '1.0.0' },
  });
  expect(foreign.status).toBe(404);
  const take = (by: Client, to = release) =>
    by.ask('POST', `/api/releases/${to}/mixes`, { upload: id, name: 'Resumed.wav' });
  expect((await take(other, await other.newRelease())).status).toBe(404);
  expect((await take(client)).status).toBe(409);
  expect(await send(1000)).toBe(WAVE.length);
  expect((await take(client)).status).toBe(201);
  expect((await take(client)).status).toBe(404);
  const large = await fetch(`${client.url}/api/uploads`, {
    method: 'POST',
    headers: { cookie: client.cookie, 'Tus-Resumable': '1.0.0', 'Upload-Length': String(3 * 2 ** 30) },
  });
  expect([large.status, await large.json()]).toEqual([
    413,
    { error: expect.stringMatching(/larger than 2048 MB/) as string },
  ]);
  const stranger = await fetch(`${client.url}/api/uploads`, { method: 'POST', headers: { 'Upload-Length': '10' } });
  expect(stranger.status).toBe(401);
});

test('releases come in pages', async () => {
  const own = await newClient();
  for (let i = 0; i < 53; i++) await own.newRelease(`Release ${i}`);
  const page = async (after?: string) =>
    (
      await own.ask<{ releases: { title: string }[]; next: string | null }>(
        'GET',
        `/api/releases${after ? `?after=${after}` : ''}`,
      )
    ).body;
  const first = await page();
  expect(first.releases).toHaveLength(50);
  expect(first.releases[0].title).toBe('Release 52');
  const second = await page(first.next!);
  expect(second).toMatchObject({ next: null });
  expect(second.releases.map(({ title }) => title)).toEqual(['Release 2', 'Release 1', 'Release 0']);
  expect((await own.ask('GET', '/api/releases?after=x')).status).toBe(422);
});

test('connections that say nothing keep nobody waiting', async () => {
  const { hostname, port } = new URL(client.url);
  const silent = Array.from({ length: 100 }, () => connect(Number(port), hostname));
  expect((await client.ask('GET', '/api/releases')).status).toBe(200);
  silent.forEach((socket) => socket.destroy());
});
