import { createHash, type Hash } from 'node:crypto';
import type { Lane } from '../../core/lane/schema';
import { edgeGain, spanOf } from '../../core/sequence/edges';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decode64 } from '../codecs/decode';
import { Problem } from '../problem';
import { withMakeup } from './auto-makeup';
import { cutToEdges, MOST_TAIL_SECONDS } from './cut-to-edges';
import { counted, fromFile, written } from './raw';
import { Tap, type Noted } from './tap';
import { throughStages } from './through-stages';

/** A mix and the lane that is run over it. */
export interface LaneRunOptions {
  /** The mix's file. */
  input: string;
  channels: number;
  /** Hz */
  inputRate: number;
  frames: number;
  lane: Lane;
  /** Impulse responses that the lane names, at the mix's rate. */
  impulses?: ReadonlyMap<string, ImpulseResponse>;
}

/** What a lane made of a mix: files that differ only in what comes after it are made from one. */
export interface LaneRun {
  /** The lane as it was run: with the makeup that its stages with auto makeup needed. */
  lane: Lane;
  /** Interleaved float64 at the mix's rate, cut to the edges; null when no stage is on and the mix stays as it is. */
  file: string | null;
  noted: Noted;
  /** SHA-256 of the samples, as hexadecimal digits. */
  sha256: string;
}

async function* hashed(input: AsyncIterable<Float64Array>, hash: Hash): AsyncGenerator<Float64Array> {
  for await (const chunk of input) {
    hash.update(chunk);
    yield chunk;
  }
}

/**
 * Runs a lane over a mix into `target`. Rejects when the mix can’t be decoded; throws a Problem (422) when its edges leave
 * nothing of it.
 */
export async function runLane(
  options: LaneRunOptions,
  target: string,
  onProgress: (share: number) => void = () => {},
): Promise<LaneRun> {
  const { frames, inputRate } = options;
  const { edges } = options.lane;
  requireWithin(options);
  const lane = await withMakeup(options);
  const hash = createHash('sha256');
  const whole = throughLane(options, lane, edges ? Math.round(MOST_TAIL_SECONDS * inputRate) : 0);
  const made = edges ? cutToEdges(whole, { edges, sampleRate: inputRate, frames: framesOf(options) }) : whole;
  const samples = counted(hashed(made, hash), (done) => onProgress(Math.min(1, done / Math.max(1, frames))));
  const file = edges || lane.stages.some(({ on }) => on) ? target : null;
  const noted = file === null ? await heard(samples) : await written(samples, file);
  return { lane, file, noted, sha256: hash.digest('hex') };
}

/** What is noted of a signal that is kept nowhere. */
async function heard(signal: AsyncIterable<Float64Array>): Promise<Noted> {
  const tap = new Tap();
  for await (const _ of tap.follow(signal));
  return tap.noted();
}

/** Frames of the mix; a file that does not say how long it is ends where it ends. */
const framesOf = ({ frames }: LaneRunOptions) => frames || Infinity;

function requireWithin(options: LaneRunOptions): void {
  const { edges } = options.lane;
  if (!edges) return;
  const { start, end } = spanOf(edges, options.inputRate, framesOf(options));
  if (end <= start) throw new Problem(422, 'The edges start after this mix has ended. Set them again for this mix.');
}

/**
 * What a lane makes of a mix, as it is made: interleaved float64 at the mix's rate and in its time, silent outside its edges
 * but for what rings on, over the mix and so many frames after it. The lane's makeup is measured already.
 */
export function throughLane(
  options: LaneRunOptions,
  { stages, crossovers, edges }: Lane,
  tailFrames = 0,
): AsyncGenerator<Float64Array> {
  const { input, channels, inputRate, impulses } = options;
  const on = stages.filter((stage) => stage.on);
  const decoded = decode64(input, channels);
  if (on.length === 0 && !edges) return decoded;
  const gain = edgeGain(edges, { sampleRate: inputRate, frames: framesOf(options) });
  return throughStages(decoded, { stages: on, crossovers }, inputRate, impulses, { edges: gain, tailFrames });
}

/** The samples of a lane's run. */
export function samplesOf({ file }: LaneRun, { input, channels }: LaneRunOptions): AsyncGenerator<Float64Array> {
  return file === null ? decode64(input, channels) : fromFile(file);
}
