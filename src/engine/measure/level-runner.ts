import type { BalanceBand } from '../../core/measure/balance';
import type { SourceLevel } from '../sources/level-match';
import { AskedWorker } from './asked-worker';
import type { LevelOrder, LevelReply } from './level-worker';
import type { Audio, Span } from './measurement';
import type { PeakPlace } from './peak-places';

/** Measures levels, balances and peaks of sources on a worker of the page. */
export class LevelRunner {
  private readonly worker = new AskedWorker<LevelOrder, LevelReply>(
    () => new Worker(new URL('./level-worker.ts', import.meta.url), { type: 'module' }),
    'The source could not be measured.',
  );

  /** Level of a stretch of a source. Rejects when the worker can't do it. */
  async measure(audio: Audio, span: Span): Promise<SourceLevel> {
    const reply = await this.worker.ask({ audio, what: 'level', span });
    if (!('level' in reply)) throw new Error('The level could not be measured.');
    return reply.level;
  }

  /** Balance of a whole source by third-octaves. Rejects when the worker can't do it. */
  async balance(audio: Audio): Promise<BalanceBand[]> {
    const reply = await this.worker.ask({ audio, what: 'balance' });
    if (!('balance' in reply)) throw new Error('The balance could not be measured.');
    return reply.balance;
  }

  /** Highest true peaks of a whole source, and every over. Rejects when the worker can't do it. */
  async peaks(audio: Audio): Promise<PeakPlace[]> {
    const reply = await this.worker.ask({ audio, what: 'peaks' });
    if (!('peaks' in reply)) throw new Error('The peaks could not be found.');
    return reply.peaks;
  }

  close(): void {
    this.worker.close();
  }
}
