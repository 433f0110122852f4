import { open } from 'node:fs/promises';
import type { Encode } from '../../core/deliver/encode';
import { ProgrammeMeter, type ProgrammeFigures } from '../../core/measure/programme-meter';
import { encoderOf } from '../codecs/encode';

/** An encode and the file that it goes to. */
export interface EncodeTarget {
  encode: Encode;
  path: string;
}

/**
 * Encodes interleaved stereo as it comes, in each of several ways at once, and measures it on the way; what was encoded
 * goes to `raw` as float32, when that is given. Rejects when an encoder fails.
 */
export async function encodeSamples(
  samples: AsyncIterable<Float64Array>,
  { sampleRate, maxFrames }: { sampleRate: number; maxFrames: number },
  targets: readonly EncodeTarget[],
  raw?: string,
): Promise<ProgrammeFigures> {
  const meter = new ProgrammeMeter(sampleRate, maxFrames);
  const encoders = targets.map(({ encode, path }) => encoderOf(sampleRate, encode, path));
  const file = raw === undefined ? null : await open(raw, 'w');
  try {
    for await (const chunk of samples) {
      const floats = new Float32Array(chunk);
      const bytes = new Uint8Array(floats.buffer);
      const sinks = encoders.map((encoder) => encoder.write(bytes));
      meter.add(floats);
      await Promise.all([...sinks, file?.appendFile(bytes)]);
    }
    await Promise.all(encoders.map((encoder) => encoder.end()));
  } finally {
    encoders.forEach((encoder) => encoder.kill());
    await file?.close();
  }
  return meter.result();
}
