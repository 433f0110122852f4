import { mkdtempSync, mkdirSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import { AudioStore } from './audio-store';
import { QUARANTINE_MS, sweep } from './sweep';

const HOUR = 3600 * 1000;
let folder: string;
let store: AudioStore;
let lines: string[];
const logger = pino({ level: 'warn' }, { write: (line: string) => void lines.push(line) });
beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-sweep-'));
  store = new AudioStore(folder);
  lines = [];
});
afterEach(() => rmSync(folder, { recursive: true }));

const age = (file: string, ms: number) => {
  const then = new Date(Date.now() - ms);
  utimesSync(file, then, then);
};
/** Puts a file into the store that is as old as given. */
const put = async (text: string, ms = 48 * HOUR) => {
  const file = await store.temporary();
  writeFileSync(file, text);
  const { hash } = await store.put(file);
  age(store.path(hash), ms);
  return hash;
};
const names = (part: string) => readdirSync(path.join(folder, part), { recursive: true }).map(String);

test('what nothing refers to goes into quarantine, with a line in the log, and can be had back', async () => {
  const [kept, unwanted, young] = [await put('kept'), await put('unwanted'), await put('young', 0)];
  expect(await sweep(store, new Set([kept]), logger)).toEqual({ quarantined: 1, restored: 0, deleted: 0, held: 0 });
  expect(names('quarantine')).toEqual([unwanted]);
  expect(lines.join()).toContain(unwanted);
  expect(readFileSync(store.path(young), 'utf8')).toBe('young');
  expect(await sweep(store, new Set([kept, unwanted]), logger)).toMatchObject({ restored: 1 });
  expect(readFileSync(store.path(unwanted), 'utf8')).toBe('unwanted');
});

test('quarantine is emptied days later, temporary files of killed processes after a day', async () => {
  const unwanted = await put('unwanted');
  const left = await store.temporary();
  writeFileSync(left, 'left by a killed process');
  await sweep(store, new Set(), logger);
  expect(names('incoming')).toHaveLength(1);
  age(left, 25 * HOUR);
  expect(await sweep(store, new Set(), logger, { now: Date.now() + QUARANTINE_MS - HOUR })).toMatchObject({
    deleted: 1,
  });
  expect(names('quarantine')).toEqual([unwanted]);
  expect(await sweep(store, new Set(), logger, { now: Date.now() + QUARANTINE_MS + HOUR })).toMatchObject({
    deleted: 1,
  });
  expect(names('quarantine')).toEqual([]);
});

test('an unusually large share is not moved without an operator', async () => {
  for (let i = 0; i < 60; i++) await put(`file ${i}`);
  expect(await sweep(store, new Set(), logger)).toEqual({ quarantined: 0, restored: 0, deleted: 0, held: 60 });
  expect(lines.at(-1)).toContain('--all');
  expect(await sweep(store, new Set(), logger, { operator: true })).toMatchObject({ quarantined: 60, held: 0 });
});

test('files that the store did not name are left alone', async () => {
  const strange = ['notes.txt', path.join('files', 'ab', 'readme'), path.join('quarantine', 'mine')];
  for (const name of strange) {
    mkdirSync(path.dirname(path.join(folder, name)), { recursive: true });
    writeFileSync(path.join(folder, name), 'mine');
    age(path.join(folder, name), 100 * 24 * HOUR);
  }
  await sweep(store, new Set(), logger, { operator: true });
  for (const name of strange) expect(readFileSync(path.join(folder, name), 'utf8')).toBe('mine');
});
