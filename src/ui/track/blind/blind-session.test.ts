import type { BlindTest } from '../../../contracts/blind-test';
import type { LiveRequest } from '../../../engine/live/protocol';
import { PassagePlayer } from '../passage-player';
import { BlindSession } from './blind-session';

const RATE = 44100;
const TEST: BlindTest = {
  ...{ id: 't', kind: 'tell', names: ['Mix', 'Master'], trials: 1, startSeconds: 1, sampleRate: RATE, frames: 4 },
  ...{ status: 'gathering', answered: 0, createdAt: '2026-03-04T12:00:00.000Z', result: null, assignment: null },
  answers: null,
};
const passage = { start: RATE, end: RATE + 4 };
const candidates = ['Mix', 'Master'].map((name) => ({
  name,
  buffer: { left: new Float32Array(2 * RATE).fill(0.1), right: new Float32Array(2 * RATE).fill(0.1) },
  place: { offset: 0, loop: null },
}));
const levels = { measure: () => Promise.resolve({ integratedLufs: -20, truePeakDbtp: -20 }) } as never;

/** A session with a server that begins tests, or refuses to with a sentence. */
function session(refusal?: string) {
  const asked: string[] = [];
  global.fetch = jest.fn((path: string, { method = 'GET' }: RequestInit = {}) => {
    asked.push(`${method} ${path}`);
    if (path.endsWith('/begin') && refusal)
      return Promise.resolve(Response.json({ error: refusal, code: 'unprocessable' }, { status: 422 }));
    if (path.includes('/sounds')) return Promise.resolve(new Response(new Uint8Array(32)));
    if (method === 'DELETE') return Promise.resolve(new Response(null, { status: 204 }));
    const status = path.endsWith('/begin') ? 'running' : path.endsWith('/answers') ? 'finished' : 'gathering';
    return Promise.resolve(Response.json({ ...TEST, status, answered: status === 'finished' ? 1 : 0 }));
  }) as never;
  const sent: LiveRequest[] = [];
  const heard: (string | null)[] = [];
  let loop: { start: number; end: number } | null = { start: 7, end: 9 };
  const player = new PassagePlayer(
    { send: (request: LiveRequest) => sent.push(request) },
    { hearPassage: (source: string | null) => heard.push(source) },
    {
      store: { getState: () => ({ loop }) },
      setLoop: (next: typeof loop) => (loop = next),
      keepLoop: (next: typeof loop) => (loop = next),
    } as never,
  );
  const blind = new BlindSession('track', player);
  return { blind, asked, sent, heard, loop: () => loop };
}
const plan = { kind: 'tell', trials: 1, candidates, passage, sampleRate: RATE } as const;

test('a test plays its letters in its passage, and gives everything back when it is left', async () => {
  const { blind, sent, heard, loop } = session();
  await blind.begin(plan, levels);
  expect(loop()).toEqual(passage);
  const places = sent.flatMap((each) => (each.type === 'place' ? [[each.id, each.place.offset]] : []));
  expect(places).toEqual([
    ['blind-A', -RATE],
    ['blind-B', -RATE],
    ['blind-X', -RATE],
  ]);
  expect(heard).toEqual(['blind-A']);
  // Nobody can answer who has not heard X.
  expect(blind.canAnswer()).toBe(false);
  blind.listen('X');
  expect(blind.canAnswer()).toBe(false);
  blind.sounds();
  expect(blind.canAnswer()).toBe(true);
  await blind.answer({ choice: 0 });
  expect(blind.store.getState().taken?.status).toBe('finished');
  expect(heard.at(-1)).toBeNull();
  blind.leave();
  expect(loop()).toEqual({ start: 7, end: 9 });
  const gone = sent.flatMap((each) => (each.type === 'source' && each.buffer === null ? [each.id] : []));
  expect(new Set(gone)).toEqual(new Set(['blind-A', 'blind-B', 'blind-X']));
});

test('a test that may not begin says why and leaves nothing behind', async () => {
  const { blind, asked, heard } = session('“Master” is 0.15 LU louder than “Mix” in this passage.');
  await blind.begin(plan, levels);
  const { problem, taken, busy } = blind.store.getState();
  expect([problem, taken, busy]).toEqual([expect.stringContaining('0.15 LU louder'), null, null]);
  expect(asked.at(-1)).toBe('DELETE /api/blind-tests/t');
  expect(heard).toEqual([]);
});
