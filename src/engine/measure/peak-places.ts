import { Kernels } from '../../core/kernels/host';
import { waveBetween } from '../../core/measure/between-samples';
import { PeakMeter } from '../../core/measure/peak';
import { decibels } from '../../core/signal/decibels';
import type { Audio } from './measurement';

/** Frames that are searched at a time, a multiple of 16. */
const BLOCK_FRAMES = 512;
/** Frames before a block that its meter still speaks of. */
const METER_FRAMES = 32;
const PER_FRAME = 16;
/** Places are at least so far apart, in seconds. */
const APART_SECONDS = 0.05;
/** So many of the highest are given, and every over up to as many more. */
const HIGHEST = 12;
const MOST = 200;

/** A place at which the wave between the samples is high. */
export interface PeakPlace {
  /** Frame in or after which the highest point lies. */
  frame: number;
  channel: 0 | 1;
  truePeakDbtp: number;
  /** Of the samples around it, dBFS. */
  samplePeakDbfs: number;
}

/** True peak of both channels in each block, linear. */
function blockPeaks({ left, right }: Audio): Float32Array[] {
  const kernels = new Kernels();
  const meter = new PeakMeter(kernels, BLOCK_FRAMES);
  const at = [kernels.allocate(BLOCK_FRAMES * 8), kernels.allocate(BLOCK_FRAMES * 8)] as const;
  const blocks = Math.ceil(left.length / BLOCK_FRAMES);
  const peaks = [new Float32Array(blocks), new Float32Array(blocks)];
  for (let block = 0; block < blocks; block++) {
    [left, right].forEach((channel, c) => {
      const part = channel.subarray(block * BLOCK_FRAMES, (block + 1) * BLOCK_FRAMES);
      kernels.f64.set(part, at[c] >> 3);
      kernels.f64.fill(0, (at[c] >> 3) + part.length, (at[c] >> 3) + BLOCK_FRAMES);
    });
    meter.add(at[0], at[1], BLOCK_FRAMES);
    for (const channel of [0, 1] as const) peaks[channel][block] = meter.truePeak(channel);
    meter.clear();
  }
  return peaks;
}

/** The highest point in and just before a block. */
function placeIn(samples: Float32Array, channel: 0 | 1, block: number): PeakPlace {
  const start = Math.max(0, block * BLOCK_FRAMES - METER_FRAMES);
  const end = Math.min(samples.length, (block + 1) * BLOCK_FRAMES);
  const wave = waveBetween(samples, { start, end }, PER_FRAME);
  let [at, peak] = [0, 0];
  wave.forEach((value, i) => {
    if (Math.abs(value) > peak) [at, peak] = [i, Math.abs(value)];
  });
  const frame = start + Math.floor(at / PER_FRAME);
  const near = samples.subarray(Math.max(0, frame - 1), frame + 3);
  const samplePeak = near.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  return {
    frame,
    channel,
    truePeakDbtp: decibels(Math.max(peak, samplePeak)),
    samplePeakDbfs: decibels(samplePeak),
  };
}

/** The highest true peaks of a signal and every over, in the order of time; none of silence. */
export function peakPlaces(audio: Audio): PeakPlace[] {
  const peaks = blockPeaks(audio);
  const apart = Math.ceil((APART_SECONDS * audio.sampleRate) / BLOCK_FRAMES);
  const loudest = (block: number): 0 | 1 => (peaks[1][block] > peaks[0][block] ? 1 : 0);
  const height = (block: number) => peaks[loudest(block)][block];
  const order = Array.from(peaks[0].keys()).sort((a, b) => height(b) - height(a));
  const chosen: number[] = [];
  for (const block of order) {
    const enough = chosen.length >= MOST || (chosen.length >= HIGHEST && height(block) <= 1);
    if (enough || height(block) === 0) break;
    if (chosen.every((other) => Math.abs(other - block) >= apart)) chosen.push(block);
  }
  const channels = [audio.left, audio.right] as const;
  return chosen.sort((a, b) => a - b).map((block) => placeIn(channels[loudest(block)], loudest(block), block));
}
