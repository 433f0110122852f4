import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { PassClient } from '../../engine/pass/client';
import { atLoudness, type LoudVersion } from '../../engine/pass/equal-loudness';
import type { Audio, PassResult, Span } from '../../engine/pass/result';

/** Drives lanes to one loudness, one after the other, by full passes on a worker of its own. */
export class LoudnessRun {
  private readonly client: PassClient;
  private settle: { resolve: (result: PassResult) => void; reject: (error: Error) => void } | null = null;

  /** `loudest` passage of the mix; the target in LUFS. */
  constructor(
    audio: Audio,
    loudest: Span | null,
    private readonly targetLufs: number,
  ) {
    this.client = new PassClient(audio, loudest, {
      onProgress: () => {},
      onResult: (result) => this.settle?.resolve(result),
      onFailure: (message) => this.settle?.reject(new Error(message)),
    });
  }

  addResponse(name: string, response: ImpulseResponse): void {
    this.client.addResponse(name, response);
  }

  measure(lane: Lane): Promise<LoudVersion> {
    return atLoudness(lane, this.targetLufs, (tried) => {
      const result = new Promise<PassResult>((resolve, reject) => {
        this.settle = { resolve, reject };
      });
      this.client.run(tried);
      return result;
    });
  }

  /** Ends what is under way and lets go of the worker. */
  close(): void {
    this.client.close();
  }
}
