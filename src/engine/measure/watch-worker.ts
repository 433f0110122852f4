import type { WatchResult } from './joint-watch';
import { measureRing, type WatchOrder } from './watch-ring';

/** What it answers: that it has started; then a result, null for a watch that was abandoned, or a problem in words. */
export interface WatchReply {
  started?: true;
  result?: WatchResult | null;
  problem?: string;
}

const reply = (message: WatchReply) => self.postMessage(message);

/** Measures the joints of a lane next to the thread that runs it. */
self.onmessage = ({ data }: MessageEvent<WatchOrder>) => {
  try {
    reply({ result: measureRing(data) });
  } catch (error) {
    reply({ problem: error instanceof Error ? error.message : String(error) });
  }
};

reply({ started: true });
