import { createReadStream, createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { whole } from '../codecs/decode';
import { Tap, type Depth } from './tap';

/** The bytes of samples, as a program reads them. */
export async function* asBytes(
  input: AsyncIterable<Float64Array | Float32Array | Int32Array | Int16Array>,
): AsyncGenerator<Buffer> {
  for await (const { buffer, byteOffset, byteLength } of input)
    if (byteLength > 0) yield Buffer.from(buffer, byteOffset, byteLength);
}

/** Interleaved stereo from a file of raw float64. */
export async function* fromFile(file: string): AsyncGenerator<Float64Array> {
  for await (const bytes of whole(createReadStream(file, { highWaterMark: 1 << 18 }), 16))
    yield new Float64Array(bytes.buffer);
}

/** Writes a signal to a file of raw float64 and gives what was noted of it. */
export async function written(signal: AsyncIterable<Float64Array>, depth: Depth, file: string): Promise<Tap> {
  const tap = new Tap(depth);
  await pipeline(Readable.from(asBytes(tap.follow(signal))), createWriteStream(file));
  return tap;
}

/** Passes samples on and tells how many frames have come. */
export async function* counted(
  input: AsyncIterable<Float64Array>,
  onFrames: (frames: number) => void,
): AsyncGenerator<Float64Array> {
  let frames = 0;
  for await (const chunk of input) {
    frames += chunk.length / 2;
    onFrames(frames);
    yield chunk;
  }
}
