import { QUANTUM } from '../../kernels/layout';
import { DelayLine } from '../delay-line';
import type { StageContext } from '../definition';
import { Handover, type Unit } from '../handover';
import { BandSplitter, makeBands, PAIRS_BYTES } from './band-splitter';
import type { Crossovers } from './crossovers';
import { LinearBandSplitter } from './linear-band-splitter';

/** Settings of a stage together with the lane's crossovers. */
export interface Bandwise<Settings> {
  settings: Settings;
  crossovers: Crossovers;
}

/** What a stage does to its bands once they are split. */
export interface BandWork<Settings> {
  /** Frames by which a band is late after it; left out: 0. */
  readonly latency?: number;
  set(settings: Settings, before?: this): void;
  /** Whether the settings change anything in any of the first `bands` bands: if not, nothing is split. */
  works(settings: Settings, bands: number): boolean;
  /** Works on one quantum of pairs of a band in place. */
  process(band: number, pairs: number): void;
}

/** One setting of a band-wise stage with its own splitter, or with the bands of a splitter of linear phase. */
class BandUnit<Settings, Work extends BandWork<Settings>> implements Unit<Bandwise<Settings>> {
  private readonly splitter: BandSplitter | null;
  private readonly bands: number[];
  private readonly whole: number;
  /** What passes while nothing works is as late as what is used. */
  private readonly idle: DelayLine | null;
  private working = false;
  private count = 0;

  constructor(
    private readonly context: StageContext,
    readonly work: Work,
    private readonly shared: number[] | null,
  ) {
    this.splitter = shared ? null : new BandSplitter(context);
    this.bands = makeBands(context);
    this.whole = context.kernels.allocate(PAIRS_BYTES);
    this.idle = work.latency ? new DelayLine(context, work.latency) : null;
  }

  set({ settings, crossovers }: Bandwise<Settings>, before?: this): void {
    this.count = crossovers.frequenciesHz.length + 1;
    this.working = this.work.works(settings, this.count);
    this.work.set(settings, before?.work);
    this.splitter?.set(crossovers, before?.working ? (before.splitter ?? undefined) : undefined);
  }

  process(left: number, right: number, frames: number): void {
    if (!this.working) return this.idle?.process(left, right, frames);
    const { run, f64 } = this.context.kernels;
    const { bands, whole, shared, splitter, count, work } = this;
    for (let done = 0; done < frames * 8; done += QUANTUM * 8) {
      if (splitter) {
        run.toPairs(left + done, right + done, whole, QUANTUM);
        splitter.split(whole, bands, QUANTUM);
      }
      for (let i = 0; i < count; i++) {
        if (shared) f64.copyWithin(bands[i] >> 3, shared[i] >> 3, (shared[i] + PAIRS_BYTES) >> 3);
        work.process(i, bands[i]);
        if (i > 0) run.addPairs(bands[0], bands[i], QUANTUM);
      }
      run.toPlanar(bands[0], left + done, right + done, QUANTUM);
    }
  }
}

/**
 * Splits by the lane's crossovers, lets a stage work on each band, and sums. Nothing is split while the stage does nothing,
 * so that it passes the signal untouched then.
 */
export class BandwiseProcessor<Settings, Work extends BandWork<Settings>> {
  readonly latency: number;
  private readonly linear: LinearBandSplitter | null;
  private readonly shared: number[] | null;
  private readonly units: Handover<Bandwise<Settings>, BandUnit<Settings, Work>>;

  constructor(context: StageContext, makeWork: () => Work, settings: Settings) {
    const { crossovers } = context;
    this.linear = crossovers.phase === 'linear' ? new LinearBandSplitter(context, crossovers) : null;
    this.shared = this.linear ? makeBands(context) : null;
    const unit = () => new BandUnit<Settings, Work>(context, makeWork(), this.shared);
    this.units = new Handover(context, unit(), unit(), { settings, crossovers });
    this.latency = (this.linear?.latency ?? 0) + (this.units.heard.work.latency ?? 0);
  }

  /** What works on the bands that are heard. */
  get heard(): Work {
    return this.units.heard.work;
  }

  /** False when another latency, or another number of bands in linear phase, is asked for. */
  update(settings: Settings, crossovers: Crossovers): boolean {
    if ((crossovers.phase === 'linear') !== (this.linear !== null)) return false;
    if (this.linear && this.linear.count !== crossovers.frequenciesHz.length + 1) return false;
    this.linear?.set(crossovers);
    this.units.set({ settings, crossovers });
    return true;
  }

  process(left: number, right: number, frames: number): void {
    if (!this.linear) return this.units.process(left, right, frames);
    for (let done = 0; done < frames; done += QUANTUM) {
      this.linear.split(left + done * 8, right + done * 8, this.shared!);
      this.linear.delayed(left + done * 8, right + done * 8);
      this.units.process(left + done * 8, right + done * 8, QUANTUM);
    }
  }
}
