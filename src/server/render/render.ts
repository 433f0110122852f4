import { createReadStream, createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Ditherer } from '../../core/deliver/dither';
import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { LaneProcessor, type RunningLane } from '../../core/lane/processor';
import { EMPTY_LANE, type Lane, type Stage } from '../../core/lane/schema';
import { limiterSettings } from '../../core/stages/limiter/settings';
import { PeakMeter } from '../../core/measure/peak';
import { decibels } from '../../core/signal/decibels';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decode64, whole } from '../codecs/decode';
import { start } from '../codecs/process';

const BLOCK = 4096;
/** Rate conversion adds tenths of a dB between the samples; more than this is not the guard's to hide. */
export const GUARD_MAX_DB = 1;
/** Less than this is what two readings of one peak differ by: a limiter's own ceiling needs no guard. */
const GUARD_MIN_DB = 0.01;

export interface RenderOptions {
  input: string;
  channels: number;
  /** Hz */
  inputRate: number;
  /** Word length of the source, 32 for float: a file that passes untouched is not dithered. */
  inputBits: number;
  frames: number;
  lane: Lane;
  /** Impulse responses that the lane names, at the source's rate. */
  responses?: ReadonlyMap<string, ImpulseResponse>;
  /** Change of level behind the lane, in dB. */
  levelDb: number;
  /** Hz */
  outputRate: number;
  depth: 16 | 24 | '32f';
  container: 'wav' | 'flac';
  /** True-peak limit in dBTP at the delivered rate; null leaves the guard out. */
  guardDbtp: number | null;
  /** Tags by name. */
  tags: Record<string, string>;
  output: string;
  /** For a file between the two passes. */
  scratch: string;
  onProgress: (share: number) => void;
}

export interface Rendered {
  /** Largest reduction of the true-peak guard in dB. */
  guardDb: number;
  dither: 'TPDF' | 'none';
  /** Samples that met the end of the scale. */
  clipped: number;
}

/** Runs interleaved stereo through stages; the output has exactly as many frames as the input, in place in time. */
async function* throughStages(
  input: AsyncIterable<Float64Array>,
  running: RunningLane,
  sampleRate: number,
  responses?: ReadonlyMap<string, ImpulseResponse>,
): AsyncGenerator<Float64Array> {
  const lane = new LaneProcessor(running, { sampleRate, maxFrames: BLOCK, meterHops: 0, responses });
  let held = 0;
  let drop = lane.latency;
  let taken = 0;
  let given = 0;
  const flush = (frames: number): Float64Array => {
    const padded = Math.ceil(frames / QUANTUM) * QUANTUM;
    lane.left.fill(0, frames, padded);
    lane.right.fill(0, frames, padded);
    lane.process(padded);
    const first = Math.min(drop, padded);
    drop -= first;
    const count = Math.min(padded - first, taken - given);
    const block = new Float64Array(count * 2);
    for (let i = 0; i < count; i++) {
      block[i * 2] = lane.left[first + i];
      block[i * 2 + 1] = lane.right[first + i];
    }
    given += count;
    held = 0;
    return block;
  };
  for await (const chunk of input) {
    for (let i = 0; i < chunk.length; i += 2) {
      lane.left[held] = chunk[i];
      lane.right[held] = chunk[i + 1];
      taken++;
      if (++held === BLOCK) yield flush(BLOCK);
    }
  }
  while (given < taken) {
    lane.left.fill(0, held);
    lane.right.fill(0, held);
    yield flush(BLOCK);
  }
}

/** Sample-rate conversion by soxr at its highest precision. */
async function* converted(input: AsyncIterable<Float64Array>, from: number, to: number): AsyncGenerator<Float64Array> {
  const raw = ['-f', 'f64le', '-ac', '2'];
  const filter = `aresample=${to}:resampler=soxr:precision=33:osf=dbl`;
  const { child, finished } = start('ffmpeg', [
    ...raw,
    '-ar',
    String(from),
    '-i',
    'pipe:0',
    '-af',
    filter,
    ...raw,
    '-ar',
    String(to),
    '-',
  ]);
  const feeding = pipeline(Readable.from(asBytes(input)), child.stdin);
  feeding.catch(() => child.kill('SIGKILL'));
  try {
    for await (const bytes of whole(child.stdout, 16)) yield new Float64Array(bytes.buffer);
    await feeding;
    await finished;
  } finally {
    child.kill('SIGKILL');
  }
}

async function* asBytes(
  input: AsyncIterable<Float64Array | Float32Array | Int32Array | Int16Array>,
): AsyncGenerator<Buffer> {
  for await (const { buffer, byteOffset, byteLength } of input)
    if (byteLength > 0) yield Buffer.from(buffer, byteOffset, byteLength);
}

async function* fromFile(file: string): AsyncGenerator<Float64Array> {
  for await (const bytes of whole(createReadStream(file, { highWaterMark: 1 << 18 }), 16))
    yield new Float64Array(bytes.buffer);
}

/** Passes a signal on while noting its true peak. */
class PeakTap {
  private readonly kernels = new Kernels();
  private readonly addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)] as const;
  private readonly peak = new PeakMeter(this.kernels, BLOCK);
  frames = 0;

  async *follow(input: AsyncIterable<Float64Array>): AsyncGenerator<Float64Array> {
    for await (const chunk of input) {
      this.add(chunk);
      yield chunk;
    }
    this.add(new Float64Array(2 * QUANTUM));
  }

  private add(chunk: Float64Array): void {
    this.frames += chunk.length / 2;
    const [left, right] = this.addresses.map((address) => this.kernels.view64(address, BLOCK));
    for (let at = 0; at < chunk.length; at += 2 * BLOCK) {
      const frames = Math.min(BLOCK, (chunk.length - at) / 2);
      const padded = Math.ceil(frames / QUANTUM) * QUANTUM;
      left.fill(0, frames, padded);
      right.fill(0, frames, padded);
      for (let i = 0; i < frames; i++) {
        left[i] = chunk[at + i * 2];
        right[i] = chunk[at + i * 2 + 1];
      }
      this.peak.add(...this.addresses, padded);
    }
  }

  truePeakDb(): number {
    return decibels(Math.max(...this.peak.truePeaks()));
  }
}

/** Rounds to the word length, in the layout the encoder reads: 16 bits as they are, 24 bits at the top of 32. */
async function* quantized(
  input: AsyncIterable<Float64Array>,
  ditherer: Ditherer,
  depth: 16 | 24,
): AsyncGenerator<Int32Array | Int16Array> {
  for await (const chunk of input) {
    const frames = chunk.length / 2;
    const side = new Float64Array(frames);
    const integers = new Int32Array(frames);
    const block = depth === 16 ? new Int16Array(chunk.length) : new Int32Array(chunk.length);
    for (const channel of [0, 1] as const) {
      for (let i = 0; i < frames; i++) side[i] = chunk[i * 2 + channel];
      ditherer.process(channel, side, integers);
      for (let i = 0; i < frames; i++) block[i * 2 + channel] = depth === 16 ? integers[i] : integers[i] << 8;
    }
    yield block;
  }
}

async function* asFloat32(input: AsyncIterable<Float64Array>): AsyncGenerator<Float32Array> {
  for await (const chunk of input) yield Float32Array.from(chunk);
}

async function encode(
  samples: AsyncIterable<Int32Array | Int16Array | Float32Array>,
  options: RenderOptions,
): Promise<void> {
  const { depth, container, outputRate, output, tags } = options;
  const raw = { 16: 's16le', 24: 's32le', '32f': 'f32le' }[depth];
  const flac = [
    '-c:a',
    'flac',
    ...(depth === 24 ? ['-sample_fmt', 's32', '-bits_per_raw_sample', '24'] : ['-sample_fmt', 's16']),
  ];
  const wav = ['-c:a', { 16: 'pcm_s16le', 24: 'pcm_s24le', '32f': 'pcm_f32le' }[depth], '-rf64', 'auto'];
  const metadata = Object.entries(tags).flatMap(([name, value]) => (value ? ['-metadata', `${name}=${value}`] : []));
  const { child, finished } = start('ffmpeg', [
    ...['-f', raw, '-ar', String(outputRate), '-ac', '2', '-i', 'pipe:0'],
    ...(container === 'flac' ? flac : wav),
    ...metadata,
    ...['-bitexact', '-f', container, '-y', output],
  ]);
  child.stdout.resume();
  await Promise.all([pipeline(Readable.from(asBytes(samples)), child.stdin), finished]);
}

/** A stage that is nothing but a gain, or nothing at all. */
function levelStage(levelDb: number): Stage[] {
  if (levelDb === 0) return [];
  return [
    { id: 'level', kind: 'trim', on: true, settings: { gainDb: levelDb, linked: true, gainLeftDb: 0, gainRightDb: 0 } },
  ];
}

/**
 * Renders a file as a delivery: lane at the source's rate, rate conversion, true-peak guard at the delivered rate, word
 * length with seeded dither, container. The same input gives the same bytes. Rejects when the source cannot be decoded.
 */
export async function render(options: RenderOptions): Promise<Rendered> {
  const { input, channels, inputRate, inputBits, lane, levelDb, outputRate, depth, guardDbtp, scratch, onProgress } =
    options;
  if (depth === '32f' && options.container === 'flac')
    throw new Error('FLAC holds no float samples: choose WAV, or 16 or 24 bits.');
  const stages = [...lane.stages.filter(({ on }) => on), ...levelStage(levelDb)];
  const untouched = stages.length === 0 && inputRate === outputRate && depth !== '32f' && inputBits <= depth;
  const tap = new PeakTap();

  const decoded = counted(decode64(input, channels), (frames) =>
    onProgress(0.6 * Math.min(1, frames / Math.max(1, options.frames))),
  );
  const processed =
    stages.length > 0
      ? throughStages(decoded, { stages, crossovers: lane.crossovers }, inputRate, options.responses)
      : decoded;
  const atRate = inputRate === outputRate ? processed : converted(processed, inputRate, outputRate);
  try {
    await pipeline(Readable.from(asBytes(tap.follow(atRate))), createWriteStream(scratch));
    const excess = guardDbtp === null ? 0 : tap.truePeakDb() - guardDbtp;
    const guarded = excess > GUARD_MIN_DB && excess <= GUARD_MAX_DB && !untouched;
    const guard: Stage = {
      id: 'guard',
      kind: 'limiter',
      on: true,
      settings: limiterSettings.parse({ ceilingDbtp: guardDbtp ?? 0 }),
    };
    const rendered = fromFile(scratch);
    const safe = counted(
      guarded ? throughStages(rendered, { ...EMPTY_LANE, stages: [guard] }, outputRate) : rendered,
      (frames) => onProgress(0.6 + 0.4 * Math.min(1, frames / Math.max(1, tap.frames))),
    );
    if (depth === '32f') {
      await encode(asFloat32(safe), options);
      return { guardDb: guarded ? excess : 0, dither: 'none', clipped: 0 };
    }
    const ditherer = new Ditherer(depth, !untouched);
    await encode(quantized(safe, ditherer, depth), options);
    return { guardDb: guarded ? excess : 0, dither: untouched ? 'none' : 'TPDF', clipped: ditherer.clipped };
  } finally {
    await rm(scratch, { force: true });
  }
}

async function* counted(
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
