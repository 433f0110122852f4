import { JointWatch, type Watcher, type WatchPlan, type WatchResult } from './joint-watch';
import { TRACE_FRAMES } from './measurement';

/** Blocks that may wait to be measured. */
const SLOTS = 32;
/** Blocks after which the other thread is woken: waking takes longer than a block. */
const TURN = 8;
/** Counters that both threads see: blocks written, blocks measured, and how it ended. */
const WRITTEN = 0;
const MEASURED = 1;
const END = 2;
const ENDED = 1;
const ABANDONED = 2;
const FAILED = 3;
/** Longest wait in ms for the other thread to measure a block. */
const PATIENCE_MS = 10_000;

/** Blocks of all joints on their way from the thread that runs the lane to the one that measures. */
export interface WatchRing {
  counters: Int32Array;
  /**
   * For each slot and joint left and right; then for each slot and stage reduction and share touched (−1: not counted).
   */
  signal: Float64Array;
  figures: Float64Array;
  joints: number;
}

export interface WatchOrder {
  plan: WatchPlan;
  ring: WatchRing;
}

function makeRing(joints: number): WatchRing {
  const shared = (bytes: number) => new SharedArrayBuffer(bytes);
  return {
    counters: new Int32Array(shared(12)),
    signal: new Float64Array(shared(SLOTS * joints * 2 * TRACE_FRAMES * 8)),
    figures: new Float64Array(shared(SLOTS * Math.max(1, joints - 1) * 2 * 8)),
    joints,
  };
}

const channel = ({ signal, joints }: WatchRing, block: number, joint: number, which: 0 | 1) => {
  const at = (((block % SLOTS) * joints + joint) * 2 + which) * TRACE_FRAMES;
  return signal.subarray(at, at + TRACE_FRAMES);
};

/** The measuring thread failed, or did not answer in time. */
export class MeasuringStopped extends Error {
  constructor(
    message: string,
    /** Whether it failed by itself, and tells its own reason. */
    readonly failed: boolean,
  ) {
    super(message);
  }
}

/** The end of the ring on the thread that runs the lane; `order` starts the other and gives its result. */
export class RingWatcher implements Watcher {
  private readonly ring: WatchRing;
  private readonly result: Promise<WatchResult>;

  constructor(
    plan: WatchPlan,
    order: (order: WatchOrder) => Promise<WatchResult>,
    private readonly patienceMs = PATIENCE_MS,
  ) {
    this.ring = makeRing(plan.latencies.length);
    this.result = order({ plan, ring: this.ring });
    // Handled by whoever awaits it; until then it must not count as unhandled.
    this.result.catch(() => {});
  }

  take(block: number, joint: number, left: Float64Array, right: Float64Array): void {
    const { ring } = this;
    if (joint === 0) {
      // Waits until a slot is free.
      for (let measured = Atomics.load(ring.counters, MEASURED); block - measured >= SLOTS;) {
        if (Atomics.load(ring.counters, END) === FAILED)
          throw new MeasuringStopped('The measuring thread failed.', true);
        if (Atomics.wait(ring.counters, MEASURED, measured, this.patienceMs) === 'timed-out')
          throw new MeasuringStopped('The measuring thread stopped answering.', false);
        measured = Atomics.load(ring.counters, MEASURED);
      }
    }
    channel(ring, block, joint, 0).set(left);
    channel(ring, block, joint, 1).set(right);
  }

  endBlock(block: number, reductions: readonly number[], touched: readonly (number | null)[]): void {
    const { ring } = this;
    const stages = ring.joints - 1;
    for (let i = 0; i < stages; i++) {
      const at = ((block % SLOTS) * stages + i) * 2;
      ring.figures[at] = reductions[i];
      ring.figures[at + 1] = touched[i] ?? -1;
    }
    Atomics.store(ring.counters, WRITTEN, block + 1);
    if ((block + 1) % TURN === 0) Atomics.notify(ring.counters, WRITTEN);
  }

  /** Ends with the result; with the other thread's own reason where that failed. */
  finish(): Promise<WatchResult> {
    this.end(ENDED);
    return this.result;
  }

  abandon(): void {
    this.end(ABANDONED);
  }

  private end(how: number): void {
    Atomics.compareExchange(this.ring.counters, END, 0, how);
    Atomics.notify(this.ring.counters, WRITTEN);
  }
}

/**
 * Measures what comes through a ring until it ends; null when it was abandoned. Blocks the thread it runs on. Whatever
 * it throws, the other thread is told that measuring has stopped.
 */
export function measureRing(order: WatchOrder): WatchResult | null {
  try {
    return measureBlocks(order);
  } catch (error) {
    const { counters } = order.ring;
    Atomics.store(counters, END, FAILED);
    Atomics.notify(counters, MEASURED);
    throw error;
  }
}

function measureBlocks({ plan, ring }: WatchOrder): WatchResult | null {
  const watch = new JointWatch(plan);
  const stages = ring.joints - 1;
  const reductions = new Array<number>(stages).fill(0);
  const touched = new Array<number | null>(stages).fill(null);
  for (let block = 0; ;) {
    const end = Atomics.load(ring.counters, END);
    if (end === ABANDONED) return null;
    const written = Atomics.load(ring.counters, WRITTEN);
    if (block === written) {
      if (end === ENDED) return watch.result();
      // Wakes now and then, since the end is signalled by another counter.
      Atomics.wait(ring.counters, WRITTEN, written, 20);
      continue;
    }
    for (let joint = 0; joint < ring.joints; joint++)
      watch.take(block, joint, channel(ring, block, joint, 0), channel(ring, block, joint, 1));
    for (let i = 0; i < stages; i++) {
      const at = ((block % SLOTS) * stages + i) * 2;
      reductions[i] = ring.figures[at];
      touched[i] = ring.figures[at + 1] < 0 ? null : ring.figures[at + 1];
    }
    watch.endBlock(block, reductions, touched);
    Atomics.store(ring.counters, MEASURED, ++block);
    if (block % TURN === 0) Atomics.notify(ring.counters, MEASURED);
  }
}
