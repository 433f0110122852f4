import type { WatchResult } from './joint-watch';
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
  try {
    reply({ result: measureRing(data) });
  } catch (error) {
    reply({ problem: error instanceof Error ? error.message : String(error) });
  }
};
