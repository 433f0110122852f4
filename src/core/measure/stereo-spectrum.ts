import type { Kernels } from '../kernels/host';
import { bitReversed, COMPLEX_BYTES, Transform } from '../kernels/transform';
import { hann } from '../signal/fft';
import { HumMeter, type Hum } from './hum';

const SIZE = 16384;
/** The bass whose correlation is measured separately ends here, in Hz. */
const BASS_HZ = 120;

/** What the spectrum says about a whole track. */
export interface StereoSpectrum {
  /** −1 … 1; 0 when a channel is silent. */
  correlation: number;
  /** The same below {@link BASS_HZ}. */
  bassCorrelation: number;
  /** Mean level in dBFS (of a sine of the same power) below {@link BASS_HZ}. */
  bassDb: number;
  /** Level of the left channel over the right, in dB; ±∞ when one is silent. */
  balanceDb: number;
  /** Where the spectrum ends in a cliff, in Hz; null when it does not. */
  endHz: number | null;
  hum: Hum | null;
  /** Frames by which the right channel trails the left; null when no constant delay stands out. */
  delayFrames: number | null;
}

/** The cliff: this many dB within a kilohertz or two, and nothing above it. */
const CLIFF_DB = 22;
/** The spectrum is looked at in columns of about this many Hz, up to this share of the highest frequency there is. */
const COLUMN_HZ = 125;
const HIGHEST_SHARE = 0.96;
const LOWEST_END_HZ = 8000;
/** A channel with less than this share of the other's power holds rounding errors only. */
const SILENT = 1e-12;
const MAX_DELAY_SECONDS = 0.005;

function decibel(power: number): number {
  return 10 * Math.log10(Math.max(1e-20, power));
}

/** Gathers the power of both channels and what they have in common, over a whole track. */
export class StereoSpectrumMeter {
  private readonly window = hann(SIZE);
  private readonly transform: Transform;
  private readonly reversed = bitReversed(SIZE);
  private readonly address: number;
  /** The frame as left + i·right, and its spectrum. */
  private readonly work: Float64Array;
  private readonly left = new Float64Array(SIZE / 2);
  private readonly right = new Float64Array(SIZE / 2);
  private readonly commonReal = new Float64Array(SIZE / 2);
  private readonly commonImaginary = new Float64Array(SIZE / 2);
  private filled = 0;
  private frames = 0;
  private readonly hum: HumMeter;

  constructor(
    kernels: Kernels,
    private readonly sampleRate: number,
  ) {
    this.hum = new HumMeter(sampleRate);
    this.transform = new Transform(kernels, SIZE);
    this.address = kernels.allocate(SIZE * COMPLEX_BYTES);
    this.work = kernels.view64(this.address, 2 * SIZE);
  }

  add(left: Float64Array, right: Float64Array, frames: number): void {
    this.hum.add(left, right, frames);
    const { work, window } = this;
    for (let i = 0; i < frames; i++) {
      const weight = window[this.filled];
      work[2 * this.filled] = left[i] * weight;
      work[2 * this.filled + 1] = right[i] * weight;
      if (++this.filled === SIZE) this.flush();
    }
  }

  /** Both real channels are transformed as one complex signal and told apart by symmetry. */
  private flush(): void {
    const { work, reversed } = this;
    work.fill(0, 2 * this.filled);
    this.filled = 0;
    this.transform.forward(this.address);
    for (let k = 1; k < SIZE / 2; k++) {
      const a = 2 * reversed[k];
      const b = 2 * reversed[SIZE - k];
      const lr = (work[a] + work[b]) / 2;
      const li = (work[a + 1] - work[b + 1]) / 2;
      const rr = (work[a + 1] + work[b + 1]) / 2;
      const ri = (work[b] - work[a]) / 2;
      const l = lr * lr + li * li;
      const r = rr * rr + ri * ri;
      this.left[k] += l;
      this.right[k] += r;
      this.commonReal[k] += lr * rr + li * ri;
      this.commonImaginary[k] += li * rr - lr * ri;
    }
    this.frames++;
  }

  result(): StereoSpectrum {
    if (this.filled > 0) this.flush();
    const bassBin = Math.round((BASS_HZ * SIZE) / this.sampleRate);
    const sum = (of: Float64Array, to = SIZE / 2) => of.subarray(1, to).reduce((a, b) => a + b, 0);
    const correlation = (to?: number) => {
      const product = Math.sqrt(sum(this.left, to) * sum(this.right, to));
      return product > 0 ? sum(this.commonReal, to) / product : 0;
    };
    // A sine of full scale leaves a quarter of the frame's length in its bin, and half as much again beside it.
    const unit = (SIZE / 4) ** 2 * 1.5 * Math.max(1, this.frames);
    const [l, r] = [sum(this.left), sum(this.right)];
    return {
      correlation: correlation(),
      bassCorrelation: correlation(bassBin),
      bassDb: decibel((sum(this.left, bassBin) + sum(this.right, bassBin)) / 2 / unit),
      balanceDb: l === r ? 0 : l < SILENT * r ? -Infinity : r < SILENT * l ? Infinity : 10 * Math.log10(l / r),
      endHz: this.end(),
      hum: this.hum.result(),
      delayFrames: this.delay(),
    };
  }

  /**
   * Frequency after which the spectrum falls off a cliff and never comes back. What is before it is a continuum, such as
   * noise and cymbals leave: the harmonics of tones end anywhere.
   */
  private end(): number | null {
    const scale = (4 / SIZE) ** 2 / 2 / Math.max(1, this.frames);
    const levels = this.left.map((power, k) => decibel((power + this.right[k]) * scale));
    const width = Math.max(4, Math.round((COLUMN_HZ * SIZE) / this.sampleRate));
    const count = Math.floor(((SIZE / 2) * HIGHEST_SHARE) / width);
    const columns = Array.from({ length: count }, (_, i) => levels.slice(i * width, (i + 1) * width).sort());
    const continuum = columns.map((column) => column[column.length >> 2]);
    const most = columns.map((column) => column[column.length - 1 - (column.length >> 3)]);
    const perKilohertz = Math.round(1000 / COLUMN_HZ);
    /** The highest level from a column on. */
    const above = [...most];
    for (let i = count - 2; i >= 0; i--) above[i] = Math.max(above[i], above[i + 1]);
    let best = 0;
    let fall = 0;
    let half = 0;
    for (let i = Math.round(LOWEST_END_HZ / COLUMN_HZ); i + perKilohertz < count; i++) {
      const before = continuum.slice(i - 2 * perKilohertz, i - perKilohertz / 2).sort((x, y) => x - y);
      const level = before[before.length >> 2];
      const drop = level - above[i + Math.round(perKilohertz / 2)];
      if (drop > fall) [best, fall, half] = [i, drop, level - drop / 2];
    }
    if (fall < CLIFF_DB) return null;
    while (continuum[best] > half) best++;
    return (best * width * this.sampleRate) / SIZE;
  }

  /** Lag at which both channels agree best, from the cross-correlation over the whole track. */
  private delay(): number | null {
    const { work, reversed } = this;
    work.fill(0);
    for (let k = 1; k < SIZE / 2; k++) {
      const a = 2 * reversed[k];
      const b = 2 * reversed[SIZE - k];
      work[a] = work[b] = this.commonReal[k];
      // Of left · conj(right); reversed, so that a positive lag means a late right channel.
      work[a + 1] = -this.commonImaginary[k];
      work[b + 1] = this.commonImaginary[k];
    }
    this.transform.inverse(this.address);
    const energy = 2 * Math.sqrt(this.left.reduce((a, b) => a + b, 0) * this.right.reduce((a, b) => a + b, 0));
    if (energy === 0) return null;
    const agreement = (lag: number) => Math.abs(work[2 * ((lag + SIZE) % SIZE)]) / energy;
    const reach = Math.round(MAX_DELAY_SECONDS * this.sampleRate);
    let best = 0;
    for (let lag = -reach; lag <= reach; lag++) {
      if (agreement(lag) > agreement(best)) best = lag;
    }
    return best !== 0 && agreement(best) > 0.6 && agreement(best) > agreement(0) + 0.15 ? best : null;
  }
}
