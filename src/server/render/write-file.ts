import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { FORMAT_TRAITS, type Format } from '../../core/deliver/format';
import { start } from '../codecs/process';
import { asBytes } from './raw';
import type { Depth } from './tap';

export interface FileLayout {
  format: Format;
  depth: Depth;
  /** Rate of an encode in kb/s. */
  kbps?: number;
  /** Hz */
  outputRate: number;
  output: string;
  /** Where the samples of an encode go as well, as raw float32, for checks of what other encoders make of them. */
  masterCopy?: string;
}

/** Samples as the encoder gets them: 16 bits as they are, more at the top of 32. */
const LAYOUTS = { 16: 's16le', 20: 's32le', 24: 's32le', '32f': 'f32le' } as const;
const LITTLE_ENDIAN = { 16: 'pcm_s16le', 20: 'pcm_s24le', 24: 'pcm_s24le', '32f': 'pcm_f32le' } as const;

/** What ffmpeg needs to know of each format: codec, then container. */
function codecArguments({ format, depth, kbps = 256 }: FileLayout): string[] {
  switch (format) {
    case 'WAV':
      return ['-c:a', LITTLE_ENDIAN[depth], '-rf64', 'auto', '-f', 'wav'];
    case 'Broadcast WAV':
      // Its place is kept before the samples; what it says is known when they are measured.
      return ['-c:a', LITTLE_ENDIAN[depth], '-rf64', 'auto', '-write_bext', '1', '-f', 'wav'];
    case 'FLAC':
      return ['-c:a', 'flac', ...integers(depth, 's32'), '-f', 'flac'];
    case 'AIFF':
      return ['-c:a', depth === 16 ? 'pcm_s16be' : 'pcm_s24be', '-f', 'aiff'];
    case 'ALAC':
      return ['-c:a', 'alac', ...integers(depth, 's32p'), '-f', 'ipod'];
    case 'MP3':
      return ['-c:a', 'libmp3lame', '-b:a', `${kbps}k`, '-id3v2_version', '0', '-f', 'mp3'];
    case 'AAC':
      // The coder that masters are checked with: a file that is delivered is what was checked.
      return ['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', `${kbps}k`, '-f', 'ipod'];
  }
}

function integers(depth: Depth, wide: 's32' | 's32p'): string[] {
  if (depth === 16) return ['-sample_fmt', wide.replace('32', '16')];
  return ['-sample_fmt', wide, '-bits_per_raw_sample', '24'];
}

/** Writes interleaved stereo to a file of a format; the same samples give the same bytes. */
export async function writeFile(
  samples: AsyncIterable<Int32Array | Int16Array | Float32Array>,
  layout: FileLayout,
): Promise<void> {
  const { depth, format, outputRate, output, masterCopy } = layout;
  // Encoders take floats to be within full scale, and come to no harm beyond it.
  const input = FORMAT_TRAITS[format].lossless ? LAYOUTS[depth] : 'f32le';
  const bext = format === 'Broadcast WAV' ? ['-metadata', `coding_history=${CODING_HISTORY_ROOM}`] : [];
  const { child, finished } = start('ffmpeg', [
    ...['-f', input, '-ar', String(outputRate), '-ac', '2', '-i', 'pipe:0', '-map_metadata', '-1', ...bext],
    ...['-bitexact', ...codecArguments(layout), '-y', `file:${output}`],
  ]);
  child.stdout.resume();
  const bytes = masterCopy === undefined ? asBytes(samples) : copied(asBytes(samples), masterCopy);
  await Promise.all([pipeline(Readable.from(bytes), child.stdin), finished]);
}

/** Bytes as they pass, written to a file as well. */
async function* copied(bytes: AsyncIterable<Buffer>, file: string): AsyncGenerator<Buffer> {
  const handle = await open(file, 'w');
  try {
    for await (const chunk of bytes) {
      await handle.write(chunk);
      yield chunk;
    }
  } finally {
    await handle.close();
  }
}

/** Bytes that are kept free for the coding history. */
export const CODING_HISTORY_BYTES = 128;
const CODING_HISTORY_ROOM = ' '.repeat(CODING_HISTORY_BYTES);
