import { readdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Knex } from 'knex';
import type { DeliveryOrder } from '../render/delivery';
import type { LaneRun } from '../render/lane-run';
import { INCOMING, jobStore, type AudioStore } from '../store/audio-store';
import { runInThread } from './thread';
import type { LaneData } from './threads/lane';
import { workersThere } from './workers';

/** How long a run is kept that no delivery uses: the next one of the same track mostly follows at once. */
const KEPT_MS = 10_000;

interface Shared {
  made: Promise<LaneRun>;
  file: string;
  users: number;
  finished: boolean;
  controller: AbortController;
  listeners: Set<(share: number) => void>;
  timer: NodeJS.Timeout | null;
}

/** A run that is in use until it is released. */
export interface HeldRun {
  run: LaneRun;
  release(): void;
}

/** Whatever changes what a lane makes of a mix. */
function keyOf({ workingHash, lane, impulseHashes, mix }: DeliveryOrder): string {
  const { sampleRate, channels, frames } = mix;
  return JSON.stringify([workingHash, lane, impulseHashes, sampleRate, channels, frames]);
}

/** Lanes that were run, for deliveries that differ only in what comes after the lane. */
export class LaneRuns {
  private readonly shared = new Map<string, Shared>();
  private readonly store: AudioStore;

  /** `workerId` marks the files, so that another worker knows whose they are. */
  constructor(workerId: string) {
    this.store = jobStore(`lane.${workerId}.`);
  }

  /**
   * The run that a delivery is made from: begun here, or shared with another delivery. Rejects when the run fails or
   * `signal` aborts.
   */
  async hold(order: DeliveryOrder, onProgress: (share: number) => void, signal: AbortSignal): Promise<HeldRun> {
    const key = keyOf(order);
    const file = await this.store.temporary('.raw');
    const shared = this.shared.get(key) ?? this.begin(key, file, order);
    shared.users++;
    if (shared.timer) clearTimeout(shared.timer);
    shared.timer = null;
    shared.listeners.add(onProgress);
    let released = false;
    const release = () => {
      if (released) return;
      released = true;
      shared.listeners.delete(onProgress);
      if (--shared.users > 0) return;
      if (shared.finished) shared.timer = setTimeout(() => this.drop(key, shared), KEPT_MS).unref();
      else this.drop(key, shared);
    };
    const aborted = new Promise<never>((_, reject) => {
      signal.addEventListener('abort', () => reject(new Error('The delivery was stopped.')), { once: true });
    });
    try {
      return { run: await Promise.race([shared.made, aborted]), release };
    } catch (error) {
      release();
      throw error;
    }
  }

  private begin(key: string, file: string, order: DeliveryOrder): Shared {
    const controller = new AbortController();
    const listeners = new Set<(share: number) => void>();
    const tell = (share: number) => listeners.forEach((listener) => listener(share));
    const { mix, workingHash, lane, impulses } = order;
    const data: LaneData = { order: { mix, workingHash, lane, impulses }, file };
    const made = runInThread<LaneRun>('lane', data, tell, controller.signal);
    const shared: Shared = { made, file, users: 0, finished: false, controller, listeners, timer: null };
    made.then(
      () => (shared.finished = true),
      // What failed is not shared any longer: the next delivery tries again.
      () => this.drop(key, shared),
    );
    this.shared.set(key, shared);
    return shared;
  }

  private drop(key: string, shared: Shared): void {
    if (this.shared.get(key) === shared) this.shared.delete(key);
    shared.controller.abort();
    void rm(shared.file, { force: true });
  }
}

/** Removes the runs of workers that are gone; `workerId` is there for sure. */
export async function removeAbandonedRuns(db: Knex, store: AudioStore, workerId: string): Promise<void> {
  const folder = path.join(store.folder, INCOMING);
  const there = new Set([workerId, ...(await workersThere(db))]);
  for (const name of await readdir(folder).catch(() => [])) {
    const owner = /^lane\.([0-9a-f-]{36})\./.exec(name)?.[1];
    if (owner !== undefined && !there.has(owner)) await rm(path.join(folder, name), { force: true });
  }
}
