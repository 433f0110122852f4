import { startThread } from '../jobs/thread';
import { Problem } from '../problem';
import type { PassageFigures, PassageOrder } from './check-passage';

/** Asks the thread for a passage, or calls one off. */
export type PassageRequest = { number: number; owner: string; order: PassageOrder } | { number: number; stop: true };

/** What the thread says of a passage. */
export type PassageMessage =
  | { number: number; figures: PassageFigures }
  | { number: number; problem: { status: number; message: string } }
  | { number: number; failure: string };

interface Waiting {
  resolve: (figures: PassageFigures) => void;
  reject: (error: Error) => void;
}

/** One thread of the pages' server that stays, since starting one takes as long as a passage does. */
class PassageThread {
  private readonly worker = startThread('passage');
  private readonly waiting = new Map<number, Waiting>();
  private numbers = 0;

  constructor(onGone: () => void) {
    const gone = (error: Error) => {
      onGone();
      this.waiting.forEach(({ reject }) => reject(error));
      this.waiting.clear();
    };
    this.worker.on('error', gone);
    this.worker.on('exit', () => gone(new Error('The thread ended.')));
    this.worker.on('message', (message: PassageMessage) => this.hear(message));
    this.worker.unref();
  }

  private hear(message: PassageMessage): void {
    const asked = this.waiting.get(message.number);
    this.waiting.delete(message.number);
    if ('figures' in message) asked?.resolve(message.figures);
    else if ('problem' in message) asked?.reject(new Problem(message.problem.status, message.problem.message));
    else asked?.reject(new Error(message.failure));
  }

  ask(owner: string, order: PassageOrder, signal: AbortSignal): Promise<PassageFigures> {
    const number = this.numbers++;
    return new Promise((resolve, reject) => {
      this.waiting.set(number, { resolve, reject });
      signal.addEventListener('abort', () => this.send({ number, stop: true }), { once: true });
      this.send({ number, owner, order });
    });
  }

  private send(request: PassageRequest): void {
    this.worker.postMessage(request);
  }
}

/** Routes are bundled apart, and share what is kept here. */
const holder = globalThis as { copperPassageThread?: PassageThread | null };

/** Has a passage encoded and measured. Rejects when it can't be, throws a Problem for what the user can mend. */
export function inPassageThread(owner: string, order: PassageOrder, signal: AbortSignal): Promise<PassageFigures> {
  holder.copperPassageThread ??= new PassageThread(() => (holder.copperPassageThread = null));
  return holder.copperPassageThread.ask(owner, order, signal);
}
