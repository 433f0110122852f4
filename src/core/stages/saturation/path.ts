import * as layout from '../../kernels/layout';
import { QUANTUM } from '../../kernels/layout';
import { DelayLine } from '../delay-line';
import type { StageContext } from '../definition';
import { Oversampler, type OversampledWork, type OversamplingFactor, type OversamplingPhase } from '../oversampler';
import { SectionList } from '../section-list';
import type { PathDesign } from './design';

/** Most sections after the curve. */
const AFTER = 2;
/** Sections that part what is protected. */
const HIGH = 2;

/** One way through a curve: tone, curve at the oversampled rate, tone, in parallel with the dry sound. */
export class SaturationPath implements OversampledWork {
  readonly latency: number;
  private readonly oversampler: Oversampler;
  private readonly dry: DelayLine;
  private readonly before: SectionList;
  private readonly after: SectionList;
  /** What goes into the curve, and the same after it, by which what passes untouched is found. */
  private readonly high: SectionList;
  private readonly highBehind: SectionList;
  private readonly shape: number;
  private readonly amount: number;
  private readonly makeup: number;
  private readonly wet: [left: number, right: number];
  private readonly low: [left: number, right: number];
  private design: PathDesign | null = null;

  constructor(
    private readonly context: StageContext,
    factor: OversamplingFactor,
    phase: OversamplingPhase,
  ) {
    const { kernels } = context;
    this.oversampler = new Oversampler(context, factor, phase);
    this.latency = this.oversampler.latency;
    this.dry = new DelayLine(context, this.latency);
    this.before = new SectionList(kernels, 1);
    this.after = new SectionList(kernels, AFTER);
    this.high = new SectionList(kernels, HIGH);
    this.highBehind = new SectionList(kernels, HIGH);
    this.shape = kernels.allocate(layout.SHAPE_BYTES);
    this.amount = kernels.allocate(layout.GAIN_BYTES);
    this.makeup = kernels.allocate(layout.GAIN_BYTES);
    this.wet = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
    this.low = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  }

  set(design: PathDesign, before?: SaturationPath): void {
    const { f32, u32, f64 } = this.context.kernels;
    const single = (field: number, value: number) => {
      f32[(this.shape + field) >> 2] = value;
    };
    this.design = design;
    u32[(this.shape + layout.SHAPE_CURVE) >> 2] = design.curve;
    single(layout.SHAPE_DRIVE, design.drive);
    single(layout.SHAPE_BIAS, design.bias);
    single(layout.SHAPE_GAIN, design.gain);
    this.before.set(design.before ? [design.before] : [], before?.before);
    this.after.set(design.after, before?.after);
    this.high.set(design.high, before?.high);
    this.highBehind.set(design.high, before?.highBehind, -1);
    f64.fill(design.makeup, this.makeup >> 3, (this.makeup >> 3) + 2);
  }

  /**
   * One quantum in place. `shares` of the amount at the ends of equal parts of it, with straight lines between them.
   * Only delayed where there is no amount.
   */
  process(left: number, right: number, shares: Float64Array): void {
    const { run, f64 } = this.context.kernels;
    const { design, dry, wet, low } = this;
    if (!design) return;
    const [first, second] = design.amounts;
    if (first === 0 && second === 0) {
      dry.process(left, right, QUANTUM);
      if (design.makeup !== 1) run.gain(this.makeup, left, right, QUANTUM);
      return;
    }
    if (design.wetOnly) {
      this.bend(left, right);
      if (design.makeup !== 1) run.gain(this.makeup, left, right, QUANTUM);
      return;
    }
    if (design.midSide) run.toMidSide(left, right, QUANTUM);
    this.copy(left, right, wet);
    dry.process(left, right, QUANTUM);
    this.high.process(wet[0], wet[1], QUANTUM);
    this.bend(wet[0], wet[1]);
    if (design.high.length > 0) {
      this.copy(left, right, low);
      this.highBehind.process(low[0], low[1], QUANTUM);
      run.add(wet[0], wet[1], left, right, QUANTUM);
      run.add(wet[0], wet[1], low[0], low[1], QUANTUM);
    }
    const parts = shares.length - 1;
    const frames = QUANTUM / parts;
    const at = this.amount >> 3;
    for (let part = 0; part < parts; part++) {
      const from = shares[part];
      const step = (shares[part + 1] - from) / frames;
      const offset = part * frames * 8;
      f64[at] = first * from;
      f64[at + 1] = second * from;
      f64[at + 2] = first * step;
      f64[at + 3] = second * step;
      run.crossfade(this.amount, left + offset, right + offset, wet[0] + offset, wet[1] + offset, frames);
    }
    if (design.midSide) run.toLeftRight(left, right, QUANTUM);
    if (design.makeup !== 1) run.gain(this.makeup, left, right, QUANTUM);
  }

  private bend(left: number, right: number): void {
    this.before.process(left, right, QUANTUM);
    this.oversampler.process(left, right, this);
    this.after.process(left, right, QUANTUM);
  }

  work(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    const [first, second] = this.design!.amounts;
    if (first > 0) run.saturate(this.shape, left, frames);
    if (second > 0) run.saturate(this.shape, right, frames);
  }

  private copy(left: number, right: number, to: readonly [left: number, right: number]): void {
    const { run } = this.context.kernels;
    run.copy(left, to[0], QUANTUM);
    run.copy(right, to[1], QUANTUM);
  }
}
