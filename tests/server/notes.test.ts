import type { Note } from '@/contracts/note';
import type { TrackDetails } from '@/contracts/track';
import { until } from '../support/application';
import { newClient, type Client } from '../support/client';
import { ffmpegSamples } from '../support/ffmpeg';
import { music } from '../support/music';
import { wave } from '../support/wave';

const RATE = 44100;
/** A click that a note stands on, in seconds, and how much later the second mix begins. */
const CLICK = 4;
const LATE = 1632;

let client: Client;
let track: string;
const first = music(8, RATE, 0.1);
const clicked = (late: number) => {
  const channel = (x: Float64Array) => {
    const y = new Float64Array(x.length + late);
    y.set(x, late);
    y[CLICK * RATE + late] = 0.95;
    return y;
  };
  return wave({ left: channel(first.left), right: channel(first.right) }, RATE);
};
beforeAll(async () => {
  client = await newClient();
  track = (await client.takeIn<TrackDetails>(await client.newRelease(), 'mix 1.wav', clicked(0))).track.id;
});

const details = async () => (await client.ask<TrackDetails>('GET', `/api/tracks/${track}`)).body;
const write = (note: object) => client.ask<Note>('POST', `/api/tracks/${track}/notes`, note);
const NOTE = { kind: 'fault', startSeconds: CLICK, endSeconds: null, text: 'a click' };

test('notes are written, changed and deleted, in the order of the track', async () => {
  const { status, body: later } = await write(NOTE);
  expect(status).toBe(201);
  const { body: loop } = await write({ kind: 'loop', startSeconds: 1, endSeconds: 2.5, text: 'chorus' });
  expect((await details()).notes.map(({ text }) => text)).toEqual(['chorus', 'a click']);
  const change = { kind: 'done', startSeconds: 0.5, endSeconds: null, text: 'gone' };
  expect((await client.ask('PATCH', `/api/notes/${later.id}`, change)).status).toBe(204);
  expect((await details()).notes[0]).toMatchObject({ id: later.id, ...change });
  for (const { id } of [later, loop]) expect((await client.ask('DELETE', `/api/notes/${id}`)).status).toBe(204);
  expect((await details()).notes).toEqual([]);
  expect((await client.ask('DELETE', `/api/notes/${later.id}`)).status).toBe(404);
  // Undone, it is the same note.
  expect((await client.ask('PATCH', `/api/notes/${later.id}`, { restored: true })).status).toBe(204);
  expect((await details()).notes).toMatchObject([{ id: later.id, ...change }]);
  await client.ask('DELETE', `/api/notes/${later.id}`);
});

test.each([
  [{ ...NOTE, text: ' ' }, 'Write what the note says.'],
  [{ ...NOTE, startSeconds: -1 }, 'A note lies within the track.'],
  [{ ...NOTE, startSeconds: 5, endSeconds: 5 }, 'A passage ends after it starts.'],
  [{ ...NOTE, kind: 'idea' }, 'kind'],
  [{ ...NOTE, text: 'x'.repeat(2001) }, 'at most|up to 2000'],
  [{ ...NOTE, startSeconds: null }, 'startSeconds'],
])('%p is refused in words', async (note, words) => {
  const { status, body } = await write(note);
  expect([status, body.error]).toEqual([422, expect.stringMatching(words)]);
});

test('one end of a passage alone can’t be changed', async () => {
  const { body: note } = await write({ ...NOTE, endSeconds: 6 });
  const { status, body } = await client.ask('PATCH', `/api/notes/${note.id}`, { startSeconds: 7 });
  expect([status, body.error]).toEqual([422, 'Give both ends of the note.']);
  await client.ask('DELETE', `/api/notes/${note.id}`);
});

test('after a new mix that begins later a note still stands on what it was written about, to the sample', async () => {
  await write(NOTE);
  const { body } = await client.ask<{ mixId: string }>('POST', `/api/tracks/${track}/mixes?name=2.wav`, clicked(LATE));
  const after = await until('the mix is ready', async () => {
    const now = await details();
    return now.mix?.id === body.mixId && now.mix.status === 'ready' && now;
  });
  expect(after.mix?.linedUp).toMatchObject({ outcome: 'found', offsetFrames: LATE });
  const samples = ffmpegSamples(await client.bytes(`/api/mixes/${body.mixId}/audio`));
  const at = Math.round(after.notes[0].startSeconds * RATE);
  const left = samples.filter((_, i) => i % 2 === 0);
  expect(left.reduce((best, x, i) => (x > left[best] ? i : best), 0)).toBe(at);
});
