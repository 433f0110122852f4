import { parentPort } from 'node:worker_threads';
import { checkPassage } from '../../encodes/check-passage';
import type { PassageMessage, PassageRequest } from '../../encodes/passage-thread';
import { Problem } from '../../problem';
import { jobStore } from '../../store/audio-store';

/** What is under way, by its number. */
const underWay = new Map<number, AbortController>();

function say(message: PassageMessage): void {
  parentPort?.postMessage(message);
}

async function answer({ number, owner, order }: Extract<PassageRequest, { order: object }>): Promise<void> {
  const controller = new AbortController();
  underWay.set(number, controller);
  try {
    say({ number, figures: await checkPassage(jobStore(owner), order, controller.signal) });
  } catch (error) {
    if (error instanceof Problem) say({ number, problem: { status: error.status, message: error.message } });
    else say({ number, failure: String((error as Error).stack ?? error) });
  } finally {
    underWay.delete(number);
  }
}

parentPort?.on('message', (request: PassageRequest) => {
  if ('order' in request) void answer(request);
  else underWay.get(request.number)?.abort();
});
