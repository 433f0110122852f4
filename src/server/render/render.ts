import { createHash } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { Ditherer, type Dither } from '../../core/deliver/dither';
import { FORMAT_TRAITS, type Format, type WordLength } from '../../core/deliver/format';
import type { Lane } from '../../core/lane/schema';
import { Problem } from '../problem';
import { converted } from './convert';
import { runLane, samplesOf, type LaneRun, type LaneRunOptions } from './lane-run';
import { atLevel } from './level';
import { counted, fromFile, written } from './raw';
import { atLevelNoted, excessDb, heldRange, isOnGrid, type Depth, type Noted } from './tap';
import { writeFile } from './write-file';
import { guarded } from './true-peak-guard';

export interface RenderOptions extends LaneRunOptions {
  /** What the lane made of the mix, when it was run before. */
  laneRun?: LaneRun;
  /** Word length of the source, 32 for float: a file that passes untouched is not dithered. */
  inputBits: number;
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
  /** Where the samples of an encode go as well, as {@link FileLayout} has it. */
  masterCopy?: string;
  /** For samples that are not finished yet; its name with `.guarded` and `.lane` is used as well. */
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

/** Shares of the work that are done after the lane, and when the samples wait for their dither. */
export const LANE = 0.4;
const FINISHED = 0.7;

/** Frames that are dithered at a time. */
const DITHERED = 4096;

/** Rounds to the word length, in the layout that the encoder reads: 16 bits as they are, more at the top of 32. */
export async function* quantized(
  input: AsyncIterable<Float64Array>,
  ditherer: Ditherer,
  depth: WordLength,
): AsyncGenerator<Int32Array | Int16Array> {
  const shift = depth === 16 ? 0 : 32 - depth;
  const left = new Float64Array(DITHERED);
  const right = new Float64Array(DITHERED);
  const integers = [new Int32Array(DITHERED), new Int32Array(DITHERED)] as const;
  for await (const chunk of input) {
    const block = depth === 16 ? new Int16Array(chunk.length) : new Int32Array(chunk.length);
    for (let from = 0; from < chunk.length; from += 2 * DITHERED) {
      const frames = Math.min(DITHERED, (chunk.length - from) / 2);
      for (let i = 0; i < frames; i++) {
        left[i] = chunk[from + 2 * i];
        right[i] = chunk[from + 2 * i + 1];
      }
      ditherer.process(0, left.subarray(0, frames), integers[0]);
      ditherer.process(1, right.subarray(0, frames), integers[1]);
      for (let i = 0; i < frames; i++) {
        block[from + 2 * i] = integers[0][i] << shift;
        block[from + 2 * i + 1] = integers[1][i] << shift;
      }
    }
    yield block;
  }
}

async function* asFloat32(input: AsyncIterable<Float64Array>): AsyncGenerator<Float32Array> {
  for await (const chunk of input) yield new Float32Array(chunk);
}

/** Seeds of the two channels' dither, from what is dithered and what it is dithered for. */
function seedsOf({ sha256 }: LaneRun, request: object): [left: number, right: number] {
  const digest = createHash('sha256')
    .update(JSON.stringify({ sha256, ...request }))
    .digest();
  return [digest.readUInt32LE(0), digest.readUInt32LE(4)];
}

/** Throws a Problem (422) when a file of a word length can’t hold a signal. */
async function requireHeld(signal: AsyncIterable<Float64Array>, noted: Noted, depth: Depth): Promise<void> {
  const [lowest, highest] = heldRange(depth);
  if (noted.lowest >= lowest && noted.highest <= highest) return;
  let over = 0;
  for await (const chunk of signal) for (const x of chunk) if (x < lowest || x > highest) over++;
  throw new Problem(
    422,
    `${over} samples are over full scale and would clip${depth === '32f' ? '' : ` at ${depth} bits`}. Lower the level, or put a limiter at the end of the lane.`,
  );
}

/**
 * Renders a file as a delivery: auto makeup measured, lane at the source's rate, rate conversion, true-peak guard at
 * the delivered rate, word length with seeded dither, container. The same input gives the same bytes. Rejects when the
 * source cannot be decoded; throws a Problem (422) when samples would clip that nobody asked to be clipped.
 */
export async function render(options: RenderOptions): Promise<Rendered> {
  const { inputRate, inputBits, levelDb, outputRate, depth, guardDbtp, scratch, onProgress } = options;
  const { extension, lossless } = FORMAT_TRAITS[options.format];
  if (depth === '32f' && lossless && extension !== 'wav')
    throw new Problem(422, `${options.format} can’t hold float samples: choose WAV, or 16, 20 or 24 bits.`);
  const own = `${scratch}.lane`;
  const second = `${scratch}.guarded`;
  const progressOf = (from: number, to: number, all: number) => (frames: number) =>
    onProgress(from + (to - from) * Math.min(1, frames / Math.max(1, all)));
  try {
    const laneRun = options.laneRun ?? (await runLane(options, own, (share) => onProgress(LANE * share)));
    const { lane } = laneRun;
    const untouched =
      laneRun.file === null && levelDb === 0 && inputRate === outputRate && depth !== '32f' && inputBits <= depth;
    const levelled = () => atLevel(samplesOf(laneRun, options), levelDb);
    let signal = levelled;
    let noted = atLevelNoted(laneRun.noted, levelDb);
    let done = LANE;
    if (inputRate !== outputRate) {
      const samples = counted(levelled(), progressOf(LANE, FINISHED, options.frames));
      noted = await written(converted(samples, inputRate, outputRate), scratch);
      signal = () => fromFile(scratch);
      done = FINISHED;
    }
    let guardDb = 0;
    if (guardDbtp !== null && !untouched && excessDb(noted, guardDbtp) > 0) {
      ({ noted, guardDb } = await guarded(signal, outputRate, second, guardDbtp));
      signal = () => fromFile(second);
      done = FINISHED;
    }
    if (!options.clip) await requireHeld(signal(), noted, depth);
    const samples = counted(signal(), progressOf(done, 1, noted.frames));
    if (depth === '32f') {
      await writeFile(asFloat32(samples), options);
      return { lane, guardDb, dither: 'none', clipped: 0 };
    }
    // Samples on the grid already gain nothing from another dither.
    const dither = isOnGrid(noted, depth) ? 'none' : options.dither;
    const guardedAt = guardDb > 0 ? guardDbtp : null;
    const ditherer = new Ditherer({
      ...{ depth, dither, sampleRate: outputRate, digitalSilence: options.digitalSilence },
      seeds: seedsOf(laneRun, { levelDb, outputRate, guardedAt, depth, container: extension }),
    });
    await writeFile(quantized(samples, ditherer, depth), options);
    return { lane, guardDb, dither, clipped: ditherer.clipped };
  } finally {
    for (const file of [scratch, own, second]) await rm(file, { force: true });
  }
}
