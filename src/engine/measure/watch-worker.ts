import { sentenceOf } from '../../core/sentence-of';
import type { WatchResult } from './joint-watch';
import { notUnderstood } from './not-understood';
import { measureRing, type WatchOrder } from './watch-ring';

/** What it answers: that it has started, when asked with null; then a result, null for a watch that was abandoned, or a problem in words. */
export interface WatchReply {
  started?: true;
  result?: WatchResult | null;
  problem?: string;
}

const reply = (message: WatchReply) => self.postMessage(message);

/** Measures the joints of a lane next to the thread that runs it. */
self.onmessage = ({ data }: MessageEvent<WatchOrder | null>) => {
  if (!data) return reply({ started: true });
  if (!('plan' in data)) return self.postMessage(notUnderstood(data));
  try {
    reply({ result: measureRing(data) });
  } catch (error) {
    reply({ problem: sentenceOf(error) });
  }
};
