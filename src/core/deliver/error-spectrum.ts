import { Fft, hann } from '../signal/fft';
import { powerDecibels } from '../signal/decibels';
import { Ditherer, type Dither } from './dither';
import type { WordLength } from './format';
import { noiseWeight } from './noise-shaping';

const SIZE = 4096;
const WINDOWS = 24;
/** Power of a Hann window. */
const HANN_POWER = 3 / 8;
/** The tone whose rounding is looked at, in Hz: 1.5 steps high, as the last of a fade is. */
const TONE_HZ = 441;
const TONE_STEPS = 1.5;
const LOWEST_HZ = 50;

/** The error that a word length makes of the last of a fade. */
export interface ErrorSpectrum {
  /** Power density in dB above that of mere rounding of noise, in columns spread evenly over the octaves from 50 Hz up. */
  columns: Float32Array;
  /** Whole power, dBFS of a sine of the same power. */
  totalDbfs: number;
  /** As an ear near its threshold hears it, in dB against TPDF. */
  weightedDb: number;
}

/** Frequency in Hz at a share of the columns. */
export function errorColumnHz(share: number, sampleRate: number): number {
  return LOWEST_HZ * (sampleRate / 2 / LOWEST_HZ) ** share;
}

/** Measures the error of a dither at a word length and a sample rate in Hz. */
export function errorSpectrum(dither: Dither, depth: WordLength, sampleRate: number, columns: number): ErrorSpectrum {
  const scale = 2 ** (depth - 1);
  const input = Float64Array.from(
    { length: SIZE * WINDOWS },
    (_, i) => (TONE_STEPS / scale) * Math.sin((2 * Math.PI * TONE_HZ * i) / sampleRate),
  );
  const output = new Int32Array(input.length);
  new Ditherer({ depth, dither, sampleRate }).process(0, input, output);
  const power = new Float64Array(SIZE / 2);
  const window = hann(SIZE);
  const fft = new Fft(SIZE);
  for (let w = 0; w < WINDOWS; w++) {
    const real = new Float64Array(SIZE);
    for (let i = 0; i < SIZE; i++) real[i] = (output[w * SIZE + i] - input[w * SIZE + i] * scale) * window[i];
    const imaginary = new Float64Array(SIZE);
    fft.transform(real, imaginary);
    for (let k = 0; k < SIZE / 2; k++) power[k] += (real[k] ** 2 + imaginary[k] ** 2) / (SIZE * HANN_POWER * WINDOWS);
  }
  let [total, weighted, weights] = [0, 0, 0];
  for (let k = 1; k < SIZE / 2; k++) {
    const weight = noiseWeight((k * sampleRate) / SIZE);
    total += power[k] / (SIZE / 2);
    weighted += weight * power[k];
    weights += weight;
  }
  return {
    columns: Float32Array.from({ length: columns }, (_, x) => {
      const [from, to] = [x, x + 1].map((at) => (errorColumnHz(at / columns, sampleRate) * SIZE) / sampleRate);
      const [first, last] = [Math.max(1, Math.floor(from)), Math.min(SIZE / 2 - 1, Math.max(Math.ceil(to), from + 1))];
      let sum = 0;
      for (let k = first; k <= last; k++) sum += power[k];
      return powerDecibels((12 * sum) / (Math.floor(last) - first + 1) + 1e-6);
    }),
    totalDbfs: powerDecibels((2 * total) / (scale * scale)),
    weightedDb: powerDecibels((4 * weighted) / weights),
  };
}
