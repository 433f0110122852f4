import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { MemoryBudget } from '../sources/memory-budget';
import type { StereoBuffer } from '../sources/places';
import { BufferPool, BYTES_PER_FRAME } from './buffers';
import type { Audio, RenderedMaster, RenderedMeasurement, Span } from './measurement';
import type { MeasuringOrder, MeasuringReply } from './protocol';
import { Cancelled, MeasuringQueue, type MeasuringRunner } from './queue';

/** A run on a worker of the page. */
class WorkerRunner implements MeasuringRunner {
  private readonly worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  private id = 0;
  private settle: { resolve: (result: unknown) => void; reject: (error: Error) => void } | null = null;
  private onProgress: (share: number) => void = () => {};

  constructor(audio: Audio, loudest: Span | null, keepBytes: number) {
    this.worker.onmessage = ({ data }: MessageEvent<MeasuringReply>) => {
      if (data.id !== this.id) return;
      if (data.type === 'progress') this.onProgress(data.share);
      else if (data.type === 'result') this.settle?.resolve(data.measurement);
      else if (data.type === 'rendered') this.settle?.resolve(data.rendered);
      else this.settle?.reject(data.type === 'aborted' ? new Cancelled() : new Error(data.problem));
    };
    this.worker.onerror = () =>
      this.settle?.reject(new Error('The measurement could not be started. Reload the page.'));
    this.send({ type: 'load', audio, loudest, keepBytes });
  }

  run(lane: Lane, output: StereoBuffer | null, onProgress: (share: number) => void): Promise<RenderedMeasurement> {
    return this.order(onProgress, (id) => ({ type: 'run', id, lane, output }));
  }

  render(lane: Lane, output: StereoBuffer, onProgress: (share: number) => void): Promise<RenderedMaster> {
    return this.order(onProgress, (id) => ({ type: 'render', id, lane, output }));
  }

  abort(): void {
    this.send({ type: 'abort', id: this.id });
  }

  addImpulse(name: string, impulse: ImpulseResponse): void {
    this.send({ type: 'impulse', name, impulse });
  }

  close(): void {
    this.worker.terminate();
  }

  /** Orders something of the worker; the answer is of the kind that the order has. */
  private order<Result>(onProgress: (share: number) => void, of: (id: number) => MeasuringOrder): Promise<Result> {
    this.onProgress = onProgress;
    this.id++;
    return new Promise<Result>((resolve, reject) => {
      this.settle = { resolve: resolve as (result: unknown) => void, reject };
      this.send(of(this.id));
    });
  }

  private send(order: MeasuringOrder): void {
    this.worker.postMessage(order);
  }
}

/** Memory for the mix of one track and everything that is rendered or kept of it on a page. */
const BUDGET_BYTES = 1.2e9;
/** Shares of what the mix leaves that the first runner and the others keep of the signal before the changed stage. */
const KEEP_FIRST = 0.3;
const KEEP_OTHERS = 0.025;
const MOST_RUNNERS = 3;

/** Makes a channel that worklet, workers and page share. */
export function sharedChannel(frames: number): Float32Array {
  return new Float32Array(new SharedArrayBuffer(frames * Float32Array.BYTES_PER_ELEMENT));
}

/** The measuring queue of an open track, and the memory that is left for what is rendered or fetched to be compared. */
export interface TrackMeasuring {
  queue: MeasuringQueue;
  budget: MemoryBudget;
}

/** Sets up the measuring of an open track; `loudest` is the loudest passage of the mix. */
export function openTrackMeasuring(audio: Audio, loudest: Span | null): TrackMeasuring {
  const runners = Math.max(2, Math.min(MOST_RUNNERS, Math.floor(navigator.hardwareConcurrency / 2)));
  const mixBytes = audio.left.length * BYTES_PER_FRAME;
  const room = Math.max(0, BUDGET_BYTES - mixBytes);
  const keepShare = KEEP_FIRST + (runners - 1) * KEEP_OTHERS;
  // The rendered master comes first, if it fits at all.
  const rendered = Math.max(room * (1 - keepShare), mixBytes <= room ? mixBytes : 0);
  const kept = (index: number) => ((room - rendered) * (index === 0 ? KEEP_FIRST : KEEP_OTHERS)) / keepShare;
  const budget = new MemoryBudget(rendered);
  const queue = new MeasuringQueue(
    (index) => new WorkerRunner(audio, loudest, kept(index)),
    runners,
    new BufferPool(audio.left.length, budget, sharedChannel),
  );
  return { queue, budget };
}

/** Renders a lane once on another mix than that of the open track, into `output`. Rejects when `signal` is aborted. */
export async function renderOnce(
  audio: Audio,
  lane: Lane,
  impulses: Readonly<Record<string, ImpulseResponse>>,
  output: StereoBuffer,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<RenderedMaster> {
  const runner = new WorkerRunner(audio, null, 0);
  try {
    for (const [name, impulse] of Object.entries(impulses)) runner.addImpulse(name, impulse);
    const aborted = new Promise<never>((_, reject) =>
      signal.addEventListener('abort', () => reject(new Cancelled()), { once: true }),
    );
    return await Promise.race([runner.render(lane, output, onProgress), aborted]);
  } finally {
    runner.close();
  }
}
