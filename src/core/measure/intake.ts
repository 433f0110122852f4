import { FileMeter, type FileMeasurement } from './file-meter';
import type { Channels } from './peak';
import { StereoSpectrumMeter, type StereoSpectrum } from './stereo-spectrum';

const CLIP_RUN = 3;
/** +60 dBFS: more is a damaged float file. */
const MAX_SAMPLE = 1000;

/** Everything intake measures of a mix; levels are linear or in LUFS. */
export interface IntakeMeasurement extends FileMeasurement {
  /** Mean of each channel. */
  dcOffset: Channels;
  /** Runs of three or more samples at the same extreme value. */
  clippedRuns: number;
  /** Samples at or over full scale. */
  fullScaleSamples: number;
  /** Samples that are NaN, or far beyond any real level. */
  invalidSamples: number;
  /** First frame of the 10 s with the highest short-term loudness. */
  loudestStart: number;
  loudestEnd: number;
  /** Balance, correlation, hum and the end of the spectrum. */
  spectrum: StereoSpectrum;
}

const LOUDEST_SECONDS = 10;

/**
 * Start of the `seconds` whose mean short-term energy is highest; the whole track when it is shorter. `shortTerm` in
 * LUFS each 100 ms, value i covering the 3 s that end at (i + 1)·0.1 s.
 */
export function loudestPassage(
  shortTerm: Float32Array,
  durationSeconds: number,
  seconds = LOUDEST_SECONDS,
): { start: number; end: number } {
  if (durationSeconds <= seconds) return { start: 0, end: durationSeconds };
  const span = seconds * 10;
  const energies = Array.from(shortTerm, (lufs) => 10 ** (lufs / 10));
  let sum = energies.slice(0, span).reduce((a, b) => a + b, 0);
  let best = sum;
  let start = 0;
  for (let i = span; i < energies.length; i++) {
    sum += energies[i] - energies[i - span];
    // A new best must be really louder, so that rounding does not move the passage of a steady programme.
    if (sum > best * 1.0001) {
      best = sum;
      start = i - span + 1;
    }
  }
  // The window after a short-term value reaches 3 s back: the passage is centred on what was loud.
  const from = Math.min(Math.max(0, start / 10 - 1.5), durationSeconds - seconds);
  return { start: from, end: from + seconds };
}

/** Runs of equal samples at an extreme, found after the fact: only the extreme that turned out highest counts. */
class ClipRuns {
  private high = 0;
  private runs = 0;
  private length = 0;
  private last = 0;

  add(x: number): void {
    const size = Math.abs(x);
    if (size > this.high) {
      this.high = size;
      this.runs = 0;
      this.length = 1;
    } else if (size === this.high && x === this.last) {
      this.length++;
      if (this.length === CLIP_RUN) this.runs++;
    } else {
      this.length = size === this.high ? 1 : 0;
    }
    this.last = x;
  }

  /** Runs at the highest level of the channel, when that level is loud enough to be a ceiling rather than chance. */
  result(): number {
    return this.high > 0.25 ? this.runs : 0;
  }
}

/** Measures a whole mix for intake, in blocks of any size. */
export class IntakeMeter extends FileMeter {
  private readonly spectrum = new StereoSpectrumMeter(this.kernels, this.sampleRate);
  private readonly sums: Channels = [0, 0];
  private readonly clips = [new ClipRuns(), new ClipRuns()];
  private fullScale = 0;
  private invalid = 0;

  protected override flush(): void {
    this.spectrum.add(this.left, this.right, this.held);
    this.look(this.left, 0);
    this.look(this.right, 1);
    super.flush();
  }

  private look(channel: Float64Array, index: 0 | 1): void {
    const clips = this.clips[index];
    let sum = 0;
    for (let i = 0; i < this.held; i++) {
      const x = channel[i];
      const size = Math.abs(x);
      if (!(size < MAX_SAMPLE)) this.invalid++;
      sum += x;
      clips.add(x);
      // 16-bit and 24-bit files reach full scale at one step below 1 on the positive side.
      if (size >= 32767 / 32768) this.fullScale++;
    }
    this.sums[index] += sum;
  }

  override result(): IntakeMeasurement {
    const measured = super.result();
    const { frames } = measured;
    const { start, end } = loudestPassage(measured.shortTerm, frames / this.sampleRate);
    return {
      ...measured,
      dcOffset: [this.sums[0] / Math.max(1, frames), this.sums[1] / Math.max(1, frames)],
      clippedRuns: this.clips[0].result() + this.clips[1].result(),
      fullScaleSamples: this.fullScale,
      invalidSamples: this.invalid,
      loudestStart: Math.round(start * this.sampleRate),
      loudestEnd: Math.round(end * this.sampleRate),
      spectrum: this.spectrum.result(),
    };
  }
}
