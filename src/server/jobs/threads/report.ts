import { parentPort, workerData } from 'node:worker_threads';
import { isDiskFull } from '../../failures';
import { Problem } from '../../problem';
import type { ThreadMessage } from '../thread';

const PROGRESS_MS = 200;

/** Runs a thread's work on the data it was given, and tells how it goes and ends. */
export async function runThread<Data, Result>(
  work: (data: Data, onProgress: (share: number) => void) => Promise<Result>,
): Promise<void> {
  const say = (message: ThreadMessage<Result>) => parentPort?.postMessage(message);
  let last = 0;
  const onProgress = (share: number) => {
    const now = Date.now();
    if (now - last < PROGRESS_MS) return;
    last = now;
    say({ type: 'progress', share });
  };
  try {
    say({ type: 'result', result: await work(workerData as Data, onProgress) });
  } catch (error) {
    // The class of an error does not survive the way to the other thread.
    const message = String((error as Error).stack ?? error);
    if (isDiskFull(error)) say({ type: 'diskFull', message });
    else if (error instanceof Problem) say({ type: 'problem', status: error.status, message: error.message });
    else say({ type: 'failure', message });
  }
}
