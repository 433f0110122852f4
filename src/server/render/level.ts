import { amplitude } from '../../core/signal/decibels';

/** A signal at another level; `levelDb` in dB. At 0 dB it passes as it is. */
export async function* atLevel(input: AsyncIterable<Float64Array>, levelDb: number): AsyncGenerator<Float64Array> {
  const gain = amplitude(levelDb);
  for await (const chunk of input) {
    if (gain !== 1) for (let i = 0; i < chunk.length; i++) chunk[i] *= gain;
    yield chunk;
  }
}
