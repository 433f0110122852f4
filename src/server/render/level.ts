import { amplitude } from '../../core/signal/decibels';

/** A signal at another level; `levelDb` in dB. */
export async function* atLevel(input: AsyncIterable<Float64Array>, levelDb: number): AsyncGenerator<Float64Array> {
  const gain = amplitude(levelDb);
  for await (const chunk of input) {
    for (let i = 0; i < chunk.length; i++) chunk[i] *= gain;
    yield chunk;
  }
}
