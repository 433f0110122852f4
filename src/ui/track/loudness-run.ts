import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { PassClient } from '../../engine/measure/client';
import { atLoudness, type LoudVersion } from '../../engine/measure/loudness-matching';
import type { Audio, Measurement, Span } from '../../engine/measure/measurement';

/** Drives lanes to one loudness, one after the other, by full passes on a worker of its own. */
export class LoudnessRun {
  private readonly client: PassClient;
  private settle: { resolve: (result: Measurement) => void; reject: (error: Error) => void } | null = null;

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

  addImpulse(name: string, response: ImpulseResponse): void {
    this.client.addImpulse(name, response);
  }

  measure(lane: Lane): Promise<LoudVersion> {
    return atLoudness(lane, this.targetLufs, (tried) => {
      const result = new Promise<Measurement>((resolve, reject) => {
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
