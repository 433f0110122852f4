import { amplitude } from '../../signal/decibels';
import { BandwiseProcessor, type BandWork } from '../bands/bandwise';
import { MAX_BAND_COUNT, type Crossovers } from '../bands/crossovers';
import type { StageContext, StageProcessor } from '../definition';
import { Dynamics } from '../dynamics';
import { GainRamp } from '../gain-ramp';
import { bandLimit, peakLimiterDesign } from './design';
import { PeakLimiter } from './peak-limiter';
import type { LimiterSettings } from './settings';
import { TransientEmphasis } from './transient-emphasis';

const RAMP_SECONDS = 0.02;

/** Limits each band separately. */
class BandLimits implements BandWork<LimiterSettings> {
  private readonly gains: Dynamics[];

  constructor(context: StageContext) {
    this.gains = Array.from({ length: MAX_BAND_COUNT }, () => new Dynamics(context));
  }

  works(): boolean {
    return true;
  }

  set(settings: LimiterSettings, before?: BandLimits): void {
    this.gains.forEach((gain, band) => gain.set(bandLimit(settings), before?.gains[band]));
  }

  process(band: number, pairs: number): void {
    this.gains[band].process(pairs, pairs);
  }
}

/** Emphasis of transients, input gain, limits of the bands, and the limiter of peaks. */
export class LimiterProcessor implements StageProcessor<LimiterSettings> {
  readonly latency: number;
  private readonly emphasis: TransientEmphasis;
  private readonly inputGain: GainRamp;
  private readonly bands: BandwiseProcessor<LimiterSettings, BandLimits> | null;
  private readonly peaks: PeakLimiter;
  private readonly outputGain: GainRamp;

  constructor(
    private readonly context: StageContext,
    settings: LimiterSettings,
  ) {
    const { kernels, sampleRate } = context;
    const rampFrames = Math.round(RAMP_SECONDS * sampleRate);
    const gain = amplitude(settings.inputGainDb);
    const even = this.listeningGain(settings);
    this.emphasis = new TransientEmphasis(context, settings);
    this.inputGain = new GainRamp(kernels, gain, gain, rampFrames);
    this.bands = settings.preLimited ? new BandwiseProcessor(context, () => new BandLimits(context), settings) : null;
    this.peaks = new PeakLimiter(context, peakLimiterDesign(settings));
    this.outputGain = new GainRamp(kernels, even, even, rampFrames);
    this.latency = (this.bands?.latency ?? 0) + this.peaks.latency;
  }

  update(settings: LimiterSettings, crossovers: Crossovers): boolean {
    if (settings.preLimited !== (this.bands !== null)) return false;
    if (!this.peaks.update(peakLimiterDesign(settings))) return false;
    if (this.bands && !this.bands.update(settings, crossovers)) return false;
    const gain = amplitude(settings.inputGainDb);
    const even = this.listeningGain(settings);
    this.emphasis.set(settings);
    this.inputGain.moveTo(gain, gain);
    this.outputGain.moveTo(even, even);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.emphasis.process(left, right, frames);
    this.inputGain.process(left, right, frames);
    this.bands?.process(left, right, frames);
    this.peaks.process(left, right, frames);
    this.outputGain.process(left, right, frames);
  }

  takeGainReduction(): number {
    return this.peaks.takeReduction();
  }

  /** Takes the input gain back out while listening, and only then. */
  private listeningGain({ listenEven, inputGainDb }: LimiterSettings): number {
    return listenEven && this.context.use === 'listening' ? amplitude(-inputGainDb) : 1;
  }
}
