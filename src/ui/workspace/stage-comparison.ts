import type { ImpulseResponse } from '../../core/stages/definition';
import type { Lane } from '../../core/lane/schema';
import { PassClient } from '../../engine/pass/client';
import type { Audio, ProgrammeReading } from '../../engine/pass/result';

/** Measures the lane without one of its stages, so that the master is compared with it at equal loudness. */
export class StageComparison {
  private client: PassClient | null = null;
  /** What the lane without the stage measures; null until that is known. */
  reading: ProgrammeReading | null = null;

  constructor(
    private readonly onReading: () => void,
    private readonly onFailure: (problem: string) => void,
  ) {}

  /** `give` hands over the impulse responses that are known already. */
  measure(
    audio: Audio,
    laneWithout: Lane,
    give: (take: (name: string, response: ImpulseResponse) => void) => void,
  ): void {
    const begun = this.client !== null;
    this.client ??= new PassClient(audio, null, {
      onProgress: () => {},
      onResult: ({ master }) => {
        this.reading = master;
        this.onReading();
      },
      onFailure: this.onFailure,
    });
    if (!begun) give((name, response) => this.addResponse(name, response));
    this.client.run(laneWithout);
  }

  addResponse(name: string, response: ImpulseResponse): void {
    this.client?.addResponse(name, response);
  }

  /** Forgets what was measured and lets go of the worker. */
  end(): void {
    this.reading = null;
    this.client?.close();
    this.client = null;
  }
}
