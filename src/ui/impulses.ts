import type { Lane, Stage } from '../core/lane/schema';
import { traitsOf } from '../core/stages/registry';
import type { ImpulseResponse } from '../core/stages/definition';

/** Names of the uploaded impulse responses that a lane needs. */
function namesIn({ stages }: Lane): string[] {
  return stages.flatMap((stage) => traitsOf<Stage>(stage).impulse?.(stage.settings) ?? []);
}

/** Uploaded impulse responses at the rate of the mix: fetched once, then given to everything that runs lanes. */
export class Impulses {
  private readonly known = new Map<string, ImpulseResponse>();

  /** `path` is where they are asked for; left out: those of whoever is signed in. */
  constructor(
    private readonly sampleRate: number,
    private readonly onImpulse: (name: string, response: ImpulseResponse) => void,
    private readonly path = '/api/impulses',
  ) {}

  get(name: string): ImpulseResponse | undefined {
    return this.known.get(name);
  }

  /** Whether everything that a lane needs is here. */
  has(lane: Lane): boolean {
    return namesIn(lane).every((name) => this.known.has(name));
  }

  /** Fetches what a lane needs and is not here. Throws an Error with a sentence. */
  async need(lane: Lane): Promise<void> {
    for (const name of new Set(namesIn(lane))) {
      if (this.known.has(name)) continue;
      const answer = await fetch(`${this.path}/${name}/audio?rate=${this.sampleRate}`);
      if (!answer.ok)
        throw new Error(
          'The impulse response of a room could not be loaded, so the studio is used instead. Upload it again, or undo to try again.',
        );
      const samples = new Float32Array(await answer.arrayBuffer());
      const samplesOf = (channel: number) =>
        Float32Array.from({ length: samples.length / 2 }, (_, i) => samples[2 * i + channel]);
      const response = { left: samplesOf(0), right: samplesOf(1) };
      this.known.set(name, response);
      this.onImpulse(name, response);
    }
  }

  /** Gives everything that is here to another taker. */
  giveTo(take: (name: string, response: ImpulseResponse) => void): void {
    this.known.forEach((response, name) => take(name, response));
  }

  /** Everything that is here, by name. */
  all(): Record<string, ImpulseResponse> {
    return Object.fromEntries(this.known);
  }
}
