import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, type Stats } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import { getConfig } from '../config';
import { log } from '../log';
import { Problem } from '../problem';
import { requireMatchingStore } from './identity';

/** A file held by the store, named by the SHA-256 of its bytes. */
export interface Stored {
  hash: string;
  bytes: number;
}

const HASH = /^[0-9a-f]{64}$/;

/** Whether a name is one that the store gives its files. */
export function isHash(name: string): boolean {
  return HASH.test(name);
}

/** SHA-256 of a file. */
export async function hashFile(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** The folders of a store, beside which others are left alone. */
export const FILES = 'files';
export const INCOMING = 'incoming';

/**
 * What of each file was hashed and found whole by this process, by its path: size and times. A file that changes on disk is
 * hashed again before it is used.
 */
const WHOLE = new Map<string, string>();

function looks({ size, mtimeMs, ctimeMs, ino }: Stats): string {
  return [size, mtimeMs, ctimeMs, ino].join(' ');
}

/** Content-addressed files on local disk: written whole or not at all, never overwritten, read only while they are whole. */
export class AudioStore {
  /**
   * `owner` marks the temporary files, so that {@link discard} can remove what a stopped job left. `ready` rejects when the
   * folder is not this installation's store.
   */
  constructor(
    readonly folder: string,
    private readonly owner = '',
    readonly ready: () => Promise<void> = () => Promise.resolve(),
  ) {}

  /** Where a file of this hash lies, whether it is there or not. */
  path(hash: string): string {
    if (!isHash(hash)) throw new Error('Not a hash.');
    return path.join(this.folder, FILES, hash.slice(0, 2), hash);
  }

  /**
   * The path of a file that is there and whole. Throws a Problem (500) when it is missing, or its bytes are not those it is
   * named after.
   */
  async locate(hash: string): Promise<string> {
    await this.ready();
    const file = this.path(hash);
    const found = await stat(file).catch(() => null);
    if (found && (WHOLE.get(file) === looks(found) || (await this.isWhole(hash, found)))) return file;
    log().error({ file: hash, state: found ? 'damaged' : 'missing' }, 'a file of the audio store cannot be used');
    throw new Problem(
      500,
      `A stored audio file is ${found ? 'damaged' : 'missing'} on the server, so nothing was sent or rendered from it. Whoever runs the server can restore it from a backup (file ${hash.slice(0, 12)}…).`,
    );
  }

  private async isWhole(hash: string, found: Stats): Promise<boolean> {
    const file = this.path(hash);
    if ((await hashFile(file)) !== hash) return false;
    WHOLE.set(file, looks(found));
    return true;
  }

  /** A path for a file that is not yet whole. */
  async temporary(suffix = ''): Promise<string> {
    await this.ready();
    const folder = path.join(this.folder, INCOMING);
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
    const handle = await open(file, 'wx');
    // What cannot be written is still read to its end: whoever sends it hears the reason only then.
    let failure: Error | null = null;
    try {
      for await (const chunk of source as AsyncIterable<Buffer>) {
        bytes += chunk.length;
        if (bytes > maxBytes)
          throw new Problem(
            413,
            `The file is larger than ${Math.round(maxBytes / 1048576)} MB, the maximum for a mix.`,
          );
        if (failure) continue;
        hash.update(chunk);
        await handle.appendFile(chunk).catch((error: Error) => (failure = error));
      }
      if (failure) throw failure as Error;
      await handle.sync();
      return { file, bytes, hash: hash.digest('hex') };
    } catch (error) {
      await rm(file, { force: true });
      throw error;
    } finally {
      await handle.close();
    }
  }

  /** Moves a whole temporary file into the store under its hash; it is on disk, with its name, when this resolves. */
  async adopt(file: string, hash: string): Promise<void> {
    await this.ready();
    const target = this.path(hash);
    const folder = path.dirname(target);
    await mkdir(folder, { recursive: true });
    await sync(file);
    await rename(file, target);
    await sync(folder);
  }

  /** Hashes a finished temporary file and adopts it. */
  async put(file: string): Promise<Stored> {
    const stored = { hash: await hashFile(file), bytes: (await stat(file)).size };
    await this.adopt(file, stored.hash);
    return stored;
  }

  /** Removes the temporary files of this store's owner. */
  async discard(): Promise<void> {
    if (this.owner === '') throw new Error('Only a store with an owner knows which temporary files are its own.');
    await this.ready();
    const folder = path.join(this.folder, INCOMING);
    const names = await readdir(folder).catch(() => []);
    await Promise.all(
      names.filter((name) => name.startsWith(this.owner)).map((name) => rm(path.join(folder, name), { force: true })),
    );
  }

  async size(hash: string): Promise<number> {
    return (await stat(this.path(hash))).size;
  }
}

async function sync(file: string): Promise<void> {
  const handle = await open(file, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

export function storeFolder(): string {
  return path.join(getConfig().dataFolder, 'audio');
}

/** The store of this process, which answers only while it belongs to this process's database. */
export function audioStore(db: Knex): AudioStore {
  const folder = storeFolder();
  return new AudioStore(folder, '', () => requireMatchingStore(db, folder));
}

/** The store of one claim of a job. The worker that claimed it has checked that store and database match. */
export function jobStore(owner: string): AudioStore {
  return new AudioStore(storeFolder(), owner);
}
