import type { BlindTest } from '@/contracts/blind-test';
import type { TrackDetails } from '@/contracts/track';
import { newClient, type Client } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const RATE = 44100;
const FRAMES = RATE;
let client: Client;
let track: string;
beforeAll(async () => {
  client = await newClient();
  const mix = wave(music(2, RATE), RATE);
  track = (await client.takeIn<TrackDetails>(await client.newRelease(), 'mix.wav', mix)).track.id;
});

/** A sound as it is sent: the music at a level, told apart by what is added at its first frame. */
function sound(gain: number, mark = 0): Uint8Array {
  const { left, right } = music(1, RATE);
  const samples = Float32Array.from({ length: 2 * FRAMES }, (_, i) => gain * (i % 2 ? right : left)[i >> 1]);
  samples[0] += mark;
  return new Uint8Array(samples.buffer);
}
const TELL = {
  ...{ kind: 'tell', names: ['Mix', 'Master'], trials: 6, startSeconds: 0.5, sampleRate: RATE, frames: FRAMES },
};
async function prepared(test: object, sounds: Uint8Array[]): Promise<string> {
  const { body } = await client.ask<BlindTest>('POST', `/api/tracks/${track}/blind-tests`, test);
  for (const [i, bytes] of sounds.entries())
    expect((await client.ask('PUT', `/api/blind-tests/${body.id}/sounds?position=${i}`, bytes)).status).toBe(204);
  return body.id;
}
const begin = (id: string) => client.ask<BlindTest>('POST', `/api/blind-tests/${id}/begin`);
const answer = (id: string, trial: number, given: object) =>
  client.ask<BlindTest>('POST', `/api/blind-tests/${id}/answers`, { trial, answer: given });
const heard = async (id: string, trial: number, letter: string) => {
  const bytes = await client.bytes(`/api/blind-tests/${id}/sounds?trial=${trial}&letter=${letter}`);
  return new Float32Array(Uint8Array.from(bytes).buffer);
};
/** The mark at the first frame, to a hundredth. */
const markOf = (samples: Float32Array) => Math.round(100 * (samples[0] - music(1, RATE).left[0])) / 100 + 0;

test('telling two apart: nothing is revealed before the end, and the result is what was heard', async () => {
  const id = await prepared(TELL, [sound(1, 0), sound(1, 0.02)]);
  const { status, body: running } = await begin(id);
  expect([status, running.status, running.assignment, running.result]).toEqual([200, 'running', null, null]);
  const behind: number[] = [];
  for (let trial = 0; trial < 6; trial++) {
    const [x, again] = [await heard(id, trial, 'X'), await heard(id, trial, 'X')];
    // The same sound, but no two answers have the same bytes.
    expect(Buffer.from(x.buffer).equals(Buffer.from(again.buffer))).toBe(false);
    expect(Math.max(...x.map((value, i) => Math.abs(value - again[i])))).toBeLessThan(2 ** -21);
    const place = markOf(x) > 0.01 ? 1 : 0;
    behind.push(place);
    const { body: state } = await answer(id, trial, { choice: trial === 0 ? 1 - place : place });
    const finished = trial === 5;
    expect([state.answered, state.status]).toEqual([trial + 1, finished ? 'finished' : 'running']);
    if (!finished) expect(JSON.stringify(state)).not.toMatch(/"assignment":\[|"right":/);
  }
  const { body: result } = await client.ask<BlindTest>('GET', `/api/blind-tests/${id}`);
  expect(result.assignment).toEqual(behind.map((place) => [place]));
  expect(result.result).toMatchObject({ right: 5 });
  expect(result.result!.sentences[0]).toBe('5 of 6 right.');
  expect(markOf(await heard(id, 0, 'A'))).toBe(0);
  expect(markOf(await heard(id, 0, 'B'))).toBe(0.02);
});

test('grading: the letters change from trial to trial, and grades go back to the names', async () => {
  const names = ['Reference', 'One', 'Two'];
  const marks = [0, 0.02, 0.04];
  const id = await prepared(
    { ...TELL, kind: 'grade', names, trials: 8 },
    marks.map((mark) => sound(1, mark)),
  );
  await begin(id);
  const orders = new Set<string>();
  for (let trial = 0; trial < 8; trial++) {
    const found = [];
    for (const letter of ['A', 'B', 'C']) found.push(marks.indexOf(markOf(await heard(id, trial, letter))));
    orders.add(found.join());
    expect([...found].sort()).toEqual([0, 1, 2]);
    expect(markOf(await heard(id, trial, 'R'))).toBe(0);
    await answer(id, trial, { grades: found.map((place) => [100, 60, 20][place]) });
  }
  expect(orders.size).toBeGreaterThan(1);
  const { body } = await client.ask<BlindTest>('GET', `/api/blind-tests/${id}`);
  expect(body.result!.grades.map(({ mean }) => mean)).toEqual([100, 60, 20]);
});

test('it does not begin unless all sounds are there and equally loud within 0.1 LU', async () => {
  const missing = await prepared(TELL, [sound(1)]);
  expect((await begin(missing)).status).toBe(409);
  const louder = await prepared(TELL, [sound(1), sound(10 ** (0.15 / 20))]);
  const { status, body } = await begin(louder);
  expect([status, body.error]).toEqual([422, expect.stringContaining('“Master” is 0.15 LU louder than “Mix”')]);
  const equal = await prepared(TELL, [sound(1), sound(10 ** (0.08 / 20))]);
  expect((await begin(equal)).status).toBe(200);
});

test('what comes too early, too late or in another form is refused in words', async () => {
  const id = await prepared(TELL, [sound(1), sound(1, 0.01)]);
  const refused = async (work: Promise<{ status: number; body: { error?: string } }>) => {
    const { status, body } = await work;
    return `${status} ${body.error}`;
  };
  expect(await refused(answer(id, 0, { choice: 0 }))).toBe('409 This blind test is not running.');
  expect(await refused(client.ask('GET', `/api/blind-tests/${id}/sounds?trial=0&letter=X`))).toContain('409');
  await begin(id);
  expect(await refused(begin(id))).toBe('409 This blind test has already begun.');
  expect(await refused(answer(id, 1, { choice: 0 }))).toBe('409 Trial 1 is due.');
  expect(await refused(answer(id, 0, { grades: [50, 60] }))).toBe('422 Say which of the two it is.');
  expect(await refused(client.ask('PUT', `/api/blind-tests/${id}/sounds?position=0`, sound(1)))).toContain('409');
  // Trials that are not due yet can't be listened to in advance.
  for (const query of ['trial=1&letter=X', 'trial=0&letter=C', 'trial=-1&letter=X', 'trial=x&letter=X', 'trial=0'])
    expect(await refused(client.ask('GET', `/api/blind-tests/${id}/sounds?${query}`))).toContain('404');
  const other = await client.ask<BlindTest>('POST', `/api/tracks/${track}/blind-tests`, TELL);
  const short = client.ask('PUT', `/api/blind-tests/${other.body.id}/sounds?position=0`, sound(1).subarray(0, 800));
  expect(await refused(short)).toContain('422 The sound has 800 bytes');
  expect(
    await refused(client.ask('POST', `/api/tracks/${track}/blind-tests`, { ...TELL, names: ['a', 'b', 'c'] })),
  ).toContain('422 Two candidates');
  expect(
    await refused(client.ask('POST', `/api/tracks/${track}/blind-tests`, { ...TELL, frames: 31 * RATE })),
  ).toContain('longer than 30 s');
});

test('a test is listed with its track and can be deleted', async () => {
  const before = (await client.ask<BlindTest[]>('GET', `/api/tracks/${track}/blind-tests`)).body;
  expect(before.length).toBeGreaterThan(3);
  expect((await client.ask('DELETE', `/api/blind-tests/${before[0].id}`)).status).toBe(204);
  expect((await client.ask<BlindTest[]>('GET', `/api/tracks/${track}/blind-tests`)).body).toHaveLength(
    before.length - 1,
  );
});
