import path from 'node:path';
import { DiskFull } from '../failures';
import type { JobName } from './queue';

// From the process itself: the bundler of the pages would look for a thread in its own bundle.
const { Worker } = process.getBuiltinModule('node:worker_threads');

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

/** Where the bundled threads are: beside the bundled worker, in a folder beside the bundled server. */
function threadsFolder(): string {
  const program = path.dirname(path.resolve(process.argv[1]));
  return path.join(program, path.basename(program) === 'jobs' ? 'threads' : 'jobs/threads');
}

/** Starts a bundled thread. */
export function startThread(name: JobName | 'lane' | 'joint' | 'passage', data?: unknown) {
  return new Worker(path.join(threadsFolder(), `${name}.js`), { workerData: data });
}

/** Runs a job's computation in a thread of its own; aborting the signal ends it at once, with its decoders. */
export function runInThread<Result>(
  name: JobName | 'lane' | 'joint',
  data: unknown,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<Result> {
  return new Promise((resolve, reject) => {
    const worker = startThread(name, data);
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
