import { Kernels } from '../kernels/host';
import { GROUP } from '../kernels/layout';
import { LoudnessMeter } from './loudness';
import { HOPS_PER_SECOND, loudestEnd } from './loudness-statistics';
import { inDecibels, PeakMeter, type Channels } from './peak';

const BLOCK = 1024;
const MOST_OVERS = 2000;

/** Loudness and peaks of a programme. */
export interface ProgrammeFigures {
  /** LUFS; −∞ when nothing passes the gates. */
  integratedLufs: number;
  maxShortTermLufs: number;
  samplePeaksDbfs: Channels;
  truePeaksDbtp: Channels;
  /** Frames, of either channel, whose true peak is over full scale. */
  overs: number;
  /** Times in seconds of up to 2000 blocks of {@link BLOCK} frames with overs. */
  overSeconds: number[];
  /** Second at which the loudest three seconds end. */
  loudestSeconds: number;
}

/** Measures loudness, peaks and overs of a programme, in blocks of any size. */
export class ProgrammeMeter {
  private readonly kernels = new Kernels();
  private readonly addresses: Channels;
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private readonly loudness: LoudnessMeter;
  private readonly peak: PeakMeter;
  private readonly overSeconds: number[] = [];
  private known = 0;
  private held = 0;
  private frames = 0;

  /** `sampleRate` in Hz; `maxFrames` is an upper limit of the length. */
  constructor(
    private readonly sampleRate: number,
    maxFrames: number,
  ) {
    this.addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)];
    this.left = this.kernels.view64(this.addresses[0], BLOCK);
    this.right = this.kernels.view64(this.addresses[1], BLOCK);
    const hops = Math.ceil((maxFrames / sampleRate) * HOPS_PER_SECOND) + 1;
    this.loudness = new LoudnessMeter(this.kernels, sampleRate, hops);
    this.peak = new PeakMeter(this.kernels, BLOCK);
  }

  /** Interleaved stereo samples. */
  add(interleaved: Float32Array | Float64Array): void {
    for (let i = 0; i + 1 < interleaved.length; i += 2) {
      this.left[this.held] = interleaved[i];
      this.right[this.held] = interleaved[i + 1];
      if (++this.held === BLOCK) this.flush();
    }
  }

  private flush(): void {
    const padded = Math.ceil(this.held / GROUP) * GROUP;
    this.left.fill(0, this.held, padded);
    this.right.fill(0, this.held, padded);
    this.loudness.add(...this.addresses, this.held);
    this.peak.add(...this.addresses, padded);
    this.notePeaks();
    this.frames += this.held;
    this.held = 0;
  }

  private notePeaks(): void {
    const overs = this.peak.overs();
    if (overs > this.known && this.overSeconds.length < MOST_OVERS)
      this.overSeconds.push(this.frames / this.sampleRate);
    this.known = overs;
  }

  result(): ProgrammeFigures {
    if (this.held > 0) this.flush();
    // The interpolator trails the signal: silence after the end lets the last samples through.
    this.left.fill(0, 0, 2 * GROUP);
    this.right.fill(0, 0, 2 * GROUP);
    this.peak.add(...this.addresses, 2 * GROUP);
    this.notePeaks();
    const report = this.loudness.report();
    return {
      integratedLufs: report.integrated,
      maxShortTermLufs: report.maxShortTerm,
      samplePeaksDbfs: inDecibels(this.peak.samplePeaks()),
      truePeaksDbtp: inDecibels(this.peak.truePeaks()),
      overs: this.peak.overs(),
      overSeconds: this.overSeconds,
      loudestSeconds: loudestEnd(report.shortTerm),
    };
  }
}
