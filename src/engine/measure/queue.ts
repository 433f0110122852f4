import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import type { StereoBuffer } from '../sources/places';
import type { BufferPool } from './buffers';
import type { RenderedMaster, RenderedMeasurement } from './measurement';

/** Who waits: the lane being edited comes first, then what is on screen, then what may be wanted. */
export type Priority = 'edited' | 'visible' | 'candidate';
const RANK: Record<Priority, number> = { edited: 0, visible: 1, candidate: 2 };

/** What a request gives: a candidate is only heard, and is rendered without being measured whole. */
export type ResultFor<P extends Priority> = P extends 'candidate' ? RenderedMaster : RenderedMeasurement;

/** A newer request of the same subject took the place of this one. */
export class Overtaken extends Error {
  constructor() {
    super('A newer request took its place.');
  }
}
/** The result is no longer wanted. */
export class Cancelled extends Error {
  constructor() {
    super('It was cancelled.');
  }
}
/** There is no memory for another rendered lane. */
export class BudgetReached extends Error {
  constructor() {
    super(
      'There is no memory left to hear this one as well. Remove another candidate first; a very long track can’t be rendered once more at all.',
    );
  }
}

/** Runs lanes over the whole track, one at a time: a worker, or a stand-in. */
export interface MeasuringRunner {
  /** Measures a lane and renders it into `output`, where there is one. */
  run(lane: Lane, output: StereoBuffer | null, onProgress: (share: number) => void): Promise<RenderedMeasurement>;
  /** Renders a lane into `output` and measures no more than its level. */
  render(lane: Lane, output: StereoBuffer, onProgress: (share: number) => void): Promise<RenderedMaster>;
  /** Ends the run under way, which then rejects. */
  abort(): void;
  addImpulse(name: string, impulse: ImpulseResponse): void;
  close(): void;
}

export interface MeasuringRequest<P extends Priority = Priority> {
  /** What is asked about: a newer request of the same subject overtakes the older one. */
  subject: string;
  lane: Lane;
  priority: P;
  onProgress?: (share: number) => void;
}

/** What a request gets back. */
export interface MeasuringTicket<Result> {
  /** Rejects with {@link Overtaken}, {@link Cancelled}, {@link BudgetReached}, or the reason of a failure. */
  result: Promise<Result>;
  /** The result is not wanted any longer, or its rendered buffer is not used any longer. */
  release(): void;
}

interface Waiting {
  subject: string;
  priority: Priority;
  onProgress: (share: number) => void;
  resolve: (result: RenderedMaster) => void;
  reject: (error: Error) => void;
}

interface Job {
  key: string;
  /** Whether it is measured, not only rendered. */
  whole: boolean;
  lane: Lane;
  waiting: Set<Waiting>;
  slot: Slot | null;
  output: StereoBuffer | null;
}

interface Slot {
  runner: MeasuringRunner;
  job: Job | null;
  timer: ReturnType<typeof setTimeout> | undefined;
}

interface Kept {
  key: string;
  whole: boolean;
  result: RenderedMaster;
  holders: number;
}

/** Unused results kept while there is memory, at most this many: an undo finds them. */
const KEPT_UNHELD = 3;
/** Longest silence in ms of a runner. */
const PATIENCE_MS = 30_000;

/** What decides the result of measuring a lane on one mix. */
export function laneKey({ stages, crossovers, edges }: Lane): string {
  return JSON.stringify([
    stages.map(({ kind, on, settings }) => [kind, on, settings]),
    crossovers,
    ...(edges ? [edges] : []),
  ]);
}

/**
 * One queue for everything that is measured on a page: a pool of runners and one memory budget. Requests have a
 * priority; equal ones share a run, a newer one of the same subject overtakes the older, and a more urgent one takes
 * the runner of a less urgent one, which starts again later. The first runner serves the edited lane alone when there
 * are others, so that the signal it keeps before the changed stage stays.
 */
export class MeasuringQueue {
  private readonly slots: Slot[];
  private readonly pending: Job[] = [];
  private kept: Kept[] = [];
  private readonly impulses = new Map<string, ImpulseResponse>();
  private closed = false;

  constructor(
    private readonly makeRunner: (index: number) => MeasuringRunner,
    runners: number,
    private readonly buffers: BufferPool,
    private readonly patienceMs = PATIENCE_MS,
  ) {
    this.slots = Array.from({ length: runners }, (_, i) => ({ runner: makeRunner(i), job: null, timer: undefined }));
    buffers.budget.onWanted(() => {
      this.trim(0);
      buffers.drop();
    });
  }

  /** Gives every runner an uploaded impulse response that lanes may name from now on. */
  addImpulse(name: string, impulse: ImpulseResponse): void {
    this.impulses.set(name, impulse);
    for (const { runner } of this.slots) runner.addImpulse(name, impulse);
  }

  /** Asks for a measurement of a lane. */
  request<P extends Priority>({
    subject,
    lane,
    priority,
    onProgress = () => {},
  }: MeasuringRequest<P>): MeasuringTicket<ResultFor<P>> {
    const key = laneKey(lane);
    let waiting!: Waiting;
    const result = new Promise<RenderedMaster>((resolve, reject) => {
      waiting = { subject, priority, onProgress, resolve, reject };
    });
    // Handled by whoever awaits it; until then it must not count as unhandled.
    result.catch(() => {});
    let released = false;
    const release = () => {
      if (released) return;
      released = true;
      this.withdraw(waiting, new Cancelled());
      void result.then((each) => this.letGo(each)).catch(() => {});
    };
    if (this.closed) waiting.reject(new Cancelled());
    else this.enter(key, lane, waiting);
    // What is asked about whole is measured whole.
    return { result: result as Promise<ResultFor<P>>, release };
  }

  close(): void {
    this.closed = true;
    for (const job of [...this.pending, ...this.slots.flatMap(({ job }) => job ?? [])])
      for (const waiting of job.waiting) waiting.reject(new Cancelled());
    this.pending.length = 0;
    for (const { runner, timer } of this.slots) {
      clearTimeout(timer);
      runner.close();
    }
  }

  private enter(key: string, lane: Lane, waiting: Waiting): void {
    const whole = waiting.priority !== 'candidate';
    const serves = (each: Job | Kept) => each.key === key && (each.whole || !whole);
    const same = this.jobs().find(serves);
    same?.waiting.add(waiting);
    for (const job of this.jobs())
      for (const other of job.waiting)
        if (other !== waiting && other.subject === waiting.subject) this.withdraw(other, new Overtaken());
    const known = this.kept.find(serves);
    if (known) {
      known.holders++;
      waiting.resolve(known.result);
    } else if (!same) this.pending.push({ key, whole, lane, waiting: new Set([waiting]), slot: null, output: null });
    this.dispatch();
  }

  private jobs(): Job[] {
    return [...this.pending, ...this.slots.flatMap(({ job }) => job ?? [])];
  }

  /** Takes a request out of its job; a job without requests ends. */
  private withdraw(waiting: Waiting, reason: Error): void {
    const job = this.jobs().find((each) => each.waiting.has(waiting));
    if (!job) return;
    job.waiting.delete(waiting);
    waiting.reject(reason);
    if (job.waiting.size > 0) return;
    const at = this.pending.indexOf(job);
    if (at >= 0) this.pending.splice(at, 1);
    else job.slot?.runner.abort();
  }

  private dispatch(): void {
    if (this.closed) return;
    this.pending.sort((a, b) => rankOf(a) - rankOf(b));
    for (const job of [...this.pending]) {
      const slots = this.slotsFor(job);
      const free = slots.find((slot) => slot.job === null);
      if (free) this.start(free, job);
      else {
        // It gets the runner once the abort is confirmed; the aborted job then waits again.
        const lesser = slots.find((slot) => slot.job && rankOf(slot.job) > rankOf(job));
        lesser?.runner.abort();
      }
    }
  }

  private slotsFor(job: Job): Slot[] {
    if (this.slots.length === 1) return this.slots;
    return rankOf(job) === RANK.edited ? this.slots.slice(0, 1) : this.slots.slice(1);
  }

  private start(slot: Slot, job: Job): void {
    this.pending.splice(this.pending.indexOf(job), 1);
    const output = this.buffers.take(() => this.trim(0));
    // The edited lane is played live: its figures don't need its samples.
    if (!output && rankOf(job) !== RANK.edited) {
      for (const waiting of job.waiting) waiting.reject(new BudgetReached());
      return;
    }
    job.output = output;
    job.slot = slot;
    slot.job = job;
    const alive = () => {
      clearTimeout(slot.timer);
      slot.timer = setTimeout(
        () => this.fail(slot, job, new Error('The measurement stopped answering. Change the lane to try again.')),
        this.patienceMs,
      );
    };
    alive();
    const onProgress = (share: number) => {
      if (slot.job !== job) return;
      alive();
      for (const waiting of job.waiting) waiting.onProgress(share);
    };
    const result: Promise<RenderedMaster> =
      job.whole || !output
        ? slot.runner.run(job.lane, output, onProgress)
        : slot.runner.render(job.lane, output, onProgress);
    result.then(
      (each) => this.finish(slot, job, each),
      (error: Error) => (error instanceof Cancelled ? this.aborted(slot, job) : this.fail(slot, job, error)),
    );
  }

  private finish(slot: Slot, job: Job, result: RenderedMaster): void {
    if (slot.job !== job) return;
    this.leave(slot);
    const { key, whole } = job;
    this.kept.push({ key, whole, result, holders: job.waiting.size });
    for (const waiting of job.waiting) waiting.resolve(result);
    this.trim(KEPT_UNHELD);
    this.dispatch();
  }

  /** The run was aborted: remaining requests wait for another. */
  private aborted(slot: Slot, job: Job): void {
    if (slot.job !== job) return;
    this.leave(slot);
    if (job.output) this.buffers.give(job.output);
    if (job.waiting.size > 0) this.pending.push({ ...job, slot: null, output: null });
    this.dispatch();
  }

  /** Ends a job with its reason and replaces the runner. */
  private fail(slot: Slot, job: Job, error: Error): void {
    if (slot.job !== job) return;
    this.leave(slot);
    slot.runner.close();
    slot.runner = this.makeRunner(this.slots.indexOf(slot));
    this.impulses.forEach((impulse, name) => slot.runner.addImpulse(name, impulse));
    for (const waiting of job.waiting) waiting.reject(error);
    this.dispatch();
  }

  private leave(slot: Slot): void {
    clearTimeout(slot.timer);
    slot.job = null;
  }

  private letGo(result: RenderedMaster): void {
    const known = this.kept.find((each) => each.result === result);
    if (!known) return;
    known.holders--;
    this.trim(KEPT_UNHELD);
  }

  /** Drops unused results, the oldest first, except for some. */
  private trim(keep: number): void {
    const unheld = this.kept.filter(({ holders }) => holders === 0);
    for (const dropped of unheld.slice(0, Math.max(0, unheld.length - keep))) {
      this.kept = this.kept.filter((each) => each !== dropped);
      const { left, right } = dropped.result;
      if (left.length > 0) this.buffers.give({ left, right });
    }
  }
}

function rankOf({ waiting }: Job): number {
  return Math.min(...[...waiting].map(({ priority }) => RANK[priority]));
}
