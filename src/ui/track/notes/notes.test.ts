import type { NewNote } from '../../../contracts/note';
import { useDone } from '../../kit/undo-store';
import { Notes } from './notes';

const note = (startSeconds: number, text = `at ${startSeconds}`): NewNote => ({
  ...{ kind: 'fault', startSeconds, endSeconds: null, text },
});
let failing = false;
let asked: string[];
let problems: string[];

beforeEach(() => {
  failing = false;
  asked = [];
  problems = [];
  globalThis.fetch = ((address: string, { method, body }: { method: string; body?: string }) => {
    asked.push(`${method} ${address}`);
    if (failing) return Promise.resolve(Response.json({ error: 'No.' }, { status: 503 }));
    if (method !== 'POST') return Promise.resolve(new Response(null, { status: 204 }));
    const kept = { id: `n${asked.length}`, createdAt: '2026-01-01T00:00:00Z', author: null };
    const added = { ...(JSON.parse(body!) as NewNote), ...kept };
    return Promise.resolve(Response.json(added, { status: 201 }));
  }) as typeof fetch;
});

const settled = () => new Promise((resolve) => setImmediate(resolve));
const open = () => new Notes('t', [], (problem) => problems.push(problem));
const texts = (notes: Notes) => notes.store.getState().notes.map(({ text }) => text);

test('notes stand in the order of the track, and one goes from each to the next', async () => {
  const notes = open();
  for (const seconds of [30, 10, 20]) await notes.add(note(seconds));
  expect(texts(notes)).toEqual(['at 10', 'at 20', 'at 30']);
  expect(notes.next(10.01, 1)?.text).toBe('at 20');
  expect(notes.next(20.01, -1)?.text).toBe('at 10');
  expect(notes.next(30, 1)).toBeUndefined();
  expect(notes.next(10, -1)).toBeUndefined();
});

test('a deleted note can be written again', async () => {
  const notes = open();
  const added = await notes.add(note(5));
  notes.remove(added!.id);
  expect(texts(notes)).toEqual([]);
  await settled();
  expect(asked.at(-1)).toBe(`DELETE /api/notes/${added!.id}`);
  useDone.getState().done?.undo();
  await settled();
  expect(texts(notes)).toEqual(['at 5']);
});

test('what the server does not keep is taken back, and said', async () => {
  const notes = open();
  const added = await notes.add(note(5));
  failing = true;
  notes.change(added!.id, { text: 'other', kind: 'done' });
  expect(texts(notes)).toEqual(['other']);
  await settled();
  expect(texts(notes)).toEqual(['at 5']);
  notes.remove(added!.id);
  await settled();
  expect(texts(notes)).toEqual(['at 5']);
  expect(await notes.add(note(6))).toBeNull();
  expect(problems).toEqual(['No.', 'No.', 'No.']);
});
