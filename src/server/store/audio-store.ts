import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { getConfig } from '../config';
import { Problem } from '../problem';

/** A file held by the store, named by the SHA-256 of its bytes. */
export interface Stored {
  hash: string;
  bytes: number;
}

/** Temporary files older than this belong to nobody any more. */
const STALE_MS = 24 * 3600 * 1000;

/** Content-addressed files on local disk: written whole or not at all, never overwritten. */
export class AudioStore {
  /** `owner` marks the temporary files, so that {@link discard} can remove what a stopped job left. */
  constructor(
    private readonly folder: string,
    private readonly owner = '',
  ) {}

  /** Where a file of this hash lies. */
  path(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('Not a hash.');
    return path.join(this.folder, 'files', hash.slice(0, 2), hash);
  }

  /** A path for a file that is not yet whole. */
  async temporary(suffix = ''): Promise<string> {
    const folder = path.join(this.folder, 'incoming');
    await mkdir(folder, { recursive: true });
    return path.join(folder, `${this.owner}${randomUUID()}${suffix}`);
  }

  /**
   * Takes a stream to a temporary file and gives its path, hash and size. Throws a Problem (413) over `maxBytes`; what was
   * written is removed on any error.
   */
  async receive(source: Readable, maxBytes: number): Promise<Stored & { file: string }> {
    const file = await this.temporary('.part');
    const hash = createHash('sha256');
    let bytes = 0;
    const meter = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        bytes += chunk.length;
        if (bytes > maxBytes)
          return done(
            new Problem(
              413,
              `The file is larger than ${Math.round(maxBytes / 1048576)} MB, the most one mix may have.`,
            ),
          );
        hash.update(chunk);
        done(null, chunk);
      },
    });
    const handle = await open(file, 'wx');
    try {
      await pipeline(source, meter, handle.createWriteStream({ flush: true }));
      return { file, bytes, hash: hash.digest('hex') };
    } catch (error) {
      await rm(file, { force: true });
      throw error;
    }
  }

  /** Moves a whole temporary file into the store under its hash. */
  async adopt(file: string, hash: string): Promise<void> {
    const target = this.path(hash);
    await mkdir(path.dirname(target), { recursive: true });
    const handle = await open(file, 'r');
    try {
      await handle.sync();
    } finally {
      await handle.close();
    }
    await rename(file, target);
  }

  /** Hashes a finished temporary file and adopts it. */
  async put(file: string): Promise<Stored> {
    const hash = createHash('sha256');
    await pipeline(createReadStream(file), hash);
    const stored = { hash: hash.digest('hex'), bytes: (await stat(file)).size };
    await this.adopt(file, stored.hash);
    return stored;
  }

  /** Removes the temporary files of this store's owner. */
  async discard(): Promise<void> {
    if (this.owner === '') throw new Error('Only a store with an owner knows which temporary files are its own.');
    const folder = path.join(this.folder, 'incoming');
    const names = await readdir(folder).catch(() => []);
    await Promise.all(
      names.filter((name) => name.startsWith(this.owner)).map((name) => rm(path.join(folder, name), { force: true })),
    );
  }

  async size(hash: string): Promise<number> {
    return (await stat(this.path(hash))).size;
  }

  /** Removes files that nothing refers to, and temporary files left by a killed process. */
  async sweep(referenced: ReadonlySet<string>, now = Date.now()): Promise<number> {
    let removed = 0;
    const each = async (folder: string, unwanted: (name: string, ageMs: number) => boolean) => {
      for (const name of await readdir(folder).catch(() => [])) {
        const file = path.join(folder, name);
        const found = await stat(file).catch(() => null);
        if (found?.isFile() && unwanted(name, now - found.mtimeMs)) {
          await rm(file, { force: true });
          removed++;
        }
      }
    };
    await each(path.join(this.folder, 'incoming'), (_, age) => age > STALE_MS);
    for (const part of await readdir(path.join(this.folder, 'files')).catch(() => [])) {
      // A file younger than an hour may still be waiting for its row.
      await each(path.join(this.folder, 'files', part), (name, age) => !referenced.has(name) && age > 3600 * 1000);
    }
    return removed;
  }
}

/** The store of this process; `owner` is the job it serves. */
export function audioStore(owner?: string): AudioStore {
  return new AudioStore(path.join(getConfig().dataFolder, 'audio'), owner);
}
