import { Worker } from 'node:worker_threads';
import { DiskFull } from '../failures';
import type { JobName } from './queue';

/** What a job thread says. */
export type ThreadMessage<Result> =
  | { type: 'progress'; share: number }
  | { type: 'result'; result: Result }
  | { type: 'problem'; status: number; message: string }
  | { type: 'diskFull'; message: string }
  | { type: 'failure'; message: string };

/** A reason that can be shown to the user; trying again would not help. */
export class FinalProblem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Runs a job's computation in a thread of its own; aborting the signal ends it at once, with its decoders. */
export function runInThread<Result>(
  name: JobName,
  data: unknown,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<Result> {
  return new Promise((resolve, reject) => {
    // The bundled threads are next to the bundled worker.
    const worker = new Worker(new URL(`./threads/${name}.js`, import.meta.url), { workerData: data });
    const stop = () => void worker.terminate();
    signal.addEventListener('abort', stop);
    worker.on('message', (message: ThreadMessage<Result>) => {
      if (message.type === 'progress') onProgress(message.share);
      else if (message.type === 'result') resolve(message.result);
      else if (message.type === 'problem') reject(new FinalProblem(message.status, message.message));
      else reject(message.type === 'diskFull' ? new DiskFull(message.message) : new Error(message.message));
    });
    worker.on('error', reject);
    worker.on('exit', () => {
      signal.removeEventListener('abort', stop);
      reject(new Error(signal.aborted ? 'The job was stopped.' : 'The job ended before it was done.'));
    });
  });
}
