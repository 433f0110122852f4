import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decode64 } from '../codecs/decode';
import { withMakeup } from './auto-makeup';
import { asBytes, counted, fromFile } from './raw';
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
  /** Interleaved float64 at the mix's rate; null when no stage is on and the mix stays as it is. */
  file: string | null;
}

/** Runs a lane over a mix into `target`. Rejects when the mix can’t be decoded. */
export async function runLane(
  options: LaneRunOptions,
  target: string,
  onProgress: (share: number) => void = () => {},
): Promise<LaneRun> {
  const lane = await withMakeup(options);
  if (!lane.stages.some(({ on }) => on)) return { lane, file: null };
  const { frames } = options;
  const samples = counted(throughLane(options, lane), (done) => onProgress(Math.min(1, done / Math.max(1, frames))));
  await pipeline(Readable.from(asBytes(samples)), createWriteStream(target));
  return { lane, file: target };
}

/** What a lane makes of a mix, as it is made: interleaved float64 at the mix's rate. The lane's makeup is measured already. */
export function throughLane(
  { input, channels, inputRate, impulses }: LaneRunOptions,
  { stages, crossovers }: Lane,
): AsyncGenerator<Float64Array> {
  const on = stages.filter((stage) => stage.on);
  const decoded = decode64(input, channels);
  return on.length === 0 ? decoded : throughStages(decoded, { stages: on, crossovers }, inputRate, impulses);
}

/** The samples of a lane's run. */
export function samplesOf({ file }: LaneRun, { input, channels }: LaneRunOptions): AsyncGenerator<Float64Array> {
  return file === null ? decode64(input, channels) : fromFile(file);
}
