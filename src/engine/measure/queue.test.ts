import { EMPTY_LANE, newStage, type Lane } from '../../core/lane/schema';
import type { StereoBuffer } from '../sources/places';
import { MemoryBudget } from '../sources/memory-budget';
import { BufferPool } from './buffers';
import type { RenderedMaster, RenderedMeasurement } from './measurement';
import { BudgetReached, Cancelled, MeasuringQueue, Overtaken, type MeasuringRunner, type Priority } from './queue';

/** A runner that does what the test says. */
class Fake implements MeasuringRunner {
  lane: Lane | null = null;
  closed = false;
  rendersOnly = false;
  readonly impulses: string[] = [];
  progress: (share: number) => void = () => {};
  private settle!: { resolve: (m: RenderedMeasurement) => void; reject: (error: Error) => void };
  output: StereoBuffer | null = null;

  run(lane: Lane, output: StereoBuffer | null, onProgress: (share: number) => void) {
    this.lane = lane;
    this.output = output;
    this.progress = onProgress;
    return new Promise<RenderedMeasurement>((resolve, reject) => (this.settle = { resolve, reject }));
  }
  render(lane: Lane, output: StereoBuffer, onProgress: (share: number) => void): Promise<RenderedMaster> {
    this.rendersOnly = true;
    return this.run(lane, output, onProgress);
  }
  finish(): void {
    this.lane = null;
    this.rendersOnly = false;
    const none = { left: new Float32Array(0), right: new Float32Array(0) };
    this.settle.resolve((this.output ? { ...this.output } : none) as unknown as RenderedMeasurement);
  }
  fail(error: Error): void {
    this.lane = null;
    this.settle.reject(error);
  }
  abort(): void {
    this.fail(new Cancelled());
  }
  addImpulse(name: string): void {
    this.impulses.push(name);
  }
  close(): void {
    this.closed = true;
  }
}

const lane = (gainDb: number): Lane => {
  const trim = newStage('trim', 't');
  return { ...EMPTY_LANE, stages: [{ ...trim, settings: { ...trim.settings, gainDb } }] };
};
const gainOf = ({ lane: running }: Fake) => (running?.stages[0].settings as { gainDb: number } | undefined)?.gainDb;
const settled = () => new Promise((resolve) => setImmediate(resolve));

function open(runners = 2, buffers = 8) {
  const made: Fake[] = [];
  const pool = new BufferPool(10, new MemoryBudget(buffers * 80), (frames) => new Float32Array(frames));
  const queue = new MeasuringQueue(() => (made.push(new Fake()), made[made.length - 1]), runners, pool, 1000);
  const ask = (subject: string, gainDb: number, priority: Priority, onProgress?: (share: number) => void) =>
    queue.request({ subject, lane: lane(gainDb), priority, onProgress });
  return { queue, made, ask };
}

test('the edited lane has its own runner, and the most urgent of the others goes first', async () => {
  const { made, ask } = open();
  ask('candidate 1', 1, 'candidate');
  ask('candidate 2', 2, 'candidate');
  ask('without', 3, 'visible');
  ask('lane', 4, 'edited');
  await settled();
  expect(made.map(gainOf)).toEqual([4, 3]);
  made[1].finish();
  await settled();
  // What was interrupted comes again, after what waited.
  expect([1, 2]).toContain(gainOf(made[1]));
});

test('a newer request of the same subject overtakes the older one, running or not', async () => {
  const { made, ask } = open();
  const first = ask('lane', 1, 'edited');
  const second = ask('lane', 2, 'edited');
  const third = ask('lane', 3, 'edited');
  await expect(first.result).rejects.toBeInstanceOf(Overtaken);
  await expect(second.result).rejects.toBeInstanceOf(Overtaken);
  await settled();
  expect(gainOf(made[0])).toBe(3);
  made[0].finish();
  await third.result;
});

test('equal requests share one run, and a result that is still there is found again', async () => {
  const { made, ask } = open(1);
  const shares: number[] = [];
  const one = ask('b', 1, 'visible', (share) => shares.push(share));
  const two = ask('a', 1, 'candidate', (share) => shares.push(share));
  made[0].progress(0.5);
  made[0].finish();
  expect(await one.result).toBe(await two.result);
  expect(shares).toEqual([0.5, 0.5]);
  one.release();
  two.release();
  expect(await ask('c', 1, 'visible').result).toBe(await one.result);
  expect(made[0].lane).toBeNull();
});

test('a candidate is only rendered; who wants to see the same lane has it measured', async () => {
  const { made, ask } = open(1);
  const heard = ask('a', 1, 'candidate');
  expect(made[0].rendersOnly).toBe(true);
  made[0].finish();
  await heard.result;
  const seen = ask('b', 1, 'visible');
  await settled();
  expect([made[0].lane === null, made[0].rendersOnly]).toEqual([false, false]);
  made[0].finish();
  expect(await seen.result).not.toBe(await heard.result);
  // The rendered one is still found by whoever only listens.
  expect(await ask('c', 1, 'candidate').result).toBe(await heard.result);
});

test('what nobody waits for is ended, and rendered buffers that are released are used again', async () => {
  const { made, ask } = open(1, 2);
  const unwanted = ask('a', 1, 'candidate');
  unwanted.release();
  await expect(unwanted.result).rejects.toBeInstanceOf(Cancelled);
  const results: RenderedMaster[] = [];
  for (let gain = 2; gain < 8; gain++) {
    const ticket = ask('a', gain, 'candidate');
    await settled();
    made[0].finish();
    results.push(await ticket.result);
    ticket.release();
    await settled();
  }
  expect(new Set(results.map(({ left }) => left)).size).toBeLessThanOrEqual(3);
});

test('when the budget is used up the request says so, and goes through once something is released', async () => {
  const { made, ask } = open(1, 1);
  const held = ask('a', 1, 'visible');
  made[0].finish();
  await held.result;
  await expect(ask('b', 2, 'visible').result).rejects.toBeInstanceOf(BudgetReached);
  held.release();
  await settled();
  const next = ask('b', 2, 'visible');
  await settled();
  made[0].finish();
  await next.result;
});

test('without memory for a single buffer the edited lane is measured all the same, and a comparison says why not', async () => {
  const { made, ask } = open(1, 0);
  const edited = ask('lane', 1, 'edited');
  expect(made[0].output).toBeNull();
  made[0].finish();
  expect((await edited.result).left).toHaveLength(0);
  edited.release();
  await expect(ask('b', 2, 'visible').result).rejects.toThrow('no memory left');
  // The next edit finds it free, and the buffer that never was is not given back.
  void ask('lane', 3, 'edited');
  expect(made[0].output).toBeNull();
});

test('a runner that fails ends the request with its reason and is replaced, impulse responses and all', async () => {
  const { queue, made, ask } = open(1);
  queue.addImpulse('hall', { left: new Float32Array(1), right: new Float32Array(1) });
  const broken = ask('a', 1, 'edited');
  made[0].fail(new Error('out of order'));
  await expect(broken.result).rejects.toThrow('out of order');
  expect(made[0].closed).toBe(true);
  expect(made[1].impulses).toEqual(['hall']);
  const next = ask('a', 1, 'edited');
  await settled();
  made[1].finish();
  await next.result;
});

test('a runner that never answers ends the request in time; one that tells its progress has more of it', async () => {
  jest.useFakeTimers();
  try {
    const { made, ask } = open(1);
    const silent = ask('a', 1, 'edited');
    await jest.advanceTimersByTimeAsync(900);
    made[0].progress(0.1);
    await jest.advanceTimersByTimeAsync(900);
    expect(made).toHaveLength(1);
    await jest.advanceTimersByTimeAsync(200);
    await expect(silent.result).rejects.toThrow(/stopped answering/);
    expect(made).toHaveLength(2);
  } finally {
    jest.useRealTimers();
  }
});

test('a queue that is closed ends everything', async () => {
  const { queue, made, ask } = open(1);
  const running = ask('a', 1, 'edited');
  const waiting = ask('b', 2, 'visible');
  queue.close();
  await expect(running.result).rejects.toBeInstanceOf(Cancelled);
  await expect(waiting.result).rejects.toBeInstanceOf(Cancelled);
  await expect(ask('c', 3, 'visible').result).rejects.toBeInstanceOf(Cancelled);
  expect(made[0].closed).toBe(true);
});
