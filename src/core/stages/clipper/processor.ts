import { peakBounds } from '../../kernels/host';
import * as layout from '../../kernels/layout';
import { amplitude, decibels } from '../../signal/decibels';
import { linearHalfBand } from '../../signal/half-band';
import { DelayLine } from '../delay-line';
import type { StageContext, StageProcessor } from '../definition';
import { Handover, type Unit } from '../handover';
import { GainRamp } from '../gain-ramp';
import { PeakLimiter, type PeakLimiterDesign } from '../limiter/peak-limiter';
import { Oversampler, type OversampledWork, type OversamplingFactor, type OversamplingPhase } from '../oversampler';
import { CLIP_CURVES } from './curves';
import { outputGainDb, type ClipperSettings } from './settings';

const RAMP_SECONDS = 0.02;

/** Takes what the filters after the clipper let grow back: as short as holds. */
function regrowthLimit({ ceilingDbfs }: ClipperSettings): PeakLimiterDesign {
  return {
    ceiling: amplitude(ceilingDbfs),
    lookAheadMs: 1,
    recoveryMs: 10,
    memory: null,
    detection: 'true4',
    link: 1,
    rejoinMs: 0,
  };
}

/** A quantum is clipped or left alone as a whole. */
const GRAIN = layout.QUANTUM;
const GRAIN_BYTES = GRAIN * 8;
/** Grains that the filters hear at a time, the newest included. */
const HEARD = 2;
/** Grains in which a cut is heard: its own, and the one that its filters ring on into. */
const RINGING = 2;
/** What the first doubling can make of level and bend, with room for the ones after it. */
const [ON_LEVEL, ON_BEND] = peakBounds([linearHalfBand(0).taps]).map((bound) => 1.04 * bound);

/** One setting of the clipper at its oversampled rate. */
class Cut implements Unit<ClipperSettings>, OversampledWork {
  protected readonly oversampler: Oversampler;
  private readonly state: number;
  private ceiling = 1;
  /** Where the curve begins. */
  protected start = 1;
  private samples = 0;

  constructor(
    protected readonly context: StageContext,
    protected readonly factor: OversamplingFactor,
    private readonly phase: OversamplingPhase,
  ) {
    this.oversampler = new Oversampler(context, factor, phase);
    this.state = context.kernels.allocate(layout.CLIP_BYTES);
  }

  get latency(): number {
    return this.oversampler.latency;
  }

  set({ curve, ceilingDbfs, kneePercent }: ClipperSettings): void {
    const { f32, u32 } = this.context.kernels;
    this.ceiling = amplitude(ceilingDbfs);
    const knee = curve === 'hard' ? 0 : (this.ceiling * kneePercent) / 100;
    this.start = this.ceiling - knee;
    u32[(this.state + layout.CLIP_CURVE) >> 2] = CLIP_CURVES.indexOf(curve);
    u32[(this.state + layout.CLIP_REMOVED_ONLY) >> 2] = this.phase === 'linear' ? 1 : 0;
    f32[(this.state + layout.CLIP_CEILING) >> 2] = this.ceiling;
    f32[(this.state + layout.CLIP_KNEE) >> 2] = knee;
  }

  process(left: number, right: number, frames: number): void {
    for (let done = 0; done < frames * 8; done += GRAIN_BYTES) this.grain(left + done, right + done);
    this.samples += 2 * frames * this.factor;
  }

  protected grain(left: number, right: number): void {
    this.oversampler.process(left, right, this);
  }

  work(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    run.clip(this.state, left, frames);
    run.clip(this.state, right, frames);
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

/**
 * In linear phase only what is cut off passes the filters, and is taken from the delayed signal: what is not cut stays
 * as it is to the last bit, and where nothing can reach the curve nothing is filtered.
 */
class LinearCut extends Cut {
  private readonly delay: DelayLine;
  /** The grain before the present one, and the present one after it, of each channel. */
  private readonly input: [left: number, right: number];
  private readonly removed: [left: number, right: number];
  private readonly extremes: number;
  private readonly levels = new Float64Array(HEARD);
  private readonly bends = new Float64Array(HEARD);
  private count = 0;
  /** Whether the previous grain was upsampled, and the grains for which a cut still rings. */
  private risen = false;
  private ringing = 0;

  constructor(context: StageContext, factor: OversamplingFactor) {
    super(context, factor, 'linear');
    const { kernels } = context;
    this.delay = new DelayLine(context, this.latency);
    this.input = [kernels.allocate(2 * GRAIN_BYTES), kernels.allocate(2 * GRAIN_BYTES)];
    this.removed = [kernels.allocate(GRAIN_BYTES), kernels.allocate(GRAIN_BYTES)];
    this.extremes = kernels.allocate(16);
  }

  protected override grain(left: number, right: number): void {
    const { run } = this.context.kernels;
    const { oversampler, input, removed, delay } = this;
    const newest = [input[0] + GRAIN_BYTES, input[1] + GRAIN_BYTES] as const;
    this.copy([left, right], newest);
    if (this.reaches(newest)) {
      // The filters after the first hold the previous grain only when it was upsampled too.
      if (!this.risen) oversampler.rise(input[0], input[1]);
      oversampler.rise(...newest);
      this.work(...oversampler.top, GRAIN * this.factor);
      this.risen = true;
      this.ringing = RINGING;
    } else {
      // One grain late, so that the newest can still be upsampled after the one before it.
      if (!this.risen) oversampler.pass(input[0], input[1]);
      this.risen = false;
      if (this.ringing > 0) oversampler.silence();
    }
    delay.process(left, right, GRAIN);
    if (this.ringing > 0) {
      this.ringing--;
      oversampler.fall(...removed);
      run.add(left, right, removed[0], removed[1], GRAIN);
    }
    this.copy(newest, input);
  }

  /** Whether anything that the filters hear can come up to where the curve begins. */
  private reaches([left, right]: readonly [number, number]): boolean {
    const { run, f64 } = this.context.kernels;
    run.extremes(left, right, GRAIN, this.extremes);
    const at = this.count++ % HEARD;
    this.levels[at] = f64[this.extremes >> 3];
    this.bends[at] = f64[(this.extremes >> 3) + 1];
    let level = 0;
    let bend = 0;
    for (let i = 0; i < HEARD; i++) {
      if (this.levels[i] > level) level = this.levels[i];
      if (this.bends[i] > bend) bend = this.bends[i];
    }
    return level * ON_LEVEL + bend * ON_BEND > this.start;
  }

  private copy(from: readonly [number, number], to: readonly [number, number]): void {
    const { run } = this.context.kernels;
    run.copy(from[0], to[0], GRAIN);
    run.copy(from[1], to[1], GRAIN);
  }
}

/** Input gain, ceiling, what holds true peaks there if asked for, and output gain. */
export class ClipperProcessor implements StageProcessor<ClipperSettings> {
  readonly latency: number;
  private readonly factor: OversamplingFactor;
  private readonly phase: OversamplingPhase;
  private readonly inputGain: GainRamp;
  private readonly cut: Handover<ClipperSettings, Cut>;
  private readonly regrowth: PeakLimiter | null;
  private readonly outputGain: GainRamp;

  constructor(
    private readonly context: StageContext,
    settings: ClipperSettings,
  ) {
    const { kernels, sampleRate, use } = context;
    const ramp = (db: number) =>
      new GainRamp(kernels, amplitude(db), amplitude(db), Math.round(RAMP_SECONDS * sampleRate));
    this.factor = settings.oversampling[use];
    this.phase = settings.oversampling.phase;
    this.inputGain = ramp(settings.inputGainDb);
    const cut = () =>
      this.phase === 'linear' ? new LinearCut(context, this.factor) : new Cut(context, this.factor, this.phase);
    this.cut = new Handover(context, cut(), cut(), settings);
    this.regrowth = settings.truePeaks ? new PeakLimiter(context, regrowthLimit(settings)) : null;
    this.outputGain = ramp(outputGainDb(settings));
    this.latency = this.cut.heard.latency + (this.regrowth?.latency ?? 0);
  }

  update(settings: ClipperSettings): boolean {
    const { oversampling, truePeaks } = settings;
    if (oversampling[this.context.use] !== this.factor || oversampling.phase !== this.phase) return false;
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
