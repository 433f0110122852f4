import type { StageContext, StageProcessor } from '../definition';
import { Handover, type Unit } from '../handover';
import { MovingBand } from '../moving-band';
import { deEsserDesign } from './design';
import type { DeEsserSettings } from './settings';

/** One setting of the de-esser. */
class SibilantBand implements Unit<DeEsserSettings> {
  private readonly band: MovingBand;
  private active = false;
  private midSide = false;

  constructor(private readonly context: StageContext) {
    this.band = new MovingBand(context);
  }

  set(settings: DeEsserSettings, before?: SibilantBand): void {
    const design = deEsserDesign(settings, this.context.sampleRate);
    this.active = design !== null;
    this.midSide = settings.part !== 'stereo';
    if (design) this.band.set(design, before?.active ? before.band : undefined);
  }

  process(left: number, right: number, frames: number): void {
    if (!this.active) return;
    const { run } = this.context.kernels;
    if (this.midSide) run.toMidSide(left, right, frames);
    this.band.process(left, right, frames);
    if (this.midSide) run.toLeftRight(left, right, frames);
  }

  takeMost(): number {
    return this.active ? this.band.takeMost() : 0;
  }
}

/** Reduces sibilants when they come too close to the level of the whole signal. */
export class DeEsserProcessor implements StageProcessor<DeEsserSettings> {
  readonly latency = 0;
  private readonly bands: Handover<DeEsserSettings, SibilantBand>;

  constructor(context: StageContext, settings: DeEsserSettings) {
    this.bands = new Handover(context, new SibilantBand(context), new SibilantBand(context), settings);
  }

  update(settings: DeEsserSettings): boolean {
    this.bands.set(settings);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.bands.process(left, right, frames);
  }

  takeGainReduction(): number {
    return this.bands.heard.takeMost();
  }
}
