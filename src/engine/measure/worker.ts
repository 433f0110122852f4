import { Cancelled } from './queue';
import { LaneMeasurer } from './lane-measurer';
import type { Watcher, WatchPlan, WatchResult } from './joint-watch';
import type { MeasuringOrder, MeasuringReply } from './protocol';
import { RingWatcher } from './watch-ring';
import type { WatchReply } from './watch-worker';

/** Measures lanes in a worker of the page, one at a time. */
let measurer: LaneMeasurer | null = null;
let aborted = 0;

/** Longest wait in ms for the other thread to start. */
const START_MS = 4000;

/** Another thread for the meters, where the machine has one and it starts; null: this one has to do it. */
async function otherThread(): Promise<((plan: WatchPlan) => Watcher) | null> {
  if (!(navigator.hardwareConcurrency > 1)) return null;
  const helper = new Worker(new URL('./watch-worker.ts', import.meta.url), { type: 'module' });
  let settle: { resolve: (result: WatchResult) => void; reject: (error: Error) => void } | null = null;
  // It has to run before this thread waits for it.
  const started = await new Promise<boolean>((resolve) => {
    setTimeout(() => resolve(false), START_MS);
    helper.onmessage = ({ data }: MessageEvent<WatchReply>) => {
      if (data.problem !== undefined) settle?.reject(new Error(data.problem));
      else if (data.result) settle?.resolve(data.result);
      else if (data.started) resolve(true);
    };
    helper.onerror = (event) => {
      settle?.reject(new Error(event.message || 'The measurement stopped.'));
      resolve(false);
    };
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

const helper = otherThread();

const channel = new MessageChannel();
let resume: (() => void) | null = null;
channel.port1.onmessage = () => resume?.();

/** Lets waiting messages in; a timer would wait 4 ms each time. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    resume = resolve;
    channel.port2.postMessage(null);
  });
}

function reply(message: MeasuringReply): void {
  self.postMessage(message);
}

async function run({ id, lane, output }: Extract<MeasuringOrder, { type: 'run' }>): Promise<void> {
  if (!measurer) return;
  try {
    measurer.watcher = (await helper) ?? measurer.watcher;
    const measurement = await measurer.run(lane, {
      output,
      turn: async (share) => {
        reply({ type: 'progress', id, share });
        await breathe();
        if (aborted === id) throw new Cancelled();
      },
    });
    reply({ type: 'result', id, measurement });
  } catch (error) {
    if (error instanceof Cancelled) reply({ type: 'aborted', id });
    else reply({ type: 'failed', id, message: error instanceof Error ? error.message : String(error) });
  }
}

self.onmessage = ({ data }: MessageEvent<MeasuringOrder>) => {
  if (data.type === 'load') measurer = new LaneMeasurer(data.audio, data);
  else if (data.type === 'impulse') measurer?.impulses.set(data.name, data.impulse);
  else if (data.type === 'abort') aborted = data.id;
  else void run(data);
};
