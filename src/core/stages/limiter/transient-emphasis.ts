import * as layout from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import { amplitude } from '../../signal/decibels';
import type { Biquad } from '../../signal/biquad';
import type { StageContext } from '../definition';
import { bandSections } from '../equalizer/design';
import { equalizerBand } from '../equalizer/settings';
import { SectionList } from '../section-list';
import { EMPHASIS_OPEN_HZ, type LimiterSettings } from './settings';

const FALL_MS = 15;
const SLOW_MS = 40;
const SMOOTH_MS = 0.7;
/**
 * The amount rises and falls over this time, and a new band is followed for this time before anything of it is raised.
 */
const RAMP_SECONDS = 0.06;
const SETTLE_SECONDS = 0.12;
/** A high-pass and a low-pass of the 2nd order, each of up to three sections. */
const SECTIONS = 6;

type Context = Pick<StageContext, 'kernels' | 'sampleRate'>;
export type EmphasisSettings = Pick<LimiterSettings, 'emphasisDb' | 'emphasisLowHz' | 'emphasisHighHz'>;

/** The filters of the band in which transients are raised; none while it is open. */
function bandFilters({ emphasisLowHz, emphasisHighHz }: EmphasisSettings, sampleRate: number): Biquad[] {
  const sections = (shape: 'highPass' | 'lowPass', frequencyHz: number) =>
    bandSections(equalizerBand.parse({ shape, frequencyHz, slopeDbPerOctave: 12 }), sampleRate);
  return [
    ...(emphasisLowHz > EMPHASIS_OPEN_HZ.low ? sections('highPass', emphasisLowHz) : []),
    ...(emphasisHighHz < EMPHASIS_OPEN_HZ.high ? sections('lowPass', emphasisHighHz) : []),
  ];
}

/**
 * Raises transients in a band, in both channels equally: where its level jumps above what it was over the last 40 ms. A
 * change of the band waits until nothing is raised, when the band is not heard.
 */
export class TransientEmphasis {
  private readonly state: number;
  private readonly filters: SectionList;
  /** Whether the whole signal is the band. */
  private open = true;
  /** The band that is to be heard; null when it is the one that is. */
  private wanted: EmphasisSettings | null = null;
  private most: number;
  /** The amount as the kernel has it, on its way to the target. */
  private mostNow: number;
  private readonly stepQuanta: number;
  private readonly settleQuanta: number;
  /** Quanta until the levels of the band have settled. */
  private settling = 0;
  /** The band, raised, and the band as it was, to be taken out. */
  private readonly raised: [left: number, right: number];
  private readonly plain: [left: number, right: number];
  private readonly minus: number;

  constructor(
    private readonly context: Context,
    private settings: EmphasisSettings,
  ) {
    const { kernels, sampleRate } = context;
    this.state = kernels.allocate(layout.EMPH_BYTES);
    const share = (ms: number) => 1 - arithmetic().exp((-1000 * layout.EMPH_LOOK_FRAMES) / (ms * sampleRate));
    this.value(layout.EMPH_FALL, share(FALL_MS));
    this.value(layout.EMPH_SLOW, share(SLOW_MS));
    this.value(layout.EMPH_SMOOTH, share(SMOOTH_MS));
    this.value(layout.EMPH_GAIN, 1);
    this.most = amplitude(settings.emphasisDb) - 1;
    this.mostNow = this.most;
    this.value(layout.EMPH_MOST, this.most);
    this.value(layout.EMPH_MOST_NOW, this.most);
    this.stepQuanta = Math.ceil((RAMP_SECONDS * sampleRate) / layout.QUANTUM);
    this.settleQuanta = Math.ceil((SETTLE_SECONDS * sampleRate) / layout.QUANTUM);
    this.filters = new SectionList(kernels, SECTIONS);
    this.takeBand(settings);
    const pair = (): [number, number] => [kernels.allocate(layout.QUANTUM * 8), kernels.allocate(layout.QUANTUM * 8)];
    this.raised = pair();
    this.plain = pair();
    this.minus = kernels.allocate(layout.GAIN_BYTES);
    kernels.f64.fill(-1, this.minus >> 3, (this.minus >> 3) + 2);
  }

  set(settings: EmphasisSettings): void {
    const { emphasisDb, emphasisLowHz, emphasisHighHz } = this.settings;
    if (settings.emphasisLowHz !== emphasisLowHz || settings.emphasisHighHz !== emphasisHighHz) this.wanted = settings;
    // The levels were not followed while nothing was raised.
    if (emphasisDb === 0 && this.resting) this.settling = this.settleQuanta;
    this.settings = settings;
    this.most = amplitude(settings.emphasisDb) - 1;
  }

  process(left: number, right: number, frames: number): void {
    if (this.settings.emphasisDb === 0 && this.resting) return;
    const { run } = this.context.kernels;
    // In quanta, at whose ends what is too small is cleared.
    for (let done = 0; done < frames * 8; done += layout.QUANTUM * 8) {
      this.follow();
      if (this.open) run.emphasis(this.state, left + done, right + done, layout.QUANTUM);
      else this.processBand(left + done, right + done);
    }
  }

  /** Whether nothing is raised, nor will be. */
  private get resting(): boolean {
    return this.mostNow === 0 && this.context.kernels.f64[(this.state + layout.EMPH_MOST_NOW) >> 3] === 0;
  }

  /** Moves the amount towards where it is wanted, and changes the band when it is not heard. */
  private follow(): void {
    if (this.wanted && this.resting) {
      this.takeBand(this.wanted);
      this.wanted = null;
      this.settling = this.settleQuanta;
    }
    const target = this.wanted || this.settling > 0 ? 0 : this.most;
    if (this.settling > 0) this.settling--;
    if (this.mostNow === target) return;
    const step = amplitude(6) / this.stepQuanta;
    this.mostNow =
      target > this.mostNow ? Math.min(target, this.mostNow + step) : Math.max(target, this.mostNow - step);
    this.value(layout.EMPH_MOST, this.mostNow);
  }

  private takeBand(settings: EmphasisSettings): void {
    const filters = bandFilters(settings, this.context.sampleRate);
    this.filters.set(filters);
    this.open = filters.length === 0;
  }

  /** x + (raised band − band), one quantum. */
  private processBand(left: number, right: number): void {
    const { run } = this.context.kernels;
    const { raised, plain } = this;
    run.copy(left, raised[0], layout.QUANTUM);
    run.copy(right, raised[1], layout.QUANTUM);
    this.filters.process(raised[0], raised[1], layout.QUANTUM);
    run.copy(raised[0], plain[0], layout.QUANTUM);
    run.copy(raised[1], plain[1], layout.QUANTUM);
    run.gain(this.minus, plain[0], plain[1], layout.QUANTUM);
    run.emphasis(this.state, raised[0], raised[1], layout.QUANTUM);
    run.add(left, right, raised[0], raised[1], layout.QUANTUM);
    run.add(left, right, plain[0], plain[1], layout.QUANTUM);
  }

  private value(field: number, value: number): void {
    this.context.kernels.f64[(this.state + field) >> 3] = value;
  }
}
