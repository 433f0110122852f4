import type { ImpulseResponse } from '../../core/stages/definition';
import type { Lane } from '../../core/lane/schema';
import type { PassReply, PassRequest } from './protocol';
import type { Audio, Measurement, Span } from './measurement';

export interface PassListener {
  onProgress(share: number): void;
  onResult(result: Measurement): void;
  onFailure(message: string): void;
}

/** A page's side of the full pass; `loudest` is the loudest passage of the mix. Each run overtakes the one before. */
export class PassClient {
  private readonly worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
  private id = 0;

  constructor(audio: Audio, loudest: Span | null, listener: PassListener) {
    this.worker.onmessage = ({ data }: MessageEvent<PassReply>) => {
      if (data.id !== this.id) return;
      if (data.type === 'progress') listener.onProgress(data.share);
      else if (data.type === 'result') listener.onResult(data.result);
      else listener.onFailure(data.message);
    };
    this.worker.onerror = (event) => listener.onFailure(event.message || 'The full pass could not be started.');
    this.send({ type: 'load', audio, loudest });
  }

  /** Gives an impulse response that lanes may name from now on. */
  addImpulse(name: string, response: ImpulseResponse): void {
    this.send({ type: 'response', name, response });
  }

  run(lane: Lane): void {
    this.send({ type: 'run', id: ++this.id, lane });
  }

  close(): void {
    this.worker.terminate();
  }

  private send(request: PassRequest): void {
    this.worker.postMessage(request);
  }
}
