import { QUANTUM } from '../../kernels/layout';
import { amplitude } from '../../signal/decibels';
import { BandwiseProcessor, type BandWork } from '../bands/bandwise';
import { MAX_BAND_COUNT, type Crossovers } from '../bands/crossovers';
import type { StageContext, StageProcessor } from '../definition';
import { Dynamics } from '../dynamics';
import { bandDesigns, works } from './design';
import type { BandDynamicsSettings } from './settings';

const KINDS = 3;

/** The gains of all bands: expansion, then compression, then limiting. */
class BandGains implements BandWork<BandDynamicsSettings> {
  /** By band. */
  private readonly gains: Dynamics[][];
  private readonly active = Array.from({ length: MAX_BAND_COUNT }, () => [false, false, false]);
  private readonly makeup = new Float64Array(MAX_BAND_COUNT).fill(1);

  constructor(private readonly context: StageContext) {
    this.gains = Array.from({ length: MAX_BAND_COUNT }, () =>
      Array.from({ length: KINDS }, () => new Dynamics(context)),
    );
  }

  works({ bands }: BandDynamicsSettings, count: number): boolean {
    return bands.slice(0, count).some(works);
  }

  set({ bands, linkPercent }: BandDynamicsSettings, before?: BandGains): void {
    bands.forEach((band, b) => {
      this.makeup[b] = band.on ? amplitude(band.makeupDb) : 1;
      bandDesigns(band, linkPercent / 100).forEach((design, kind) => {
        this.active[b][kind] = design !== null;
        if (design) this.gains[b][kind].set(design, before?.active[b][kind] ? before.gains[b][kind] : undefined);
      });
    });
  }

  process(band: number, pairs: number): void {
    const gains = this.gains[band];
    const active = this.active[band];
    for (let kind = 0; kind < KINDS; kind++) if (active[kind]) gains[kind].process(pairs, pairs);
    const makeup = this.makeup[band];
    if (makeup !== 1) this.context.kernels.run.mixPairs(pairs, makeup, 0, QUANTUM);
  }

  /** Largest reduction of a band in dB since the last call: what its three gains took together at most. */
  takeReduction(band: number): number {
    let sum = 0;
    for (let kind = 0; kind < KINDS; kind++) if (this.active[band][kind]) sum += this.gains[band][kind].takeReduction();
    return sum;
  }
}

/** Expansion, compression and limiting in each band of the lane. */
export class BandDynamicsProcessor implements StageProcessor<BandDynamicsSettings> {
  readonly latency: number;
  private readonly bands: BandwiseProcessor<BandDynamicsSettings, BandGains>;
  private readonly reductions: number[];

  constructor(context: StageContext, settings: BandDynamicsSettings) {
    this.bands = new BandwiseProcessor(context, () => new BandGains(context), settings);
    this.latency = this.bands.latency;
    this.reductions = new Array<number>(context.crossovers.frequenciesHz.length + 1).fill(0);
  }

  update(settings: BandDynamicsSettings, crossovers: Crossovers): boolean {
    if (!this.bands.update(settings, crossovers)) return false;
    this.reductions.length = crossovers.frequenciesHz.length + 1;
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.bands.process(left, right, frames);
  }

  takeGainReduction(): number {
    for (let band = 0; band < this.reductions.length; band++)
      this.reductions[band] = this.bands.heard.takeReduction(band);
    return Math.max(0, ...this.reductions);
  }

  bandReductions(): number[] {
    return [...this.reductions];
  }
}
