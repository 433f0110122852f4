import type { SourceLevel } from '../sources/level-match';
import type { LevelOrder, LevelReply } from './level-worker';
import type { Audio, Span } from './measurement';

/** Measures levels of sources on a worker of the page. */
export class LevelRunner {
  private worker: Worker | null = null;
  private count = 0;
  private readonly waiting = new Map<
    number,
    { resolve: (level: SourceLevel) => void; reject: (error: Error) => void }
  >();

  /** Level of a stretch of a source. Rejects when the worker can't do it. */
  measure(audio: Audio, span: Span): Promise<SourceLevel> {
    this.worker ??= this.start();
    const order: LevelOrder = { id: ++this.count, audio, span };
    return new Promise((resolve, reject) => {
      this.waiting.set(order.id, { resolve, reject });
      this.worker?.postMessage(order);
    });
  }

  close(): void {
    this.worker?.terminate();
    this.waiting.clear();
  }

  private start(): Worker {
    const worker = new Worker(new URL('./level-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data: { id, level } }: MessageEvent<LevelReply>) => {
      this.waiting.get(id)?.resolve(level);
      this.waiting.delete(id);
    };
    worker.onerror = ({ message }) => {
      for (const { reject } of this.waiting.values()) reject(new Error(message || 'The level could not be measured.'));
      this.waiting.clear();
    };
    return worker;
  }
}
