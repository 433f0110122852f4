import * as layout from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import { amplitude } from '../../signal/decibels';
import type { StageContext } from '../definition';
import { bandSections } from '../equalizer/design';
import { equalizerBand } from '../equalizer/settings';
import { Handover, type Unit } from '../handover';
import { SectionList } from '../section-list';
import { EMPHASIS_OPEN_HZ, type LimiterSettings } from './settings';

const FALL_MS = 15;
const SLOW_MS = 40;
const SMOOTH_MS = 0.7;
/** A high-pass and a low-pass of the 2nd order, each of up to three sections. */
const SECTIONS = 6;

type Context = Pick<StageContext, 'kernels' | 'sampleRate' | 'maxFrames'>;
export type EmphasisSettings = Pick<LimiterSettings, 'emphasisDb' | 'emphasisLowHz' | 'emphasisHighHz'>;

/** Passes the band in which transients are raised; everything while it is open. */
class EmphasisBand implements Unit<EmphasisSettings> {
  private readonly filters: SectionList;

  constructor(private readonly context: Context) {
    this.filters = new SectionList(context.kernels, SECTIONS);
  }

  set({ emphasisLowHz, emphasisHighHz }: EmphasisSettings, before?: EmphasisBand): void {
    const sections = (shape: 'highPass' | 'lowPass', frequencyHz: number) =>
      bandSections(equalizerBand.parse({ shape, frequencyHz, slopeDbPerOctave: 12 }), this.context.sampleRate);
    this.filters.set(
      [
        ...(emphasisLowHz > EMPHASIS_OPEN_HZ.low ? sections('highPass', emphasisLowHz) : []),
        ...(emphasisHighHz < EMPHASIS_OPEN_HZ.high ? sections('lowPass', emphasisHighHz) : []),
      ],
      before?.filters,
    );
  }

  process(left: number, right: number, frames: number): void {
    this.filters.process(left, right, frames);
  }
}

/** Whether transients are raised in the whole signal. */
function isOpen({ emphasisLowHz, emphasisHighHz }: EmphasisSettings): boolean {
  return emphasisLowHz <= EMPHASIS_OPEN_HZ.low && emphasisHighHz >= EMPHASIS_OPEN_HZ.high;
}

/** Raises transients in a band, both channels alike: where its level jumps above what it was over the last 40 ms. */
export class TransientEmphasis {
  private readonly state: number;
  private readonly band: Handover<EmphasisSettings, EmphasisBand>;
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
    this.band = new Handover(context, new EmphasisBand(context), new EmphasisBand(context), settings);
    const pair = (): [number, number] => [
      kernels.allocate(layout.QUANTUM * 8),
      kernels.allocate(layout.QUANTUM * 8),
    ];
    this.raised = pair();
    this.plain = pair();
    this.minus = kernels.allocate(layout.GAIN_BYTES);
    kernels.f64.fill(-1, this.minus >> 3, (this.minus >> 3) + 2);
    this.value(layout.EMPH_MOST, amplitude(settings.emphasisDb) - 1);
    this.value(layout.EMPH_MOST_NOW, amplitude(settings.emphasisDb) - 1);
  }

  /** Changes are smoothed. */
  set(settings: EmphasisSettings): void {
    const { emphasisLowHz, emphasisHighHz } = this.settings;
    if (settings.emphasisLowHz !== emphasisLowHz || settings.emphasisHighHz !== emphasisHighHz) this.band.set(settings);
    this.settings = settings;
    this.value(layout.EMPH_MOST, amplitude(settings.emphasisDb) - 1);
  }

  process(left: number, right: number, frames: number): void {
    const { f64, run } = this.context.kernels;
    // While nothing is raised, and what was has come back, there is nothing to do.
    if (this.settings.emphasisDb === 0 && f64[(this.state + layout.EMPH_MOST_NOW) >> 3] === 0) return;
    const whole = isOpen(this.settings) && this.band.resting;
    // In quanta, at whose ends what is too small is cleared.
    for (let done = 0; done < frames * 8; done += layout.QUANTUM * 8) {
      if (whole) run.emphasis(this.state, left + done, right + done, layout.QUANTUM);
      else this.processBand(left + done, right + done);
    }
  }

  /** x + (raised band − band), one quantum. */
  private processBand(left: number, right: number): void {
    const { run } = this.context.kernels;
    const { raised, plain } = this;
    run.copy(left, raised[0], layout.QUANTUM);
    run.copy(right, raised[1], layout.QUANTUM);
    this.band.process(raised[0], raised[1], layout.QUANTUM);
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
