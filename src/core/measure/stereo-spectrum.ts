import type { Kernels } from '../kernels/host';
import { bitReversed, COMPLEX_BYTES, Transform } from '../kernels/transform';
import { hann } from '../signal/fft';

const SIZE = 16384;
/** The bass whose correlation is measured separately ends here, in Hz. */
const BASS_HZ = 120;

/** Steady tones that mains leave: 50 or 60 Hz with their multiples. */
export interface Hum {
  frequencyHz: 50 | 60;
  /** dBFS of the strongest of its tones. */
  levelDb: number;
}

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

const HARMONICS = [1, 2, 3];
const MAINS = [50, 60] as const;
/** A hum's tone stands out from its neighbours by this much even in the frames where it stands out least. */
const HUM_DB = 12;
/** The cliff: this many dB within one kilohertz, and nothing above it. */
const CLIFF_DB = 35;
/** Below this mean level, in dBFS per bin, there is nothing that could end. */
const CONTINUUM_DB = -115;
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
  /**
   * For each mains frequency and harmonic: how far it stood out in each frame that was not silent, and how loud it was.
   */
  private readonly prominence = MAINS.map(() => HARMONICS.map(() => [] as number[]));
  private readonly humLevels = MAINS.map(() => HARMONICS.map(() => [] as number[]));

  constructor(
    kernels: Kernels,
    private readonly sampleRate: number,
  ) {
    this.transform = new Transform(kernels, SIZE);
    this.address = kernels.allocate(SIZE * COMPLEX_BYTES);
    this.work = kernels.view64(this.address, 2 * SIZE);
  }

  add(left: Float64Array, right: Float64Array, frames: number): void {
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
    const power = new Float64Array(SIZE / 2);
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
      power[k] = l + r;
    }
    this.frames++;
    this.noteHum(power);
  }

  private noteHum(power: Float64Array): void {
    const scale = (4 / SIZE) ** 2 / 2;
    if (decibel(power.reduce((a, b) => Math.max(a, b), 0) * scale) < -100) return;
    MAINS.forEach((mains, m) =>
      HARMONICS.forEach((harmonic, h) => {
        const bin = Math.round((mains * harmonic * SIZE) / this.sampleRate);
        const peak = Math.max(power[bin - 1], power[bin], power[bin + 1]);
        const around = [-7, -6, -5, -4, 4, 5, 6, 7].map((d) => power[bin + d] ?? 0).sort((a, b) => a - b);
        // The upper half of the neighbours: a nearby bass note must not make its own flank look like hum.
        this.prominence[m][h].push(decibel(peak * scale) - decibel(around[5] * scale));
        this.humLevels[m][h].push(decibel(peak * scale));
      }),
    );
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
      hum: this.hum(),
      delayFrames: this.delay(),
    };
  }

  /** Frequency after which the mean level falls off a cliff and never comes back. */
  private end(): number | null {
    const scale = (4 / SIZE) ** 2 / 2 / Math.max(1, this.frames);
    const levels = this.left.map((power, k) => decibel((power + this.right[k]) * scale));
    const perKilohertz = Math.round((1000 * SIZE) / this.sampleRate);
    const mean = (from: number, to: number) =>
      levels.subarray(from, to).reduce((a, b) => a + b, 0) / Math.max(1, to - from);
    const top = Math.floor((SIZE / 2) * 0.98);
    const gap = Math.round(perKilohertz / 3);
    // The steepest fall within a kilohertz.
    let best = 0;
    let fall = 0;
    const lowest = Math.round((LOWEST_END_HZ * SIZE) / this.sampleRate);
    for (let k = lowest; k < (SIZE / 2) * 0.93; k += 8) {
      const drop = mean(k - perKilohertz, k - gap) - mean(k + gap, Math.min(top, k + perKilohertz));
      if (drop > fall) {
        fall = drop;
        best = k;
      }
    }
    const before = mean(best - perKilohertz, best - gap);
    const cliff = fall >= CLIFF_DB && before > CONTINUUM_DB && before - mean(best + gap, top) >= CLIFF_DB;
    return cliff ? (best * this.sampleRate) / SIZE : null;
  }

  private hum(): Hum | null {
    const low = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 10)] ?? -Infinity;
    const found = MAINS.map((frequencyHz, m) => {
      const standing = HARMONICS.filter((_, h) => low(this.prominence[m][h]) > HUM_DB);
      const levelDb = Math.max(...this.humLevels[m].map(low));
      return { frequencyHz, levelDb, tones: standing.length };
    }).filter(({ tones }) => tones >= 2);
    const strongest = found.sort((a, b) => b.levelDb - a.levelDb)[0];
    return strongest ? { frequencyHz: strongest.frequencyHz, levelDb: strongest.levelDb } : null;
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
