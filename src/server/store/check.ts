import { stat } from 'node:fs/promises';
import type { Logger } from 'pino';
import { hashFile, type AudioStore } from './audio-store';

export type FileState = 'whole' | 'damaged' | 'missing';

/** Whether a stored file is there and has the bytes it is named after. Logs when it is not. */
export async function checkFile(store: AudioStore, hash: string, logger: Logger): Promise<FileState> {
  const file = store.path(hash);
  const found = await stat(file).catch(() => null);
  const state = !found ? 'missing' : (await hashFile(file)) === hash ? 'whole' : 'damaged';
  if (state !== 'whole')
    logger.error({ file: hash, state }, 'a file of the audio store must be restored from a backup');
  return state;
}

/** Checks the files of a store one after another, over and over. */
export class BackgroundCheck {
  private waiting: string[] = [];

  constructor(
    private readonly store: AudioStore,
    private readonly referenced: () => Promise<Set<string>>,
    private readonly logger: Logger,
  ) {}

  /** Checks files until about this many bytes have been read; at least one, if there is any. */
  async next(bytes: number): Promise<void> {
    if (this.waiting.length === 0) this.waiting = [...(await this.referenced())].sort();
    let read = 0;
    while (this.waiting.length > 0 && read < bytes) {
      const hash = this.waiting.pop()!;
      await checkFile(this.store, hash, this.logger);
      read += await this.store.size(hash).catch(() => 0);
    }
  }
}
