import { writeFileSync } from 'node:fs';
import type { Stereo } from './signals';

// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { max, min, round } = Math;

/** Bytes of a stereo WAV file; integer depths are rounded, without dither. */
export function wave({ left, right }: Stereo, sampleRate: number, depth: 16 | 24 | '32f' = 24): Buffer {
  const bytes = depth === '32f' ? 4 : depth / 8;
  const dataBytes = left.length * 2 * bytes;
  const file = Buffer.alloc(44 + dataBytes);
  file.write('RIFF', 0);
  file.writeUInt32LE(36 + dataBytes, 4);
  file.write('WAVEfmt ', 8);
  file.writeUInt32LE(16, 16);
  file.writeUInt16LE(depth === '32f' ? 3 : 1, 20);
  file.writeUInt16LE(2, 22);
  file.writeUInt32LE(sampleRate, 24);
  file.writeUInt32LE(sampleRate * 2 * bytes, 28);
  file.writeUInt16LE(2 * bytes, 32);
  file.writeUInt16LE(bytes * 8, 34);
  file.write('data', 36);
  file.writeUInt32LE(dataBytes, 40);
  const scale = 2 ** (bytes * 8 - 1);
  let at = 44;
  for (let i = 0; i < left.length; i++) {
    for (const x of [left[i], right[i]]) {
      if (depth === '32f') file.writeFloatLE(x, at);
      else file.writeIntLE(max(-scale, min(scale - 1, round(x * scale))), at, bytes);
      at += bytes;
    }
  }
  return file;
}

export function writeWave(file: string, signal: Stereo, sampleRate: number, depth: 16 | 24 | '32f' = 24): void {
  writeFileSync(file, wave(signal, sampleRate, depth));
}
