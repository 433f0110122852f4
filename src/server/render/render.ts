import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Ditherer } from '../../core/deliver/dither';
import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { LaneProcessor, type RunningLane } from '../../core/lane/processor';
import { hasAutoMakeup, withHeldLoudness } from '../../core/lane/held-loudness';
import { EMPTY_LANE, type Lane, type Stage } from '../../core/lane/schema';
import { Annex2Meter } from '../../core/measure/annex2-meter';
import type { JointMeter } from '../../core/measure/joint-meter';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import { limiterSettings } from '../../core/stages/limiter/settings';
import { PeakMeter } from '../../core/measure/peak';
import { decibels } from '../../core/signal/decibels';
import { describe, type ImpulseResponse } from '../../core/stages/definition';
import { decode64, whole } from '../codecs/decode';
import { start } from '../codecs/process';
import { Problem } from '../problem';

const BLOCK = 4096;
/** Readings of one peak differ by this much between the meters: a limiter's own ceiling needs no guard (dB). */
const SAME_DB = 0.01;
/** And this much by the method of ITU-R BS.1770 Annex 2, which reads some signals higher than a finer one (dB). */
const SAME_ANNEX2_DB = 0.05;
/** Each try lowers the guard's ceiling by what the last was over; two or three are enough for any signal known. */
const GUARD_TRIES = 8;
/** Measuring passes for auto makeup, at most: a later stage's depends on the earlier ones'. */
const MAKEUP_PASSES = 5;
/** LU by which the makeup of a lane may be off here, where joints are measured a little differently from the page. */
const MAKEUP_LU = 0.08;

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
  /** For a file between two passes; its name with `.guarded` is used as well. */
  scratch: string;
  /** Lets samples over full scale be clipped instead of refusing to render them. */
  clip?: boolean;
  onProgress: (share: number) => void;
}

export interface Rendered {
  /** The lane as it was rendered: with the makeup that its stages with auto makeup needed. */
  lane: Lane;
  /** Largest gain reduction of the true-peak guard in dB. */
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
  { meterHops = 0, onBlock }: { meterHops?: number; onBlock?: (lane: LaneProcessor) => void } = {},
): AsyncGenerator<Float64Array> {
  const lane = new LaneProcessor(running, { sampleRate, maxFrames: BLOCK, meterHops, responses });
  let held = 0;
  let drop = lane.latency;
  let taken = 0;
  let given = 0;
  const flush = (frames: number): Float64Array => {
    const padded = Math.ceil(frames / QUANTUM) * QUANTUM;
    lane.left.fill(0, frames, padded);
    lane.right.fill(0, frames, padded);
    lane.process(padded);
    onBlock?.(lane);
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

/** Passes a signal on while noting what has to be known of it before it becomes a file. */
class Tap {
  private readonly kernels = new Kernels();
  private readonly addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)] as const;
  private readonly peak = new PeakMeter(this.kernels, BLOCK);
  private readonly annex2 = new Annex2Meter();
  private readonly hash = createHash('sha256');
  private readonly scale: number;
  frames = 0;
  /** Samples that an integer file of this depth cannot hold. */
  overFullScale = 0;
  /** Whether every sample lies on the grid of the depth. */
  onGrid = true;

  constructor(depth: RenderOptions['depth']) {
    this.scale = depth === '32f' ? Infinity : 2 ** (depth - 1);
  }

  async *follow(input: AsyncIterable<Float64Array>): AsyncGenerator<Float64Array> {
    for await (const chunk of input) {
      this.hash.update(Buffer.from(chunk.buffer, chunk.byteOffset, chunk.byteLength));
      this.look(chunk);
      this.add(chunk);
      yield chunk;
    }
    this.add(new Float64Array(2 * QUANTUM));
    this.frames -= QUANTUM;
  }

  private look(chunk: Float64Array): void {
    const { scale } = this;
    if (scale === Infinity) return;
    for (let i = 0; i < chunk.length; i++) {
      const value = chunk[i] * scale;
      // A step beyond either end is what rounding and dither may come to.
      if (value > scale + 0.5 || value < -scale - 1.5) this.overFullScale++;
      if (value !== Math.floor(value) || value >= scale || value < -scale) this.onGrid = false;
    }
  }

  private add(chunk: Float64Array): void {
    this.frames += chunk.length / 2;
    this.annex2.add(chunk);
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

  /** dB by which true peaks are over a limit in dBTP by the meter that reads more over; not above 0 when both hold. */
  excessDb(limitDbtp: number): number {
    const fine = decibels(Math.max(...this.peak.truePeaks())) - limitDbtp;
    const annex2 = decibels(this.annex2.truePeak()) - limitDbtp;
    return Math.max(fine > SAME_DB ? fine : 0, annex2 > SAME_ANNEX2_DB ? annex2 : 0);
  }

  /** Seeds of the two sides' dither, from what is dithered and what it is dithered for. */
  seeds(request: unknown): [number, number] {
    const digest = this.hash.copy().update(JSON.stringify(request)).digest();
    return [digest.readUInt32LE(0), digest.readUInt32LE(4)];
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
 * The lane with the makeup that its stages with auto makeup need on this programme, by measuring passes; itself when what is
 * saved fits already.
 */
async function withMakeup({ input, channels, inputRate, frames, lane, responses }: RenderOptions): Promise<Lane> {
  let fitted = lane;
  if (!hasAutoMakeup(lane)) return fitted;
  // A file that does not say how long it is must be counted first.
  let length = frames;
  if (length === 0) for await (const chunk of decode64(input, channels)) length += chunk.length / 2;
  const meterHops = Math.ceil((length / inputRate) * HOPS_PER_SECOND) + HOPS_PER_SECOND;
  for (let pass = 0; pass < MAKEUP_PASSES; pass++) {
    let joints: JointMeter[] = [];
    const onBlock = (processor: LaneProcessor) => (joints = processor.joints);
    for await (const _ of throughStages(decode64(input, channels), fitted, inputRate, responses, {
      meterHops,
      onBlock,
    }));
    const measured = joints.map(({ loudness }) => ({ integratedLufs: loudness.report().integrated }));
    const next = withHeldLoudness(fitted, measured, MAKEUP_LU);
    if (!next) break;
    fitted = next;
  }
  return fitted;
}

/** Writes a signal to a file of raw float64 and gives what was noted of it. */
async function written(signal: AsyncIterable<Float64Array>, depth: RenderOptions['depth'], file: string): Promise<Tap> {
  const tap = new Tap(depth);
  await pipeline(Readable.from(asBytes(tap.follow(signal))), createWriteStream(file));
  return tap;
}

/**
 * Holds true peaks below a limit at the delivered rate, in a second file, until both meters agree that they are. Throws a
 * Problem (422) when they cannot be.
 */
async function guarded(
  file: string,
  target: string,
  limitDbtp: number,
  { outputRate, depth }: RenderOptions,
): Promise<{ tap: Tap; guardDb: number }> {
  let ceilingDbtp = limitDbtp;
  const { min } = describe(limiterSettings.shape.ceilingDbtp);
  for (let tries = 0; tries < GUARD_TRIES && ceilingDbtp >= min; tries++) {
    const guard: Stage = { id: 'guard', kind: 'limiter', on: true, settings: limiterSettings.parse({ ceilingDbtp }) };
    let guardDb = 0;
    const onBlock = (lane: LaneProcessor) => (guardDb = Math.max(guardDb, lane.takeGainReduction(0)));
    const held = throughStages(fromFile(file), { ...EMPTY_LANE, stages: [guard] }, outputRate, undefined, { onBlock });
    const tap = await written(held, depth, target);
    const excess = tap.excessDb(limitDbtp);
    if (excess <= 0) return { tap, guardDb };
    ceilingDbtp -= excess;
  }
  throw new Problem(
    422,
    `The true peaks cannot be held at ${limitDbtp} dBTP after the change of sample rate. Lower the level or put a limiter at the end of the lane.`,
  );
}

/**
 * Renders a file as a delivery: auto makeup measured, lane at the source's rate, rate conversion, true-peak guard at the
 * delivered rate, word length with seeded dither, container. The same input gives the same bytes. Rejects when the source
 * cannot be decoded; throws a Problem (422) when samples would clip that nobody asked to be clipped.
 */
export async function render(options: RenderOptions): Promise<Rendered> {
  const { input, channels, inputRate, inputBits, levelDb, outputRate, depth, guardDbtp, scratch, onProgress } = options;
  if (depth === '32f' && options.container === 'flac')
    throw new Problem(422, 'FLAC holds no float samples: choose WAV, or 16 or 24 bits.');
  const lane = await withMakeup(options);
  const stages = [...lane.stages.filter(({ on }) => on), ...levelStage(levelDb)];
  const untouched = stages.length === 0 && inputRate === outputRate && depth !== '32f' && inputBits <= depth;

  const decoded = counted(decode64(input, channels), (frames) =>
    onProgress(0.6 * Math.min(1, frames / Math.max(1, options.frames))),
  );
  const processed =
    stages.length > 0
      ? throughStages(decoded, { stages, crossovers: lane.crossovers }, inputRate, options.responses)
      : decoded;
  const atRate = inputRate === outputRate ? processed : converted(processed, inputRate, outputRate);
  const second = `${scratch}.guarded`;
  try {
    let file = scratch;
    let tap = await written(atRate, depth, scratch);
    let guardDb = 0;
    if (guardDbtp !== null && !untouched && tap.excessDb(guardDbtp) > 0) {
      ({ tap, guardDb } = await guarded(scratch, second, guardDbtp, options));
      file = second;
    }
    if (tap.overFullScale > 0 && !options.clip) {
      throw new Problem(
        422,
        `${tap.overFullScale} samples are over full scale and would clip at ${depth} bits. Lower the level, or put a limiter at the end of the lane.`,
      );
    }
    const safe = counted(fromFile(file), (frames) =>
      onProgress(0.6 + 0.4 * Math.min(1, frames / Math.max(1, tap.frames))),
    );
    if (depth === '32f') {
      await encode(asFloat32(safe), options);
      return { lane, guardDb, dither: 'none', clipped: 0 };
    }
    // What lies on the grid already gains nothing from being dithered once more.
    const dithered = !tap.onGrid;
    const ditherer = new Ditherer(depth, dithered, tap.seeds({ depth, outputRate, container: options.container }));
    await encode(quantized(safe, ditherer, depth), options);
    return { lane, guardDb, dither: dithered ? 'TPDF' : 'none', clipped: ditherer.clipped };
  } finally {
    await rm(scratch, { force: true });
    await rm(second, { force: true });
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
