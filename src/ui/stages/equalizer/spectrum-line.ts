import { powerDecibels } from '../../../core/signal/decibels';
import { SpectrumAnalyser } from '../../../core/measure/spectrum';
import { TAP_FRAMES } from '../../../engine/live/protocol';
import { frequencyAt } from './equalizer-axes';
import type { Resolution } from './spectrum-choice';

export const SPECTRUM_FLOOR = -96;
/** dB that a line falls from one picture to the next. */
const FALL_DB = 1.2;

/** Points of the transform, and the width in octaves over which it is smoothed to each channel. */
const FINENESS: Record<Resolution, { size: number; octaves: number }> = {
  fine: { size: 16384, octaves: 1 / 24 },
  medium: { size: 8192, octaves: 1 / 8 },
  coarse: { size: 4096, octaves: 1 / 3 },
};

/** Levels of columns that are spread evenly over the octaves, from the levels (dB) of evenly spaced bins. */
export function columnsOf(
  bins: Float32Array,
  sampleRate: number,
  columns: number,
  resolution: Resolution,
  tiltDb: number,
): Float32Array {
  const size = bins.length * 2;
  const power = bins.map((db) => 10 ** (db / 10));
  const reach = 2 ** FINENESS[resolution].octaves;
  return Float32Array.from({ length: columns }, (_, x) => {
    const f = frequencyAt(x / (columns - 1));
    const centre = (f / sampleRate) * size;
    // At least the two neighbouring bins, so that low frequencies are joined by a line instead of steps.
    const low = Math.min(centre / reach, centre - 1);
    const high = Math.max(centre * reach, centre + 1);
    let sum = 0;
    let weights = 0;
    for (let k = Math.max(1, Math.ceil(low)); k <= high && k < bins.length; k++) {
      const weight = k < centre ? (k - low) / (centre - low) : (high - k) / (high - centre);
      sum += weight * power[k];
      weights += weight;
    }
    const level = weights > 0 ? powerDecibels(sum / weights + 1e-12) : SPECTRUM_FLOOR;
    return level + tiltDb * Math.log2(f / 1000);
  });
}

/** The live spectrum of a tap as a line over the octaves; levels fall slowly, so that a glance catches them. */
export class SpectrumLine {
  private readonly analyser: SpectrumAnalyser;
  private readonly frame: Float32Array;
  private readonly bins: Float32Array;
  levels = new Float32Array(0);
  /** Highest level of each column so far. */
  held = new Float32Array(0);

  constructor(
    private readonly resolution: Resolution,
    private readonly tiltDb: number,
  ) {
    const { size } = FINENESS[resolution];
    this.analyser = new SpectrumAnalyser(size);
    this.frame = new Float32Array(size);
    this.bins = new Float32Array(size / 2);
  }

  update(ring: Float32Array, written: number, columns: number, sampleRate: number): void {
    const { size } = this.analyser;
    for (let i = 0; i < size; i++) this.frame[i] = ring[(written - size + i + TAP_FRAMES) % TAP_FRAMES];
    this.analyser.levels(this.frame, this.bins);
    if (this.levels.length !== columns) {
      this.levels = new Float32Array(columns).fill(SPECTRUM_FLOOR);
      this.held = this.levels.slice();
    }
    columnsOf(this.bins, sampleRate, columns, this.resolution, this.tiltDb).forEach((level, x) => {
      this.levels[x] = Math.max(level, this.levels[x] - FALL_DB);
      this.held[x] = Math.max(this.held[x], this.levels[x]);
    });
  }

  release(): void {
    this.held = this.levels.slice();
  }
}
