import { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { LoudnessMeter } from './loudness';
import { HOPS_PER_SECOND } from './loudness-statistics';
import { PeakMeter, type Channels } from './peak';

/** Samples below this are silence: −90 dBFS, about one step of a 16-bit file. */
const SILENCE = 3.2e-5;

/** What any file is measured for; levels are linear or in LUFS. */
export interface FileMeasurement {
  frames: number;
  samplePeak: Channels;
  truePeak: Channels;
  integratedLufs: number;
  maxMomentaryLufs: number;
  maxShortTermLufs: number;
  rangeLu: number;
  /** LUFS each 100 ms. */
  shortTerm: Float32Array;
  /** Frames whose true peak is over full scale. */
  overs: number;
  /** Bits in use, counted from the top; null for a float signal that lies on no 24-bit grid. */
  bitsUsed: number | null;
  /** Frames of silence before the first and after the last sound; all frames when nothing sounds. */
  headFrames: number;
  tailFrames: number;
}

/** Measures a whole file, in blocks of any size. */
export class FileMeter {
  protected readonly kernels = new Kernels();
  protected readonly left: Float64Array;
  protected readonly right: Float64Array;
  private readonly addresses: Channels;
  private readonly loudness: LoudnessMeter;
  private readonly peak: PeakMeter;
  protected held = 0;
  protected frames = 0;
  private bitUse = 0;
  private offGrid = false;
  private firstSound = -1;
  private lastSound = -1;

  private static readonly BLOCK = 4096;

  /** `sampleRate` in Hz; `maxFrames` is an upper limit of the file's length. */
  constructor(
    protected readonly sampleRate: number,
    maxFrames: number,
  ) {
    const { BLOCK } = FileMeter;
    this.addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)];
    this.left = this.kernels.view64(this.addresses[0], BLOCK);
    this.right = this.kernels.view64(this.addresses[1], BLOCK);
    this.loudness = new LoudnessMeter(
      this.kernels,
      sampleRate,
      Math.ceil((maxFrames / sampleRate) * HOPS_PER_SECOND) + 1,
    );
    this.peak = new PeakMeter(this.kernels, BLOCK);
  }

  /** Interleaved stereo samples. */
  add(interleaved: Float32Array): void {
    const { left, right } = this;
    for (let at = 0; at < interleaved.length;) {
      const { held } = this;
      const frames = Math.min(FileMeter.BLOCK - held, (interleaved.length - at) / 2);
      for (let i = 0; i < frames; i++) {
        left[held + i] = interleaved[at + 2 * i];
        right[held + i] = interleaved[at + 2 * i + 1];
      }
      at += 2 * frames;
      this.held += frames;
      if (this.held === FileMeter.BLOCK) this.flush();
    }
  }

  protected flush(): void {
    const padded = Math.ceil(this.held / QUANTUM) * QUANTUM;
    this.left.fill(0, this.held, padded);
    this.right.fill(0, this.held, padded);
    this.loudness.add(...this.addresses, this.held);
    this.peak.add(...this.addresses, padded);
    this.scan(this.left);
    this.scan(this.right);
    this.frames += this.held;
    this.held = 0;
  }

  private scan(channel: Float64Array): void {
    let first = -1;
    let last = -1;
    let { bitUse } = this;
    let offGrid = false;
    for (let i = 0; i < this.held; i++) {
      const x = channel[i];
      if (x > SILENCE || x < -SILENCE) {
        if (first < 0) first = i;
        last = i;
      }
      const integer = x * 8388608;
      const whole = integer | 0;
      bitUse |= whole;
      if (whole !== integer) offGrid = true;
    }
    this.bitUse = bitUse;
    if (offGrid) this.offGrid = true;
    if (last < 0) return;
    if (this.firstSound < 0 || this.frames + first < this.firstSound) this.firstSound = this.frames + first;
    if (this.frames + last > this.lastSound) this.lastSound = this.frames + last;
  }

  result(): FileMeasurement {
    if (this.held > 0) this.flush();
    const { frames } = this;
    // The interpolator trails the signal: silence after the end lets the last samples through.
    this.left.fill(0, 0, QUANTUM);
    this.right.fill(0, 0, QUANTUM);
    this.peak.add(...this.addresses, QUANTUM);
    const report = this.loudness.report();
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
      overs: this.peak.overs(),
      bitsUsed: this.offGrid ? null : silent && this.bitUse === 0 ? 0 : 24 - lowestBit,
      headFrames: silent ? frames : this.firstSound,
      tailFrames: silent ? frames : frames - 1 - this.lastSound,
    };
  }
}
