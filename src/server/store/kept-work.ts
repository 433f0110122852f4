import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { CORE_VERSION } from '../../core/version';
import { INCOMING, isHash, type AudioStore } from './audio-store';

const PREFIX = 'kept.';
const NAME = /^kept\.([0-9a-f-]{36})\./;

/**
 * Parts of long work that are done, kept until all of it is: when the server restarts it goes on from there. What a part is
 * made from decides its name, and the version of the core with it, so that nothing older is taken for it.
 */
export class KeptWork {
  /** `id` of the work: that of its row. */
  constructor(
    private readonly store: AudioStore,
    private readonly id: string,
  ) {}

  private fileOf(madeFrom: unknown, ending: string): string {
    const key = createHash('sha256')
      .update(JSON.stringify([CORE_VERSION, madeFrom]))
      .digest('hex');
    return path.join(this.store.folder, INCOMING, `${PREFIX}${this.id}.${key}${ending}`);
  }

  /** The file of a part; `make` writes it to a path, unless that was done before. */
  async file(madeFrom: unknown, make: (target: string) => Promise<void>): Promise<string> {
    const file = this.fileOf(madeFrom, '.raw');
    if (await stat(file).catch(() => null)) return file;
    await mkdir(path.dirname(file), { recursive: true });
    const part = `${file}.${randomUUID()}`;
    try {
      await make(part);
      const handle = await open(part, 'r');
      await handle.sync().finally(() => handle.close());
      await rename(part, file);
      return file;
    } finally {
      await rm(part, { force: true });
    }
  }

  /** Hash of a stored file; `make` stores it, unless that was done before. */
  async stored(madeFrom: unknown, make: () => Promise<string>): Promise<string> {
    const note = this.fileOf(madeFrom, '.hash');
    const known = await readFile(note, 'utf8').catch(() => '');
    if (isHash(known) && (await stat(this.store.path(known)).catch(() => null))) return known;
    const hash = await make();
    await writeFile(note, hash);
    return hash;
  }

  /** Removes everything, once the work is done or given up. */
  async discard(): Promise<void> {
    await removeKept(this.store, () => Promise.resolve((id) => id === this.id));
  }
}

/**
 * Removes what is kept of work that nobody will go on with. Which work that is, is asked only when it is known what is there:
 * what is begun meanwhile is left alone.
 */
export async function removeKept(store: AudioStore, ask: () => Promise<(id: string) => boolean>): Promise<void> {
  const folder = path.join(store.folder, INCOMING);
  const names = await readdir(folder).catch(() => []);
  const isGone = await ask();
  for (const name of names) {
    const id = NAME.exec(name)?.[1];
    if (id !== undefined && isGone(id)) await rm(path.join(folder, name), { force: true });
  }
}
