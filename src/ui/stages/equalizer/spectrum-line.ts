import { powerDecibels } from '../../../core/signal/decibels';
import { SpectrumAnalyser } from '../../../core/measure/spectrum';
import type { Taps } from '../../../engine/live/protocol';
import { frequencyAt, LEFT, RIGHT } from './equalizer-axes';
import { thirdOctaveColumns } from './reference-line';
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
    const from = written - size + 2 * ring.length;
    for (let i = 0; i < size; i++) this.frame[i] = ring[(from + i) % ring.length];
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

/** Columns of a spectrum in a picture so many pixels wide. */
export function spectrumColumns(width: number): number {
  return Math.max(2, Math.floor((width - LEFT - RIGHT) / 2));
}

/** Levels of the columns before and after a stage, in dB; empty where nothing is known yet. */
export interface SpectrumLevels {
  before: Float32Array;
  after: Float32Array;
}

const NOTHING: SpectrumLevels = { before: new Float32Array(0), after: new Float32Array(0) };

/** The live spectra before and after a stage, and those of the whole track as columns like them. */
export class Spectra {
  readonly before: SpectrumLine;
  readonly after: SpectrumLine;

  constructor(
    private readonly resolution: Resolution,
    private readonly tiltDb: number,
  ) {
    this.before = new SpectrumLine(resolution, tiltDb);
    this.after = new SpectrumLine(resolution, tiltDb);
  }

  /** Takes in what the taps hold now. */
  update(taps: Taps, columns: number, sampleRate: number): void {
    // Both at the same moment: the worklet goes on meanwhile.
    const [written] = taps.written;
    this.before.update(taps.before, written, columns, sampleRate);
    this.after.update(taps.after, written, columns, sampleRate);
  }

  /** What the taps last held. */
  live(): SpectrumLevels {
    return { before: this.before.levels, after: this.after.levels };
  }

  /** Columns of a programme that was measured by third-octaves, with a gain in dB; they lie where its live spectrum would. */
  reference(levelsDbfs: readonly (number | null)[], gainDb: number, columns: number, sampleRate: number): Float32Array {
    const binHz = sampleRate / FINENESS[this.resolution].size;
    return thirdOctaveColumns({ levelsDbfs, gainDb, tiltDb: this.tiltDb, binHz }, columns);
  }

  /** Columns of spectra that were measured over the whole track. */
  average(bins: SpectrumLevels | null | undefined, columns: number, sampleRate: number): SpectrumLevels {
    if (!bins) return NOTHING;
    const of = (levels: Float32Array) => columnsOf(levels, sampleRate, columns, this.resolution, this.tiltDb);
    return { before: of(bins.before), after: of(bins.after) };
  }
}
