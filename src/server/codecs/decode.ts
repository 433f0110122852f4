import { containerOf, type Accepts, type Container } from './container';
import { start } from './process';

/** How a stereo pair is made of one or two channels: a mono file plays at its own level on both. */
function stereo(channels: number): string {
  return channels === 1 ? 'pan=stereo|c0=c0|c1=c0' : 'anull';
}

/** Stops where the audio ends, for input that would read on. */
function ending({ frames }: Container): string[] {
  return frames === null ? [] : [`atrim=end_sample=${frames}`];
}

/** Interleaved stereo float32 without a header, at a rate in Hz. */
export interface RawFloats {
  rawRate: number;
}

/** How ffmpeg is told of stereo floats without a header. */
export function rawFloatInput({ rawRate }: RawFloats, input: string): string[] {
  return ['-f', 'f32le', '-ar', String(rawRate), '-ac', '2', '-i', input];
}

async function inputOf(file: string, accepts: Accepts | RawFloats): Promise<{ input: string[]; filters: string[] }> {
  if (typeof accepts === 'object') return { input: rawFloatInput(accepts, `file:${file}`), filters: [] };
  const container = await containerOf(file, accepts);
  return { input: container.input, filters: ending(container) };
}

async function* decodeRaw(
  file: string,
  channels: number,
  bytes: 4 | 8,
  signal?: AbortSignal,
  filters: string[] = [],
  accepts: Accepts | RawFloats = 'lossless',
  fromSeconds = 0,
): AsyncGenerator<Uint8Array> {
  const format = bytes === 4 ? 'f32le' : 'f64le';
  const known = await inputOf(file, accepts);
  // Where it begins later, its end is not counted from its beginning any more; the filters know where to stop.
  const seek = fromSeconds > 0 ? ['-ss', String(fromSeconds)] : [];
  const filter = [...(fromSeconds > 0 ? [] : known.filters), stereo(channels), ...filters].join(',');
  const args = [...seek, ...known.input, '-map', '0:a:0', '-af', filter, '-f', format, '-c:a', `pcm_${format}`, '-'];
  const { child, finished } = start('ffmpeg', args, { signal });
  child.stdin.end();
  try {
    yield* whole(child.stdout, bytes * 2);
    await finished;
  } finally {
    child.kill('SIGKILL');
  }
}

/** Bytes of the longest sample: a typed array must begin at a multiple of its own. */
const ALIGNMENT = 8;

/** Cuts a stream of bytes at multiples of a frame, each chunk at an address its typed array can use. */
export async function* whole(stream: AsyncIterable<Buffer>, frameBytes: number): AsyncGenerator<Uint8Array> {
  let rest = Buffer.alloc(0);
  for await (const chunk of stream) {
    const all = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
    const usable = all.length - (all.length % frameBytes);
    const frames = all.subarray(0, usable);
    if (usable > 0) yield frames.byteOffset % ALIGNMENT === 0 ? frames : new Uint8Array(frames);
    rest = Buffer.from(all.subarray(usable));
  }
}

/** Bytes from {@link whole} as samples. */
function asFloat32({ buffer, byteOffset, byteLength }: Uint8Array): Float32Array {
  return new Float32Array(buffer, byteOffset, byteLength / 4);
}

/** Bytes from {@link whole} as samples. */
export function asFloat64({ buffer, byteOffset, byteLength }: Uint8Array): Float64Array {
  return new Float64Array(buffer, byteOffset, byteLength / 8);
}

/** Interleaved stereo float32 of a file; exact for integers up to 24 bits. Rejects when the file is damaged. */
export async function* decode32(file: string, channels = 2, signal?: AbortSignal): AsyncGenerator<Float32Array> {
  for await (const bytes of decodeRaw(file, channels, 4, signal)) yield asFloat32(bytes);
}

/** The same of a file that may be a lossy encode; what it decodes to over full scale stays. */
export async function* decodeReference(file: string, channels: number): AsyncGenerator<Float32Array> {
  for await (const bytes of decodeRaw(file, channels, 4, undefined, [], 'lossy')) yield asFloat32(bytes);
}

/** The same at another sample rate in Hz. */
export async function* decode32Resampled(
  file: string,
  channels: number,
  sampleRate: number,
): AsyncGenerator<Float32Array> {
  const filters = [`aresample=${sampleRate}:resampler=soxr:precision=33`];
  for await (const bytes of decodeRaw(file, channels, 4, undefined, filters)) yield asFloat32(bytes);
}

/** What a file becomes: so many frames, at a rate in Hz. */
interface FloatWaveOptions {
  frames: number;
  rate: number;
  resampled: boolean;
  channels?: number;
  accepts?: Accepts;
  /** Frames at the file's own rate by which it is late. */
  lateFrames?: number;
}

/**
 * A file as the bytes of a stereo WAV of 32-bit floats with exactly `frames` frames, converted to a rate in Hz if asked to.
 * Rejects when the file is damaged.
 */
export async function* floatWave(
  file: string,
  { frames, rate, resampled, channels = 2, accepts, lateFrames = 0 }: FloatWaveOptions,
): AsyncGenerator<Uint8Array, void, undefined> {
  const container = await containerOf(file, accepts);
  const filters = [
    ...ending(container),
    stereo(channels),
    ...shifted(lateFrames),
    ...(resampled ? [`aresample=${rate}:resampler=soxr:precision=33`] : []),
    ...[`apad=whole_len=${frames}`, `atrim=end_sample=${frames}`],
  ];
  const args = [...container.input, '-map', '0:a:0', '-map_metadata', '-1', '-af', filters.join(',')];
  const { child, finished } = start('ffmpeg', [...args, '-c:a', 'pcm_f32le', '-bitexact', '-f', 'wav', '-']);
  child.stdin.end();
  try {
    for await (const chunk of child.stdout) yield new Uint8Array(chunk as Buffer);
    await finished;
  } finally {
    child.kill('SIGKILL');
    finished.catch(() => {});
  }
}

/** Interleaved stereo float64 of a file. Rejects when the file is damaged. */
export async function* decode64(file: string, channels = 2, signal?: AbortSignal): AsyncGenerator<Float64Array> {
  for await (const bytes of decodeRaw(file, channels, 8, signal)) yield asFloat64(bytes);
}

/** The same of a passage, from a second on and for so many frames, without decoding what is before it. */
export async function* decodePassage64(
  file: string,
  channels: number,
  fromSeconds: number,
  frames: number,
): AsyncGenerator<Float64Array> {
  const filters = [`atrim=end_sample=${frames}`];
  for await (const bytes of decodeRaw(file, channels, 8, undefined, filters, 'lossless', fromSeconds))
    yield asFloat64(bytes);
}

/**
 * Mid signal and peak of a section of a file, from one frame to another at a sample rate in Hz; silence where the file
 * has nothing. Rejects when the file is damaged.
 */
export async function decodeSection(
  file: string,
  channels: number,
  sampleRate: number,
  from: number,
  to: number,
  accepts?: Accepts | RawFloats,
): Promise<{ mid: Float32Array; peak: number }> {
  const mid = new Float32Array(to - from);
  let peak = 0;
  let at = Math.max(0, from);
  // Raw floats are found at once; a file is decoded from its beginning, so that the place is exact.
  const seek = typeof accepts === 'object' ? at : 0;
  const filters = [
    `aresample=${sampleRate}:resampler=soxr`,
    `atrim=start_sample=${at - seek}:end_sample=${Math.max(at + 1, to) - seek}`,
  ];
  for await (const bytes of decodeRaw(file, channels, 4, undefined, filters, accepts, seek / sampleRate)) {
    const samples = asFloat32(bytes);
    for (let i = 0; i + 1 < samples.length && at < to; i += 2, at++) {
      mid[at - from] = (samples[i] + samples[i + 1]) / 2;
      peak = Math.max(peak, Math.abs(samples[i]), Math.abs(samples[i + 1]));
    }
  }
  return { mid, peak };
}

/** Leaves out frames at the head, or puts silence there. */
function shifted(lateFrames: number): string[] {
  if (lateFrames > 0) return [`atrim=start_sample=${lateFrames}`, 'asetpts=PTS-STARTPTS'];
  return lateFrames < 0 ? [`adelay=delays=${-lateFrames}S:all=1`] : [];
}

/**
 * Makes the working file that pages decode: 24-bit FLAC for integer sources up to 24 bits, float WAV otherwise. What is
 * late by some frames loses them at its head; what is early gets silence there. Nothing is read beyond `seconds`.
 * Rejects when the source is damaged.
 */
export async function makeWorkingFile(
  file: string,
  target: string,
  format: 'flac' | 'wav',
  channels: number,
  { lateFrames = 0, seconds }: { lateFrames?: number; seconds: number },
): Promise<void> {
  const codec =
    format === 'flac'
      ? ['-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24']
      : ['-c:a', 'pcm_f32le', '-rf64', 'auto'];
  const container = await containerOf(file);
  const filters = [...ending(container), stereo(channels), ...shifted(lateFrames)].join(',');
  const args = [
    ...['-t', String(seconds), ...container.input, '-map', '0:a:0', '-map_metadata', '-1', '-af', filters],
    ...[...codec, '-bitexact', '-f', format, '-y', `file:${target}`],
  ];
  const { child, finished } = start('ffmpeg', args);
  child.stdin.end();
  child.stdout.resume();
  await finished;
}
