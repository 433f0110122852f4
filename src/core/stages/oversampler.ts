import { z } from 'zod';
import { ALL_PASS_BYTES, HALF_BAND_HISTORY, QUANTUM } from '../kernels/layout';
import { halfBandLatency, leastLatencyHalfBand, linearHalfBand } from '../signal/half-band';
import { figure } from '../measure/figure';
import type { StageContext } from './definition';
import { choice } from './setting';

export const OVERSAMPLING_FACTORS = [1, 2, 4, 8, 16] as const;
export type OversamplingFactor = (typeof OVERSAMPLING_FACTORS)[number];

/**
 * Aliasing at each factor: the highest line that is not a harmonic, in dB against the tone, of 5 kHz at 44.1 kHz driven
 * 12 dB into a hard clip. A softer curve or a lower tone leaves less.
 */
export const ALIASING_DB: Record<OversamplingFactor, number> = { 1: -16, 2: -38, 4: -50, 8: -62, 16: -75 };

/** CPU use of a clipper at each factor against 2×, as the benchmarks measure it. */
export const OVERSAMPLING_WORK: Record<OversamplingFactor, number> = { 1: 0.3, 2: 1, 4: 1.4, 8: 2.1, 16: 3.1 };

/** What oversampling is good for, and what it costs. */
export const OVERSAMPLING_HELP =
  'Distortion makes harmonics; those above half the sample rate fold back as tones that do not belong to the music. Oversampling gives them room and filters them out. It multiplies CPU use; delivery may use a higher factor than listening.';
const MEASURED =
  'The aliasing is that of a 5 kHz tone driven 12 dB into a hard clip; softer curves leave less. CPU use is against 2×.';

const factor = (title: string, help: string, normal: OversamplingFactor) =>
  choice({
    title,
    help: `${help} ${MEASURED}`,
    options: OVERSAMPLING_FACTORS.map((value) => ({
      value,
      title: `${value === 1 ? 'Off' : `${value}×`}, aliasing ${figure(ALIASING_DB[value], 0)} dB, CPU ${OVERSAMPLING_WORK[value]}`,
    })),
    default: normal,
  });

/** Oversampling of a nonlinear stage; `listening` applies in the workspace and is never more than `delivery`. */
export const oversamplingSchema = (listening: OversamplingFactor, delivery: OversamplingFactor) =>
  z
    .strictObject({
      listening: factor('While listening', OVERSAMPLING_HELP, listening),
      delivery: factor(
        'For delivery',
        'Never lower than while listening; measurements and deliveries use this one.',
        delivery,
      ),
      phase: choice({
        title: 'Filters',
        help: 'How the oversampling filters treat time.',
        options: [
          {
            value: 'linear',
            title: 'Linear phase',
            help: 'Nothing moves in time. Costs 60 to 68 samples of latency.',
          },
          {
            value: 'least',
            title: 'Minimum latency',
            help: '4 or 5 samples. Costs a phase shift that starts near 15 kHz at 44.1 kHz; at 16× by bands the sound arrives up to one sample later than the latency says.',
          },
        ],
        default: 'linear',
      }),
    })
    .refine(
      (chosen) => chosen.delivery >= chosen.listening,
      'Oversampling for delivery must not be lower than for listening.',
    );

export type Oversampling = z.infer<ReturnType<typeof oversamplingSchema>>;
export type OversamplingPhase = Oversampling['phase'];

/** The same with another factor; the one for delivery follows where it would be lower. */
export function withOversampling(
  chosen: Oversampling,
  use: 'listening' | 'delivery',
  factor: OversamplingFactor,
): Oversampling {
  if (use === 'listening')
    return { ...chosen, listening: factor, delivery: Math.max(factor, chosen.delivery) as OversamplingFactor };
  return { ...chosen, delivery: factor, listening: Math.min(factor, chosen.listening) as OversamplingFactor };
}

/** Addresses of a buffer for each channel. */
type Pair = [left: number, right: number];

interface Doubling {
  /** Taps, or all-pass sections up and down with the pair that the second branch holds. */
  filter: number;
  count: number;
  /** Frames by which the taps are late. */
  late: number;
  down: number;
  held: number;
  even: Pair;
  odd: Pair;
}

/** Works on both channels in f32 at a multiple of the sample rate. */
export interface OversampledWork {
  work(left: number, right: number, frames: number): void;
}

/** Raises the sample rate by cascaded half-band filters, lets something work there, and lowers it again. */
export class Oversampler {
  readonly latency: number;
  private readonly doublings: Doubling[] = [];
  /** One for each rate from the track's up. */
  private readonly rates: Pair[] = [];

  constructor(
    private readonly context: Pick<StageContext, 'kernels'>,
    private readonly factor: OversamplingFactor,
    private readonly phase: OversamplingPhase,
  ) {
    const doublings = Math.log2(factor);
    this.latency = halfBandLatency(phase, doublings);
    for (let rate = 0; rate <= doublings; rate++) this.rates.push(this.pair(QUANTUM << rate));
    for (let i = 0; i < doublings; i++) this.doublings.push(phase === 'linear' ? this.linear(i) : this.leastLatency(i));
  }

  /** One quantum of planar f64 channels in place. */
  process(left: number, right: number, task: OversampledWork): void {
    this.rise(left, right);
    const [topLeft, topRight] = this.top;
    task.work(topLeft, topRight, QUANTUM * this.factor);
    this.fall(left, right);
  }

  /** Where a block is at the raised rate. */
  get top(): readonly [left: number, right: number] {
    return this.rates[this.doublings.length];
  }

  /** Upsamples a block. */
  rise(left: number, right: number): void {
    this.take(left, right);
    for (let i = 0; i < this.doublings.length; i++) this.double(i, QUANTUM << i);
  }

  /** Downsamples the top block, into the same or other channels. */
  fall(left: number, right: number): void {
    const { run } = this.context.kernels;
    for (let i = this.doublings.length - 1; i >= 0; i--) this.halve(i, QUANTUM << i);
    run.toDouble(this.rates[0][0], left, QUANTUM);
    run.toDouble(this.rates[0][1], right, QUANTUM);
  }

  /**
   * In linear phase: moves a block into the first filter's history without upsampling it, so that the next one can be.
   */
  pass(left: number, right: number): void {
    const { f32 } = this.context.kernels;
    this.take(left, right);
    for (const channel of this.rates[0]) {
      const from = channel - HALF_BAND_HISTORY + QUANTUM * 4;
      f32.copyWithin((channel - HALF_BAND_HISTORY) >> 2, from >> 2, (from + HALF_BAND_HISTORY) >> 2);
    }
  }

  /** Puts silence at the top. */
  silence(): void {
    const { f32 } = this.context.kernels;
    for (const channel of this.top) f32.fill(0, channel >> 2, (channel >> 2) + QUANTUM * this.factor);
  }

  private take(left: number, right: number): void {
    const { run } = this.context.kernels;
    run.toSingle(left, this.rates[0][0], QUANTUM);
    run.toSingle(right, this.rates[0][1], QUANTUM);
  }

  private double(i: number, frames: number): void {
    const { run } = this.context.kernels;
    const { filter, count, late } = this.doublings[i];
    const [left, right] = this.rates[i];
    const [outLeft, outRight] = this.rates[i + 1];
    if (this.phase === 'least') return run.upsampleAllPass(filter, count, left, right, outLeft, outRight, frames);
    run.upsample(left, outLeft, filter, count, late, frames);
    run.upsample(right, outRight, filter, count, late, frames);
  }

  private halve(i: number, frames: number): void {
    const { run } = this.context.kernels;
    const { filter, count, late, down, held, even, odd } = this.doublings[i];
    const [left, right] = this.rates[i + 1];
    const [outLeft, outRight] = this.rates[i];
    if (this.phase === 'least') return run.downsampleAllPass(down, count, held, left, right, outLeft, outRight, frames);
    run.downsample(left, even[0], odd[0], outLeft, filter, count, late, frames);
    run.downsample(right, even[1], odd[1], outRight, filter, count, late, frames);
  }

  /** A buffer for each channel with a filter's history in front. */
  private pair(frames: number): Pair {
    const one = () => this.context.kernels.allocate(HALF_BAND_HISTORY + frames * 4) + HALF_BAND_HISTORY;
    return [one(), one()];
  }

  private linear(i: number): Doubling {
    const { kernels } = this.context;
    const { taps, late } = linearHalfBand(i);
    const filter = kernels.allocate(taps.length * 4);
    kernels.f32.set(taps, filter >> 2);
    return {
      filter,
      count: taps.length,
      late,
      down: 0,
      held: 0,
      even: this.pair(QUANTUM << i),
      odd: this.pair(QUANTUM << i),
    };
  }

  private leastLatency(i: number): Doubling {
    const { kernels } = this.context;
    const coefficients = leastLatencyHalfBand(i);
    const sections = () => {
      const address = kernels.allocate(coefficients.length * ALL_PASS_BYTES);
      coefficients.forEach((a, k) => {
        const at = (address + k * ALL_PASS_BYTES) >> 3;
        kernels.f64.fill(a, at, at + 2);
      });
      return address;
    };
    const none: Pair = [0, 0];
    return {
      filter: sections(),
      count: coefficients.length,
      late: 0,
      down: sections(),
      held: kernels.allocate(16),
      even: none,
      odd: none,
    };
  }
}
