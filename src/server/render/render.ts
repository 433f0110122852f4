import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Ditherer, type Dither } from '../../core/deliver/dither';
import { FORMAT_TRAITS, type Format, type WordLength } from '../../core/deliver/format';
import type { Lane, Stage } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decode64, whole } from '../codecs/decode';
import { start } from '../codecs/process';
import { Problem } from '../problem';
import { withMakeup } from './auto-makeup';
import { asBytes, fromFile, written } from './raw';
import type { Depth } from './tap';
import { writeFile } from './write-file';
import { throughStages } from './through-stages';
import { guarded } from './true-peak-guard';

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
  impulses?: ReadonlyMap<string, ImpulseResponse>;
  /** Change of level after the lane, in dB. */
  levelDb: number;
  /** Hz */
  outputRate: number;
  depth: Depth;
  /** What is added before the word length is reduced; float needs none. */
  dither: Dither;
  /** Writes zeros where the signal is silent; left out: not. */
  digitalSilence?: boolean;
  format: Format;
  /** Rate of an encode in kb/s. */
  kbps?: number;
  /** True-peak limit in dBTP at the delivered rate; null leaves the guard out. */
  guardDbtp: number | null;
  output: string;
  /** For the rendered samples before they are dithered; its name with `.guarded` is used as well. */
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
  /** What was added: none where every sample lay on the grid already. */
  dither: Dither;
  /** Samples that met the end of the scale. */
  clipped: number;
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

/** Rounds to the word length, in the layout that the encoder reads: 16 bits as they are, more at the top of 32. */
async function* quantized(
  input: AsyncIterable<Float64Array>,
  ditherer: Ditherer,
  depth: WordLength,
): AsyncGenerator<Int32Array | Int16Array> {
  const shift = depth === 16 ? 0 : 32 - depth;
  for await (const chunk of input) {
    const frames = chunk.length / 2;
    const samples = new Float64Array(frames);
    const integers = new Int32Array(frames);
    const block = depth === 16 ? new Int16Array(chunk.length) : new Int32Array(chunk.length);
    for (const channel of [0, 1] as const) {
      for (let i = 0; i < frames; i++) samples[i] = chunk[i * 2 + channel];
      ditherer.process(channel, samples, integers);
      for (let i = 0; i < frames; i++) block[i * 2 + channel] = integers[i] << shift;
    }
    yield block;
  }
}

async function* asFloat32(input: AsyncIterable<Float64Array>): AsyncGenerator<Float32Array> {
  for await (const chunk of input) yield Float32Array.from(chunk);
}

/** A stage that is nothing but a gain, or nothing at all. */
function levelStage(levelDb: number): Stage[] {
  if (levelDb === 0) return [];
  return [
    { id: 'level', kind: 'trim', on: true, settings: { gainDb: levelDb, linked: true, gainLeftDb: 0, gainRightDb: 0 } },
  ];
}

/**
 * Renders a file as a delivery: auto makeup measured, lane at the source's rate, rate conversion, true-peak guard at
 * the delivered rate, word length with seeded dither, container. The same input gives the same bytes. Rejects when the
 * source cannot be decoded; throws a Problem (422) when samples would clip that nobody asked to be clipped.
 */
export async function render(options: RenderOptions): Promise<Rendered> {
  const { input, channels, inputRate, inputBits, levelDb, outputRate, depth, guardDbtp, scratch, onProgress } = options;
  const { extension, lossless } = FORMAT_TRAITS[options.format];
  if (depth === '32f' && lossless && extension !== 'wav')
    throw new Problem(422, `${options.format} can’t hold float samples: choose WAV, or 16, 20 or 24 bits.`);
  const lane = await withMakeup(options);
  const stages = [...lane.stages.filter(({ on }) => on), ...levelStage(levelDb)];
  const untouched = stages.length === 0 && inputRate === outputRate && depth !== '32f' && inputBits <= depth;

  const decoded = counted(decode64(input, channels), (frames) =>
    onProgress(0.6 * Math.min(1, frames / Math.max(1, options.frames))),
  );
  const processed =
    stages.length > 0
      ? throughStages(decoded, { stages, crossovers: lane.crossovers }, inputRate, options.impulses)
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
        `${tap.overFullScale} samples are over full scale and would clip${depth === '32f' ? '' : ` at ${depth} bits`}. Lower the level, or put a limiter at the end of the lane.`,
      );
    }
    const safe = counted(fromFile(file), (frames) =>
      onProgress(0.6 + 0.4 * Math.min(1, frames / Math.max(1, tap.frames))),
    );
    if (depth === '32f') {
      await writeFile(asFloat32(safe), options);
      return { lane, guardDb, dither: 'none', clipped: 0 };
    }
    // Samples on the grid already gain nothing from another dither.
    const dither = tap.onGrid ? 'none' : options.dither;
    const ditherer = new Ditherer({
      ...{ depth, dither, sampleRate: outputRate, digitalSilence: options.digitalSilence },
      seeds: tap.seeds({ depth, outputRate, container: extension }),
    });
    await writeFile(quantized(safe, ditherer, depth), options);
    return { lane, guardDb, dither, clipped: ditherer.clipped };
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
