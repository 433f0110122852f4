import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { AudioStore } from './audio-store';

let folder: string;
let store: AudioStore;
beforeEach(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-store-'));
  store = new AudioStore(folder);
});
afterEach(() => rmSync(folder, { recursive: true }));
const incoming = () => readdirSync(path.join(folder, 'incoming'));

test('a received file is kept under the hash of its bytes', async () => {
  const bytes = Buffer.from('some sound');
  const {
    file,
    hash,
    bytes: length,
  } = await store.receive(Readable.from([bytes.subarray(0, 4), bytes.subarray(4)]), 100);
  expect(hash).toBe(createHash('sha256').update(bytes).digest('hex'));
  expect(length).toBe(10);
  await store.adopt(file, hash);
  expect(readFileSync(store.path(hash))).toEqual(bytes);
  expect(incoming()).toEqual([]);
  expect(await store.size(hash)).toBe(10);
});

test('what is too large or breaks off leaves nothing', async () => {
  await expect(store.receive(Readable.from([Buffer.alloc(11)]), 10)).rejects.toMatchObject({ status: 413 });
  const broken = new Readable({
    read() {
      this.push(Buffer.alloc(5));
      this.destroy(new Error('connection lost'));
    },
  });
  await expect(store.receive(broken, 10)).rejects.toThrow('connection lost');
  expect(incoming()).toEqual([]);
});

test('a job’s store forgets its own temporary files only', async () => {
  const job = new AudioStore(folder, 'job-1');
  writeFileSync(await job.temporary('.raw'), 'x');
  writeFileSync(await store.temporary('.raw'), 'y');
  await job.discard();
  expect(incoming()).toHaveLength(1);
});

test('a name that is no hash is refused', () => {
  expect(() => store.path('../../etc/passwd')).toThrow('Not a hash');
});

test('a file is given out only while its bytes are those it is named after', async () => {
  const file = await store.temporary();
  writeFileSync(file, 'whole');
  const { hash } = await store.put(file);
  expect(readFileSync(await store.locate(hash), 'utf8')).toBe('whole');
  writeFileSync(store.path(hash), 'whale');
  await expect(store.locate(hash)).rejects.toThrow(/damaged/);
  rmSync(store.path(hash));
  await expect(store.locate(hash)).rejects.toThrow(/missing/);
  writeFileSync(store.path(hash), 'whole');
  expect(await store.locate(hash)).toBe(store.path(hash));
});
