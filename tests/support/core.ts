import type { z } from 'zod';
import { Kernels } from '@/core/kernels/host';
import { LaneProcessor } from '@/core/lane/processor';
import { LANE_SCHEMA, parseLane } from '@/core/lane/schema';
import { LoudnessMeter } from '@/core/measure/loudness';
import type { LoudnessReport } from '@/core/measure/loudness-statistics';
import { PeakMeter } from '@/core/measure/peak';
import { decibels } from '@/core/signal/decibels';
import type { ImpulseResponse } from '@/core/stages/definition';
import { describeChoice } from '@/core/stages/setting';
import type { Stereo } from './signals';

const BLOCK = 4096;

/** Feeds a signal to `take` in blocks that lie in the kernels' memory. */
function inBlocks(
  kernels: Kernels,
  { left, right }: Stereo,
  take: (l: number, r: number, frames: number) => void,
): void {
  const [l, r] = [kernels.allocate(BLOCK * 8), kernels.allocate(BLOCK * 8)];
  for (let at = 0; at < left.length; at += BLOCK) {
    const frames = Math.min(BLOCK, left.length - at);
    const padded = Math.ceil(frames / 16) * 16;
    kernels.view64(l, padded).fill(0);
    kernels.view64(r, padded).fill(0);
    kernels.view64(l, BLOCK).set(left.subarray(at, at + frames));
    kernels.view64(r, BLOCK).set(right.subarray(at, at + frames));
    take(l, r, frames);
  }
}

/** Loudness of a whole signal. */
export function loudnessOf(signal: Stereo, sampleRate: number): LoudnessReport {
  const kernels = new Kernels();
  const meter = new LoudnessMeter(kernels, sampleRate, Math.ceil((signal.left.length / sampleRate) * 100) + 1);
  inBlocks(kernels, signal, (l, r, frames) => meter.add(l, r, frames));
  return meter.report();
}

/** True peak in dBTP of the louder channel. */
export function truePeakOf({ left, right }: Stereo): number {
  const kernels = new Kernels();
  const meter = new PeakMeter(kernels, BLOCK);
  // Silence after the end lets the last samples through the interpolator.
  const padded = (side: Float64Array) =>
    Float64Array.from({ length: Math.ceil(side.length / 16) * 16 + 64 }, (_, i) => side[i] ?? 0);
  inBlocks(kernels, { left: padded(left), right: padded(right) }, (l, r, frames) => meter.add(l, r, frames));
  return decibels(Math.max(...meter.truePeaks()));
}

/**
 * A signal after a lane, delayed by the lane's latency; silence is fed at the end so that nothing is lost. Stages may
 * leave out id and settings that have defaults. Besides what each stage reduced, and bent, by block.
 */
export function throughLane(
  signal: Stereo,
  stages: { kind: string; id?: string; on?: boolean; settings: object }[],
  sampleRate: number,
  block = 1024,
  { crossovers, impulses }: { crossovers?: object; impulses?: ReadonlyMap<string, ImpulseResponse> } = {},
): Stereo & { latency: number; reductions: number[][]; touched: number[][] } {
  const lane = parseLane({
    schema: LANE_SCHEMA,
    crossovers,
    stages: stages.map((stage, i) => ({ id: `stage-${i}`, ...stage })),
  });
  const processor = new LaneProcessor(lane, { sampleRate, maxFrames: block, meterHops: 0, impulses });
  const frames = Math.ceil((signal.left.length + processor.latency) / block) * block;
  const result = { left: new Float64Array(frames), right: new Float64Array(frames), latency: processor.latency };
  const reductions = stages.map((): number[] => []);
  const touched = stages.map((): number[] => []);
  for (let at = 0; at < frames; at += block) {
    for (const side of ['left', 'right'] as const) {
      processor[side].fill(0);
      processor[side].set(signal[side].subarray(at, at + block));
    }
    processor.process(block);
    result.left.set(processor.left, at);
    result.right.set(processor.right, at);
    stages.forEach((_, i) => {
      reductions[i].push(processor.takeGainReduction(i));
      touched[i].push(processor.takeTouched(i) ?? 0);
    });
  }
  return { ...result, reductions, touched };
}

/** A signal after a lane, moved back by its latency so that it lies in time with the input. */
export function aligned(...args: Parameters<typeof throughLane>): Stereo {
  const { left, right, latency } = throughLane(...args);
  const { length } = args[0].left;
  return { left: left.slice(latency, latency + length), right: right.slice(latency, latency + length) };
}

/** The values that a choice may take. */
export function valuesOf<Value extends string | number>(schema: z.ZodType<Value>): Value[] {
  return describeChoice(schema).options.map(({ value }) => value);
}
