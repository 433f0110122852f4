import * as layout from '../../kernels/layout';
import { QUANTUM } from '../../kernels/layout';
import { amplitude, decibels } from '../../signal/decibels';
import { DelayLine } from '../delay-line';
import type { StageContext, StageProcessor } from '../definition';
import { Exchange, type Unit } from '../exchange';
import { GainRamp } from '../gain-ramp';
import { PeakLimiter, type PeakLimiterDesign } from '../limiter/peak-limiter';
import { Oversampler, type OversampledWork, type OversamplingFactor, type OversamplingPhase } from '../oversampler';
import { CLIP_CURVES } from './curves';
import { outputGainDb, type ClipperSettings } from './settings';

const RAMP_SECONDS = 0.02;

/** Takes what the filters behind the clipper let grow back: as short as holds. */
function regrowthLimit({ ceilingDbfs }: ClipperSettings): PeakLimiterDesign {
  return {
    ceiling: amplitude(ceilingDbfs),
    lookAheadMs: 1,
    recoveryMs: 10,
    memory: null,
    detection: 'true4',
    link: 1,
    recoveryLink: 1,
  };
}

/**
 * One setting of the clipper. In linear phase only what is cut off passes the filters and is taken from the delayed signal,
 * so that what is not cut stays as it is to the last bit.
 */
class Cut implements Unit<ClipperSettings>, OversampledWork {
  private readonly oversampler: Oversampler;
  private readonly delay: DelayLine;
  private readonly state: number;
  private readonly removed: [left: number, right: number];
  private ceiling = 1;
  private samples = 0;

  constructor(
    private readonly context: StageContext,
    factor: OversamplingFactor,
    private readonly phase: OversamplingPhase,
  ) {
    const { kernels } = context;
    this.oversampler = new Oversampler(context, factor, phase);
    this.delay = new DelayLine(context, this.oversampler.latency);
    this.state = kernels.allocate(layout.CLIP_BYTES);
    this.removed = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  }

  get latency(): number {
    return this.oversampler.latency;
  }

  set({ curve, ceilingDbfs, kneePercent }: ClipperSettings): void {
    const { f32, u32 } = this.context.kernels;
    this.ceiling = amplitude(ceilingDbfs);
    u32[(this.state + layout.CLIP_CURVE) >> 2] = CLIP_CURVES.indexOf(curve);
    u32[(this.state + layout.CLIP_REMOVED_ONLY) >> 2] = this.phase === 'linear' ? 1 : 0;
    f32[(this.state + layout.CLIP_CEILING) >> 2] = this.ceiling;
    f32[(this.state + layout.CLIP_KNEE) >> 2] = curve === 'hard' ? 0 : (this.ceiling * kneePercent) / 100;
  }

  process(left: number, right: number, frames: number): void {
    const { run, f64 } = this.context.kernels;
    const { removed, oversampler, delay } = this;
    for (let done = 0; done < frames * 8; done += QUANTUM * 8) {
      const l = left + done;
      const r = right + done;
      if (this.phase === 'least') {
        oversampler.process(l, r, this);
        continue;
      }
      f64.copyWithin(removed[0] >> 3, l >> 3, (l >> 3) + QUANTUM);
      f64.copyWithin(removed[1] >> 3, r >> 3, (r >> 3) + QUANTUM);
      oversampler.process(removed[0], removed[1], this);
      delay.process(l, r, QUANTUM);
      run.add(l, r, removed[0], removed[1], QUANTUM);
    }
  }

  work(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    run.clip(this.state, left, frames);
    run.clip(this.state, right, frames);
    this.samples += 2 * frames;
  }

  /** dB by which the loudest sample since the last call was above the ceiling. */
  takeShaved(): number {
    const at = (this.state + layout.CLIP_LOUDEST) >> 2;
    const loudest = this.context.kernels.f32[at];
    this.context.kernels.f32[at] = 0;
    return loudest > this.ceiling ? decibels(loudest / this.ceiling) : 0;
  }

  takeTouched(): number {
    const { u32 } = this.context.kernels;
    const at = (this.state + layout.CLIP_TOUCHED) >> 2;
    const share = this.samples > 0 ? u32[at] / this.samples : 0;
    u32[at] = 0;
    this.samples = 0;
    return share;
  }
}

/** Input gain, ceiling, what holds true peaks there if asked for, and output gain. */
export class ClipperProcessor implements StageProcessor<ClipperSettings> {
  readonly latency: number;
  private readonly factor: OversamplingFactor;
  private readonly phase: OversamplingPhase;
  private readonly inputGain: GainRamp;
  private readonly cut: Exchange<ClipperSettings, Cut>;
  private readonly regrowth: PeakLimiter | null;
  private readonly outputGain: GainRamp;

  constructor(
    private readonly context: StageContext,
    settings: ClipperSettings,
  ) {
    const { kernels, sampleRate, purpose } = context;
    const ramp = (db: number) =>
      new GainRamp(kernels, amplitude(db), amplitude(db), Math.round(RAMP_SECONDS * sampleRate));
    this.factor = settings.oversampling[purpose];
    this.phase = settings.oversampling.phase;
    this.inputGain = ramp(settings.inputGainDb);
    const cut = () => new Cut(context, this.factor, this.phase);
    this.cut = new Exchange(context, cut(), cut(), settings);
    this.regrowth = settings.truePeaks ? new PeakLimiter(context, regrowthLimit(settings)) : null;
    this.outputGain = ramp(outputGainDb(settings));
    this.latency = this.cut.heard.latency + (this.regrowth?.latency ?? 0);
  }

  update(settings: ClipperSettings): boolean {
    const { oversampling, truePeaks } = settings;
    if (oversampling[this.context.purpose] !== this.factor || oversampling.phase !== this.phase) return false;
    if (truePeaks !== (this.regrowth !== null)) return false;
    const input = amplitude(settings.inputGainDb);
    const output = amplitude(outputGainDb(settings));
    this.inputGain.moveTo(input, input);
    this.cut.set(settings);
    this.regrowth?.update(regrowthLimit(settings));
    this.outputGain.moveTo(output, output);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.inputGain.process(left, right, frames);
    this.cut.process(left, right, frames);
    this.regrowth?.process(left, right, frames);
    this.outputGain.process(left, right, frames);
  }

  takeGainReduction(): number {
    return this.cut.heard.takeShaved();
  }

  takeTouched(): number {
    return this.cut.heard.takeTouched();
  }
}
