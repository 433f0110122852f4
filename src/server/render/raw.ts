import { createWriteStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Tap, type Noted } from './tap';

/** Of a frame in a raw file: two channels of float64. */
export const BYTES_PER_FRAME = 16;

/** Bytes of a raw file that are read at a time: whole frames. */
const READ_BYTES = 1 << 18;

/** Frames of silence that are given at a time. */
const SILENT_FRAMES = 65536;

/** Interleaved stereo silence. */
export function* silence(frames: number): Generator<Float64Array> {
  for (let left = frames; left > 0; left -= SILENT_FRAMES) yield new Float64Array(2 * Math.min(left, SILENT_FRAMES));
}

/** The bytes of samples, as a program reads them. */
export async function* asBytes(
  input: AsyncIterable<Float64Array | Float32Array | Int32Array | Int16Array>,
): AsyncGenerator<Buffer> {
  for await (const { buffer, byteOffset, byteLength } of input)
    if (byteLength > 0) yield Buffer.from(buffer, byteOffset, byteLength);
}

/** Interleaved stereo from a file of raw float64. */
export async function* fromFile(file: string): AsyncGenerator<Float64Array> {
  const handle = await open(file);
  try {
    const { size } = await handle.stat();
    for (let at = 0; at < size;) {
      // Not from a pool, so that it begins where a typed array can.
      const bytes = Buffer.allocUnsafeSlow(Math.min(READ_BYTES, size - at));
      for (let held = 0; held < bytes.length;) {
        const { bytesRead } = await handle.read(bytes, held, bytes.length - held, at + held);
        if (bytesRead === 0) throw new Error('A file of samples became shorter while it was read.');
        held += bytesRead;
      }
      at += bytes.length;
      yield new Float64Array(bytes.buffer, bytes.byteOffset, bytes.length / 8);
    }
  } finally {
    await handle.close();
  }
}

/** Writes a signal to a file of raw float64. */
export function writeRaw(signal: AsyncIterable<Float64Array>, file: string): Promise<void> {
  return pipeline(Readable.from(asBytes(signal)), createWriteStream(file));
}

/** Writes a signal to a file of raw float64 and gives what was noted of it. */
export async function written(signal: AsyncIterable<Float64Array>, file: string): Promise<Noted> {
  const tap = new Tap();
  await writeRaw(tap.follow(signal), file);
  return tap.noted();
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
