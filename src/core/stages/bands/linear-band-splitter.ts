import { QUANTUM } from '../../kernels/layout';
import { COMPLEX_BYTES } from '../../kernels/transform';
import { lowMagnitude } from '../../signal/crossover';
import { BLOCK_FRAMES, Convolver } from '../convolver';
import { DelayLine } from '../delay-line';
import type { StageContext } from '../definition';
import { ZeroPhaseDesign } from '../zero-phase';
import type { Crossovers } from './crossovers';

/** Seconds of impulse response, at least: the lowest crossover has fallen by more than 120 dB at its ends. */
const RESPONSE_SECONDS = 0.18;

function tapsOf(sampleRate: number): number {
  return Math.max(BLOCK_FRAMES, 2 ** Math.ceil(Math.log2(RESPONSE_SECONDS * sampleRate)));
}

/** Frames by which bands of linear phase trail: half the response and one block of the convolution. */
export function linearBandsLatency(sampleRate: number): number {
  return tapsOf(sampleRate) / 2 + BLOCK_FRAMES;
}

/**
 * Splits a pair of signals into bands with the magnitudes of the Linkwitz–Riley crossovers and no phase. The highest band is
 * what the others leave of the input, so that all bands sum to it. Works in quanta; new crossovers take over without a click.
 */
export class LinearBandSplitter {
  readonly latency: number;
  /** Of each band: a response under design is finished a little in every quantum. */
  private readonly convolvers: Convolver[];
  private readonly design: ZeroPhaseDesign;
  private readonly delay: DelayLine;
  /** Planar. */
  private readonly input: { left: number; right: number };
  private readonly work: { left: number; right: number };
  private readonly taps: number;
  private wanted: Crossovers | null = null;
  private steps: (() => void)[] = [];

  constructor(
    private readonly context: StageContext,
    crossovers: Crossovers,
  ) {
    const { kernels, sampleRate } = context;
    this.taps = tapsOf(sampleRate);
    this.latency = linearBandsLatency(sampleRate);
    this.design = new ZeroPhaseDesign(kernels, this.taps);
    this.delay = new DelayLine(context, this.latency);
    const planar = () => ({ left: kernels.allocate(QUANTUM * 8), right: kernels.allocate(QUANTUM * 8) });
    this.input = planar();
    this.work = planar();
    this.convolvers = crossovers.frequenciesHz.map(() => new Convolver(kernels, sampleRate, this.taps));
    for (const step of this.plan(crossovers)) step();
    for (const convolver of this.convolvers) convolver.begin(false, true);
  }

  get count(): number {
    return this.convolvers.length + 1;
  }

  set(crossovers: Crossovers): void {
    this.wanted = crossovers;
  }

  /** Writes one quantum of each band into its pairs. */
  split(left: number, right: number, bands: readonly number[]): void {
    if (this.steps.length > 0) this.steps.pop()!();
    else if (this.wanted && this.convolvers.every(({ settled }) => settled)) {
      const begin = () => this.convolvers.forEach((convolver) => convolver.begin(false));
      this.steps = [...this.plan(this.wanted), begin].reverse();
      this.wanted = null;
    }
    const { f64, run } = this.context.kernels;
    const { work, input, convolvers } = this;
    const top = bands[convolvers.length];
    copyQuantum(f64, left, input.left);
    copyQuantum(f64, right, input.right);
    this.delay.process(input.left, input.right, QUANTUM);
    run.toPairs(input.left, input.right, top, QUANTUM);
    for (let band = 0; band < convolvers.length; band++) {
      copyQuantum(f64, left, work.left);
      copyQuantum(f64, right, work.right);
      convolvers[band].process(work.left, work.right);
      run.toPairs(work.left, work.right, bands[band], QUANTUM);
      for (let i = 0; i < 2 * QUANTUM; i++) f64[(top >> 3) + i] -= f64[(bands[band] >> 3) + i];
    }
  }

  /** The input of the last quantum in time with its bands. */
  delayed(left: number, right: number): void {
    const { f64 } = this.context.kernels;
    copyQuantum(f64, this.input.left, left);
    copyQuantum(f64, this.input.right, right);
  }

  private plan({ frequenciesHz }: Crossovers): (() => void)[] {
    return frequenciesHz.flatMap((hz, band) => {
      const below = frequenciesHz.slice(0, band);
      return [
        () => {
          for (let k = 0; k <= this.taps / 2; k++) {
            const frequency = (k * this.context.sampleRate) / this.taps;
            let magnitude = lowMagnitude(frequency / hz);
            for (const lower of below) magnitude *= 1 - lowMagnitude(frequency / lower);
            this.design.write(k, magnitude, 0);
          }
        },
        () => this.design.inverse(),
        () => this.design.centre(),
        ...Array.from(
          { length: this.taps / BLOCK_FRAMES },
          (_, i) => () => this.convolvers[band].load('direct', i, this.design.work + i * BLOCK_FRAMES * COMPLEX_BYTES),
        ),
      ];
    });
  }
}

function copyQuantum(f64: Float64Array, from: number, to: number): void {
  f64.copyWithin(to >> 3, from >> 3, (from >> 3) + QUANTUM);
}
