import type { BalanceBand } from '../../core/measure/balance';
import type { SourceLevel } from '../sources/level-match';
import type { LevelOrder, LevelReply } from './level-worker';
import type { Audio, Span } from './measurement';
import type { PeakPlace } from './peak-places';

interface Waiting {
  resolve: (reply: LevelReply) => void;
  reject: (error: Error) => void;
}

/** Measures levels, balances and peaks of sources on a worker of the page. */
export class LevelRunner {
  private worker: Worker | null = null;
  private count = 0;
  private readonly waiting = new Map<number, Waiting>();

  /** Level of a stretch of a source. Rejects when the worker can't do it. */
  async measure(audio: Audio, span: Span): Promise<SourceLevel> {
    const reply = await this.ask({ id: ++this.count, audio, what: 'level', span });
    if (!('level' in reply)) throw new Error('The level could not be measured.');
    return reply.level;
  }

  /** Balance of a whole source by third-octaves. Rejects when the worker can't do it. */
  async balance(audio: Audio): Promise<BalanceBand[]> {
    const reply = await this.ask({ id: ++this.count, audio, what: 'balance' });
    if (!('balance' in reply)) throw new Error('The balance could not be measured.');
    return reply.balance;
  }

  /** Highest true peaks of a whole source, and every over. Rejects when the worker can't do it. */
  async peaks(audio: Audio): Promise<PeakPlace[]> {
    const reply = await this.ask({ id: ++this.count, audio, what: 'peaks' });
    if (!('peaks' in reply)) throw new Error('The peaks could not be found.');
    return reply.peaks;
  }

  close(): void {
    this.worker?.terminate();
    this.waiting.clear();
  }

  private ask(order: LevelOrder): Promise<LevelReply> {
    this.worker ??= this.start();
    return new Promise((resolve, reject) => {
      this.waiting.set(order.id, { resolve, reject });
      this.worker?.postMessage(order);
    });
  }

  private start(): Worker {
    const worker = new Worker(new URL('./level-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<LevelReply>) => {
      this.waiting.get(data.id)?.resolve(data);
      this.waiting.delete(data.id);
    };
    worker.onerror = ({ message }) => {
      for (const { reject } of this.waiting.values()) reject(new Error(message || 'The source could not be measured.'));
      this.waiting.clear();
    };
    return worker;
  }
}
