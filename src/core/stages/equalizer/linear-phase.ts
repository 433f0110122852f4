import { QUANTUM } from '../../kernels/layout';
import { COMPLEX_BYTES } from '../../kernels/transform';
import { squaredMagnitude, type Biquad } from '../../signal/biquad';
import { BLOCK_FRAMES, Convolver } from '../convolver';
import type { StageContext } from '../definition';
import { ZeroPhaseDesign } from '../zero-phase';
import { bandSections } from './design';
import { effectiveBands, moves, type EqualizerBand, type EqualizerState } from './settings';

/**
 * Seconds of impulse response, at least: what rings longer is cut short, and with it the deepest and narrowest curves.
 */
const RESPONSE_SECONDS = 0.34;

/** Taps of the impulse response at a sample rate in Hz: a power of two. */
function linearPhaseTaps(sampleRate: number): number {
  return Math.max(BLOCK_FRAMES, 2 ** Math.ceil(Math.log2(RESPONSE_SECONDS * sampleRate)));
}

/** Frames by which a linear-phase equalizer trails: half its response and one block of the convolution. */
export function linearPhaseLatency(sampleRate: number): number {
  return linearPhaseTaps(sampleRate) / 2 + BLOCK_FRAMES;
}

/** Spectra of a response's partitions. */
interface Design {
  direct: Float64Array;
  /** Null when nothing crosses between the channels. */
  conjugate: Float64Array | null;
}

/**
 * The newest designs: a lane that is rebuilt while it plays, as when one of its stages is switched, must not wait for
 * what was designed a moment ago.
 */
const DESIGNS = new Map<string, Design>();
const DESIGNS_KEPT = 4;

type Part = Exclude<EqualizerBand['part'], 'stereo'>;
const EVERY: readonly Part[] = ['left', 'right', 'mid', 'side'];
const WORKS_ON: Record<EqualizerBand['part'], readonly Part[]> = {
  stereo: ['left', 'right'],
  left: ['left'],
  right: ['right'],
  mid: ['mid'],
  side: ['side'],
};

function stillBands(state: EqualizerState): EqualizerBand[] {
  return effectiveBands(state).filter((band) => !moves(band));
}

/**
 * The bands that do not move, with the magnitude they have anyway and no phase: the response is symmetric in time. A
 * new response is designed a little in every quantum, so that the sound never waits for it.
 */
export class LinearPhaseFilter {
  readonly latency: number;
  private readonly taps: number;
  private readonly design: ZeroPhaseDesign;
  private readonly convolver: Convolver;
  private readonly magnitudes: Record<Part, Float64Array>;
  private crossed = false;
  private wanted: EqualizerState | null = null;
  /** What is left to do for the response under design. */
  private steps: (() => void)[] = [];

  constructor(
    private readonly context: StageContext,
    state: EqualizerState,
  ) {
    const { kernels, sampleRate } = context;
    this.taps = linearPhaseTaps(sampleRate);
    this.latency = linearPhaseLatency(sampleRate);
    this.design = new ZeroPhaseDesign(kernels, this.taps);
    this.convolver = new Convolver(kernels, sampleRate, this.taps);
    const half = this.taps / 2;
    const flat = () => new Float64Array(half + 1);
    this.magnitudes = { left: flat(), right: flat(), mid: flat(), side: flat() };
    const known = DESIGNS.get(this.keyOf(state));
    if (known) this.restore(known);
    else for (const step of this.plan(state)) step();
    this.convolver.begin(this.crossed, true);
  }

  set(state: EqualizerState): void {
    this.wanted = state;
  }

  process(left: number, right: number, frames: number): void {
    for (let done = 0; done < frames; done += QUANTUM) {
      if (this.steps.length > 0) this.steps.pop()!();
      else if (this.wanted && this.convolver.settled) {
        const known = DESIGNS.get(this.keyOf(this.wanted));
        const steps = known ? [() => this.restore(known)] : this.plan(this.wanted);
        this.steps = [...steps, () => this.convolver.begin(this.crossed)].reverse();
        this.wanted = null;
      }
      this.convolver.process(left + done * 8, right + done * 8);
    }
  }

  private keyOf(state: EqualizerState): string {
    return JSON.stringify([this.context.sampleRate, stillBands(state)]);
  }

  private restore({ direct, conjugate }: Design): void {
    this.convolver.spectraOf('direct').set(direct);
    if (conjugate) this.convolver.spectraOf('conjugate').set(conjugate);
    this.crossed = conjugate !== null;
  }

  private remember(key: string): void {
    const [oldest] = DESIGNS.keys();
    if (DESIGNS.size >= DESIGNS_KEPT) DESIGNS.delete(oldest);
    const conjugate = this.crossed ? this.convolver.spectraOf('conjugate').slice() : null;
    DESIGNS.set(key, { direct: this.convolver.spectraOf('direct').slice(), conjugate });
  }

  /** The design in pieces that are short compared with a quantum. */
  private plan(state: EqualizerState): (() => void)[] {
    const still = stillBands(state);
    const { sampleRate } = this.context;
    this.crossed = still.some(({ on, part }) => on && part !== 'stereo');
    const steps: (() => void)[] = [() => EVERY.forEach((part) => this.magnitudes[part].fill(1))];
    for (const band of still)
      for (const section of bandSections(band, sampleRate))
        for (const part of WORKS_ON[band.part]) steps.push(() => this.multiply(part, section));
    const parts = this.crossed ? (['direct', 'conjugate'] as const) : (['direct'] as const);
    for (const part of parts) {
      steps.push(
        () => this.combine(part),
        () => this.design.inverse(),
        () => this.design.centre(),
      );
      for (let i = 0; i < this.convolver.partitions; i++)
        steps.push(() => this.convolver.load(part, i, this.design.work + i * BLOCK_FRAMES * COMPLEX_BYTES));
    }
    const key = this.keyOf(state);
    return [...steps, () => this.remember(key)];
  }

  private multiply(part: Part, section: Biquad): void {
    const magnitude = this.magnitudes[part];
    for (let k = 0; k < magnitude.length; k++)
      magnitude[k] *= Math.sqrt(squaredMagnitude(section, this.design.squares[k]));
  }

  /**
   * Spectrum of the response with which z = left + i·right (direct) or its conjugate goes into the output, from the
   * gains of left and right, then of mid and side: with p and v from each channel to itself and c across, ((p + v) / 2)
   * and ((p − v) / 2 + i·c).
   */
  private combine(response: 'direct' | 'conjugate'): void {
    const { left, right, mid, side } = this.magnitudes;
    for (let k = 0; k <= this.taps / 2; k++) {
      const same = (mid[k] + side[k]) / 2;
      const across = (mid[k] - side[k]) / 2;
      const ownLeft = same * left[k];
      const ownRight = same * right[k];
      const toLeft = across * right[k];
      const toRight = across * left[k];
      const direct = response === 'direct';
      const re = (direct ? ownLeft + ownRight : ownLeft - ownRight) / 2;
      const im = (direct ? toRight - toLeft : toRight + toLeft) / 2;
      this.design.write(k, re, im);
    }
  }
}
