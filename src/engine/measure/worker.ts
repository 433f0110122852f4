import { sentenceOf } from '../../core/sentence-of';
import { breathe } from './breathe';
import { Cancelled } from './queue';
import { notUnderstood } from './not-understood';
import { LaneMeasurer } from './lane-measurer';
import { JointWatch, type Watcher, type WatchPlan, type WatchResult } from './joint-watch';
import type { MeasuringOrder, MeasuringReply } from './protocol';
import { MeasuringStopped, RingWatcher } from './watch-ring';
import type { WatchReply } from './watch-worker';

/** Measures lanes in a worker of the page, one at a time. */
let measurer: LaneMeasurer | null = null;
let aborted = 0;

const measureHere = (plan: WatchPlan): Watcher => new JointWatch(plan);

/** Longest wait in ms for the other thread to start. */
const START_MS = 4000;

/** Another thread for the meters, where the machine has one and it starts; null: this one has to do it. */
async function otherThread(): Promise<((plan: WatchPlan) => Watcher) | null> {
  if (!(navigator.hardwareConcurrency > 1)) return null;
  const helper = new Worker(new URL('./watch-worker.ts', import.meta.url), { type: 'module' });
  let settle: { resolve: (result: WatchResult) => void; reject: (error: Error) => void } | null = null;
  // Messages have to reach it before this thread waits for it: a browser may hold them back until a turn of this thread.
  const started = await new Promise<boolean>((resolve) => {
    setTimeout(() => resolve(false), START_MS);
    helper.onmessage = ({ data }: MessageEvent<WatchReply>) => {
      if (data.problem !== undefined) settle?.reject(new Error(data.problem));
      else if (data.result) settle?.resolve(data.result);
      else if (data.started) resolve(true);
    };
    helper.onerror = () => {
      settle?.reject(new Error('The measurement stopped.'));
      resolve(false);
    };
    helper.postMessage(null);
  });
  if (!started) {
    helper.terminate();
    return null;
  }
  return (plan) =>
    new RingWatcher(
      plan,
      (order) =>
        new Promise((resolve, reject) => {
          settle = { resolve, reject };
          helper.postMessage(order);
        }),
    );
}

let helper = otherThread();

function reply(message: MeasuringReply): void {
  self.postMessage(message);
}

/** Lets waiting messages in, and ends a run that is no longer wanted. */
async function turn(id: number, share: number): Promise<void> {
  reply({ type: 'progress', id, share });
  await breathe();
  if (aborted === id) throw new Cancelled();
}

/** Does one run and answers with what it gives. */
async function answer(id: number, work: (measurer: LaneMeasurer) => Promise<MeasuringReply>): Promise<void> {
  if (!measurer) return;
  try {
    reply(await work(measurer));
  } catch (error) {
    if (error instanceof Cancelled) reply({ type: 'aborted', id });
    else reply({ type: 'failed', id, problem: sentenceOf(error) });
  }
}

function run({ id, lane, output }: Extract<MeasuringOrder, { type: 'run' }>): Promise<void> {
  const control = { output, turn: (share: number) => turn(id, share) };
  return answer(id, async (by) => {
    by.watcher = (await helper) ?? measureHere;
    const measurement = await by.run(lane, control).catch((error: unknown) => {
      if (!(error instanceof MeasuringStopped) || error.failed) throw error;
      // It does not answer: this thread measures from now on, more slowly.
      helper = Promise.resolve(null);
      by.watcher = measureHere;
      return by.run(lane, control);
    });
    return { type: 'result', id, measurement };
  });
}

function render({ id, lane, output }: Extract<MeasuringOrder, { type: 'render' }>): Promise<void> {
  return answer(id, async (by) => ({
    ...{ type: 'rendered', id },
    rendered: await by.render(lane, { output, turn: (share) => turn(id, share) }),
  }));
}

self.onmessage = ({ data }: MessageEvent<MeasuringOrder | null>) => {
  if (data?.type === 'load') measurer = new LaneMeasurer(data.audio, data);
  else if (data?.type === 'impulse') measurer?.impulses.set(data.name, data.impulse);
  else if (data?.type === 'abort') aborted = data.id;
  else if (data?.type === 'render') void render(data);
  else if (data?.type === 'run') void run(data);
  else self.postMessage(notUnderstood(data));
};
