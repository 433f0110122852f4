import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { AudioStore } from './audio-store';
import { KeptWork, removeKept } from './kept-work';

const [ID, OTHER] = ['00000000-0000-4000-8000-000000000001', '00000000-0000-4000-8000-000000000002'];
let folder: string;
let store: AudioStore;
const names = () => readdirSync(path.join(folder, 'incoming'));

beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-kept-'));
  store = new AudioStore(folder);
});
afterEach(() => rmSync(folder, { recursive: true }));

test('a part is made once, whoever asks again, and another one for anything that differs', async () => {
  const make = jest.fn((target: string) => writeFile(target, 'whole'));
  const first = await new KeptWork(store, ID).file(['mix', 1], make);
  expect(await new KeptWork(store, ID).file(['mix', 1], make)).toBe(first);
  expect(readFileSync(first, 'utf8')).toBe('whole');
  expect(await new KeptWork(store, ID).file(['mix', 2], make)).not.toBe(first);
  expect(await new KeptWork(store, OTHER).file(['mix', 1], make)).not.toBe(first);
  expect(make).toHaveBeenCalledTimes(3);
});

test('a part that failed half way is not taken for a whole one', async () => {
  const kept = new KeptWork(store, ID);
  const fails = kept.file('mix', async (target) => {
    await writeFile(target, 'ha');
    throw new Error('The process was stopped.');
  });
  await expect(fails).rejects.toThrow('stopped');
  expect(names()).toEqual([]);
  expect(readFileSync(await kept.file('mix', (target) => writeFile(target, 'whole')), 'utf8')).toBe('whole');
});

test('a stored file is used again only while the store has it', async () => {
  const kept = new KeptWork(store, ID);
  const file = await store.temporary();
  writeFileSync(file, 'encoded');
  const { hash } = await store.put(file);
  const make = jest.fn(() => Promise.resolve(hash));
  expect([await kept.stored('opus', make), await kept.stored('opus', make)]).toEqual([hash, hash]);
  expect(make).toHaveBeenCalledTimes(1);
  rmSync(store.path(hash));
  await kept.stored('opus', make);
  expect(make).toHaveBeenCalledTimes(2);
});

test('what is kept goes with its work, and that of others stays', async () => {
  for (const id of [ID, OTHER]) await new KeptWork(store, id).file('mix', (target) => writeFile(target, id));
  await new KeptWork(store, ID).discard();
  expect(names()).toEqual([expect.stringContaining(OTHER)]);
  await removeKept(store, () => Promise.resolve((id) => id === OTHER));
  expect(names()).toEqual([]);
});
