import { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { LoudnessMeter } from './loudness';
import { HOPS_PER_SECOND } from './loudness-statistics';
import { PeakMeter, type Channels } from './peak';
import { StereoSpectrumMeter, type StereoSpectrum } from './stereo-spectrum';

/** Samples below this are silence: −90 dBFS, about one step of a 16-bit file. */
const SILENCE = 3.2e-5;
const CLIP_RUN = 3;
/** +60 dBFS: more is a damaged float file. */
const MAX_SAMPLE = 1000;

/** Everything intake measures of a mix; levels are linear or in LUFS. */
export interface IntakeMeasurement {
  frames: number;
  samplePeak: Channels;
  truePeak: Channels;
  integratedLufs: number;
  maxMomentaryLufs: number;
  maxShortTermLufs: number;
  rangeLu: number;
  /** LUFS each 100 ms. */
  shortTerm: Float32Array;
  /** Mean of each channel. */
  dcOffset: Channels;
  /** Runs of three or more samples at the same extreme value. */
  clippedRuns: number;
  /** Samples at or over full scale. */
  fullScaleSamples: number;
  /** Frames whose true peak is over full scale. */
  overs: number;
  /** Bits in use, counted from the top; null for a float signal that lies on no 24-bit grid. */
  bitsUsed: number | null;
  /** Samples that are NaN, or far beyond any real level. */
  invalidSamples: number;
  /** Frames of silence before the first and after the last sound; all frames when nothing sounds. */
  headFrames: number;
  tailFrames: number;
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
export class IntakeMeter {
  private readonly kernels = new Kernels();
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private readonly addresses: Channels;
  private readonly loudness: LoudnessMeter;
  private readonly peak: PeakMeter;
  private readonly spectrum: StereoSpectrumMeter;
  private held = 0;
  private frames = 0;
  private readonly sums: Channels = [0, 0];
  private readonly clips = [new ClipRuns(), new ClipRuns()];
  private fullScale = 0;
  private invalid = 0;
  private bitUse = 0;
  private offGrid = false;
  private firstSound = -1;
  private lastSound = -1;

  private static readonly BLOCK = 4096;

  /** `maxFrames` is an upper limit of the track's length. */
  constructor(
    private readonly sampleRate: number,
    maxFrames: number,
  ) {
    const { BLOCK } = IntakeMeter;
    this.addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)];
    this.left = this.kernels.view64(this.addresses[0], BLOCK);
    this.right = this.kernels.view64(this.addresses[1], BLOCK);
    this.loudness = new LoudnessMeter(
      this.kernels,
      sampleRate,
      Math.ceil((maxFrames / sampleRate) * HOPS_PER_SECOND) + 1,
    );
    this.peak = new PeakMeter(this.kernels, BLOCK);
    this.spectrum = new StereoSpectrumMeter(this.kernels, sampleRate);
  }

  /** Interleaved stereo samples. */
  add(interleaved: Float32Array): void {
    for (let i = 0; i < interleaved.length; i += 2) {
      this.left[this.held] = interleaved[i];
      this.right[this.held] = interleaved[i + 1];
      if (++this.held === IntakeMeter.BLOCK) this.flush();
    }
  }

  private flush(): void {
    const padded = Math.ceil(this.held / QUANTUM) * QUANTUM;
    this.left.fill(0, this.held, padded);
    this.right.fill(0, this.held, padded);
    this.loudness.add(...this.addresses, this.held);
    this.peak.add(...this.addresses, padded);
    this.spectrum.add(this.left, this.right, this.held);
    this.scan(this.left, 0);
    this.scan(this.right, 1);
    this.frames += this.held;
    this.held = 0;
  }

  private scan(channel: Float64Array, index: 0 | 1): void {
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
      if (size > SILENCE) {
        const frame = this.frames + i;
        if (this.firstSound < 0 || frame < this.firstSound) this.firstSound = frame;
        if (frame > this.lastSound) this.lastSound = frame;
      }
      const integer = x * 8388608;
      this.bitUse |= integer;
      if ((integer | 0) !== integer) this.offGrid = true;
    }
    this.sums[index] += sum;
  }

  result(): IntakeMeasurement {
    // The interpolator trails the signal: silence after the end lets the last samples through.
    if (this.held > 0) this.flush();
    const frames = this.frames;
    this.left.fill(0, 0, QUANTUM);
    this.right.fill(0, 0, QUANTUM);
    this.peak.add(...this.addresses, QUANTUM);
    const report = this.loudness.report();
    const duration = frames / this.sampleRate;
    const { start, end } = loudestPassage(report.shortTerm, duration);
    const silent = this.firstSound < 0;
    const lowestBit = this.bitUse === 0 ? 0 : 31 - Math.clz32(this.bitUse & -this.bitUse);
    return {
      frames,
      samplePeak: this.peak.samplePeaks(),
      truePeak: this.peak.truePeaks(),
      integratedLufs: report.integrated,
      maxMomentaryLufs: report.maxMomentary,
      maxShortTermLufs: report.maxShortTerm,
      rangeLu: report.range,
      shortTerm: report.shortTerm,
      dcOffset: [this.sums[0] / Math.max(1, frames), this.sums[1] / Math.max(1, frames)],
      clippedRuns: this.clips[0].result() + this.clips[1].result(),
      fullScaleSamples: this.fullScale,
      overs: this.peak.overs(),
      bitsUsed: this.offGrid ? null : silent && this.bitUse === 0 ? 0 : 24 - lowestBit,
      invalidSamples: this.invalid,
      headFrames: silent ? frames : this.firstSound,
      tailFrames: silent ? frames : frames - 1 - this.lastSound,
      loudestStart: Math.round(start * this.sampleRate),
      loudestEnd: Math.round(end * this.sampleRate),
      spectrum: this.spectrum.result(),
    };
  }
}
