import { LaneMeasurer } from './lane-measurer';
import type { Watcher, WatchPlan, WatchResult } from './joint-watch';
import type { PassReply, PassRequest } from './protocol';
import { RingWatcher } from './watch-ring';
import type { WatchReply } from './watch-worker';

/** The full pass in a browser worker: a new run overtakes the one under way. */
let pass: LaneMeasurer | null = null;
let wanted = 0;

class Overtaken extends Error {}

/** Longest wait in ms for the other thread. */
const START_MS = 4000;

/** Another thread for the measurements, where the machine has one and it starts; null: this one has to do it. */
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
      settle?.reject(new Error(event.message || 'The measurements stopped.'));
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

function reply(message: PassReply): void {
  self.postMessage(message);
}

async function run(request: Extract<PassRequest, { type: 'run' }>): Promise<void> {
  if (!pass) return;
  try {
    pass.watcher = (await helper) ?? pass.watcher;
    const result = await pass.run(request.lane, {
      turn: async (share) => {
        reply({ type: 'progress', id: request.id, share });
        await breathe();
        if (request.id !== wanted) throw new Overtaken();
      },
    });
    reply({ type: 'result', id: request.id, result });
  } catch (error) {
    if (!(error instanceof Overtaken))
      reply({ type: 'failed', id: request.id, message: error instanceof Error ? error.message : String(error) });
  }
}

let last: Promise<void> = Promise.resolve();

self.onmessage = ({ data }: MessageEvent<PassRequest>) => {
  if (data.type === 'load') {
    const { audio, loudest } = data;
    pass = new LaneMeasurer(audio, {
      allocate: (frames) => new Float32Array(new SharedArrayBuffer(frames * 4)),
      loudest,
    });
  } else if (data.type === 'response') {
    pass?.impulses.set(data.name, data.response);
  } else {
    wanted = data.id;
    last = last.then(() => (data.id === wanted ? run(data) : undefined));
  }
};
