import { QUANTUM, SECTION_BYTES } from '../../kernels/layout';
import { IDENTITY } from '../../signal/biquad';
import { BandwiseProcessor, type Bandwise, type BandWork } from '../bands/bandwise';
import { MAX_BAND_COUNT, type Crossovers } from '../bands/crossovers';
import { MOST_SECTIONS } from '../equalizer/design';
import type { StageContext, StageProcessor } from '../definition';
import { Handover, type Unit } from '../handover';
import { clearSection, copySectionState, writeSection } from '../section';
import { commonWidth, inputMatrix, midSideGains, sideSections } from './design';
import type { StereoSettings } from './settings';

/** Two corners of the 4th order and a high-pass of the 8th. */
const SECTIONS = 3 * MOST_SECTIONS;

/** Trims, polarity, the balance of mid and side, a width that all bands share, and the filters of the side. */
class Placement implements Unit<Bandwise<StereoSettings>> {
  private readonly matrix: number;
  private readonly sections: number;
  private readonly list: number;
  /** Gains of mid and side before the sections. */
  private readonly gains: number;
  private count = 0;
  private moves = false;
  private balances = false;

  constructor(private readonly context: StageContext) {
    const { kernels } = context;
    this.matrix = kernels.allocate(32);
    this.sections = kernels.allocate(SECTIONS * SECTION_BYTES);
    this.list = kernels.allocate(SECTIONS * 4);
    this.gains = kernels.allocate(16);
  }

  set({ settings, crossovers }: Bandwise<StereoSettings>, before?: Placement): void {
    const { f64, u32 } = this.context.kernels;
    const matrix = inputMatrix(settings);
    const gains = midSideGains(settings, crossovers.frequenciesHz.length + 1);
    f64.set(matrix, this.matrix >> 3);
    f64.set(gains, this.gains >> 3);
    this.moves = matrix.some((gain, i) => gain !== (i === 0 || i === 3 ? 1 : 0));
    const sections = sideSections(settings, this.context.sampleRate);
    sections.forEach((section, i) => {
      const at = i * SECTION_BYTES;
      writeSection(f64, this.sections + at, IDENTITY, section);
      if (before && before.count === sections.length) copySectionState(f64, before.sections + at, this.sections + at);
      else clearSection(f64, this.sections + at);
      u32[(this.list >> 2) + i] = this.sections + at;
    });
    this.count = sections.length;
    this.balances = this.count > 0 || gains.some((gain) => gain !== 1);
  }

  process(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    if (this.moves) run.mix(this.matrix, left, right, frames);
    if (!this.balances) return;
    run.toMidSide(left, right, frames);
    run.cascade(this.list, this.count, 0, this.gains, left, right, frames);
    run.toLeftRight(left, right, frames);
  }
}

/** Width of each band: a gain of the side. */
class BandWidths implements BandWork<StereoSettings> {
  /** Gains of each channel from itself and from the other, by band. */
  private readonly own = new Float64Array(MAX_BAND_COUNT);
  private readonly other = new Float64Array(MAX_BAND_COUNT);

  constructor(private readonly context: StageContext) {}

  works(settings: StereoSettings, bands: number): boolean {
    return commonWidth(settings, bands) === null;
  }

  /** With the width w: left → (1 + w)/2 · left + (1 − w)/2 · right, and the same for right. */
  set({ widthsPercent }: StereoSettings): void {
    widthsPercent.forEach((percent, band) => {
      this.own[band] = (1 + percent / 100) / 2;
      this.other[band] = (1 - percent / 100) / 2;
    });
  }

  process(band: number, pairs: number): void {
    this.context.kernels.run.mixPairs(pairs, this.own[band], this.other[band], QUANTUM);
  }
}

/** Placement between the loudspeakers, then the width of each band. */
export class StereoProcessor implements StageProcessor<StereoSettings> {
  readonly latency: number;
  private readonly placement: Handover<Bandwise<StereoSettings>, Placement>;
  private readonly widths: BandwiseProcessor<StereoSettings, BandWidths>;

  constructor(context: StageContext, settings: StereoSettings) {
    const { crossovers } = context;
    this.placement = new Handover(context, new Placement(context), new Placement(context), { settings, crossovers });
    this.widths = new BandwiseProcessor(context, () => new BandWidths(context), settings);
    this.latency = this.widths.latency;
  }

  update(settings: StereoSettings, crossovers: Crossovers): boolean {
    if (!this.widths.update(settings, crossovers)) return false;
    this.placement.set({ settings, crossovers });
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.placement.process(left, right, frames);
    this.widths.process(left, right, frames);
  }

  takeGainReduction(): number {
    return 0;
  }
}
