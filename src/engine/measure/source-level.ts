import { Kernels } from '../../core/kernels/host';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import { JointMeter } from '../../core/measure/joint-meter';
import { decibels } from '../../core/signal/decibels';
import type { SourceLevel } from '../sources/level-match';
import type { Audio, Span } from './measurement';

/** Frames that are metered at a time. */
const BLOCK_FRAMES = 4096;

/** Measures the integrated loudness and the true peak of a stretch of a source; what lies outside the source is silence. */
export function sourceLevel({ left, right, sampleRate }: Audio, { start, end }: Span): SourceLevel {
  const kernels = new Kernels();
  const [atLeft, atRight] = [kernels.allocate(BLOCK_FRAMES * 8), kernels.allocate(BLOCK_FRAMES * 8)];
  const hops = Math.ceil(((end - start) / sampleRate) * HOPS_PER_SECOND) + 1;
  const meter = new JointMeter(kernels, sampleRate, BLOCK_FRAMES, hops);
  const fill = (from: number, count: number) => {
    for (const [channel, at] of [
      [left, atLeft],
      [right, atRight],
    ] as const)
      for (let i = 0; i < BLOCK_FRAMES; i++) kernels.f64[(at >> 3) + i] = i < count ? (channel[from + i] ?? 0) : 0;
  };
  for (let from = start; from < end; from += BLOCK_FRAMES) {
    const count = Math.min(BLOCK_FRAMES, end - from);
    fill(from, count);
    meter.loudness.add(atLeft, atRight, count);
    meter.peak.add(atLeft, atRight, BLOCK_FRAMES);
  }
  return {
    integratedLufs: meter.loudness.report().integrated,
    truePeakDbtp: decibels(Math.max(...meter.peak.truePeaks())),
  };
}
