import { QUANTUM } from '../../kernels/layout';
import { BandwiseProcessor, type BandWork } from '../bands/bandwise';
import { MAX_BAND_COUNT, type Crossovers } from '../bands/crossovers';
import type { StageContext, StageProcessor } from '../definition';
import { Handover, type Unit } from '../handover';
import type { OversamplingFactor, OversamplingPhase } from '../oversampler';
import { pathDesign } from './design';
import { Movement } from './movement';
import { SaturationPath } from './path';
import type { SaturationSettings } from './settings';

interface Rate {
  factor: OversamplingFactor;
  phase: OversamplingPhase;
}

/** The frame of the track with which the quantum starts that is processed now. */
interface Place {
  frame: number;
}

/** One setting of the saturation of the whole signal. */
class Whole implements Unit<SaturationSettings> {
  readonly path: SaturationPath;
  private readonly movement: Movement;
  private settings: SaturationSettings | null = null;

  constructor(
    private readonly context: StageContext,
    { factor, phase }: Rate,
    private readonly place: Place,
  ) {
    this.path = new SaturationPath(context, factor, phase);
    this.movement = new Movement(context.kernels, context.sampleRate);
  }

  set(settings: SaturationSettings, before?: Whole): void {
    this.settings = settings;
    this.path.set(pathDesign(settings, this.context.sampleRate, null), before?.path);
    if (before) this.movement.copy(before.movement);
  }

  process(left: number, right: number): void {
    this.movement.follow(this.settings!, left, right, this.place.frame);
    this.path.process(left, right, this.movement.shares);
  }
}

/** The saturation of each band by itself. */
class Bands implements BandWork<SaturationSettings> {
  private readonly paths: SaturationPath[];
  private readonly movements: Movement[];
  private readonly left: number;
  private readonly right: number;
  private settings: SaturationSettings | null = null;

  constructor(
    private readonly context: StageContext,
    { factor, phase }: Rate,
    private readonly place: Place,
  ) {
    const { kernels, sampleRate } = context;
    this.paths = Array.from({ length: MAX_BAND_COUNT }, () => new SaturationPath(context, factor, phase));
    this.movements = this.paths.map(() => new Movement(kernels, sampleRate));
    this.left = kernels.allocate(QUANTUM * 8);
    this.right = kernels.allocate(QUANTUM * 8);
  }

  get latency(): number {
    return this.paths[0].latency;
  }

  works({ mixPercent, bandAmountsPercent, makeupDb }: SaturationSettings, count: number): boolean {
    return makeupDb !== 0 || (mixPercent > 0 && bandAmountsPercent.slice(0, count).some((amount) => amount > 0));
  }

  set(settings: SaturationSettings, before?: Bands): void {
    this.settings = settings;
    this.paths.forEach((path, band) => {
      path.set(pathDesign(settings, this.context.sampleRate, band), before?.paths[band]);
      if (before) this.movements[band].copy(before.movements[band]);
    });
  }

  process(band: number, pairs: number): void {
    const { run } = this.context.kernels;
    const { left, right } = this;
    const movement = this.movements[band];
    run.toPlanar(pairs, left, right, QUANTUM);
    movement.follow(this.settings!, left, right, this.place.frame);
    this.paths[band].process(left, right, movement.shares);
    run.toPairs(left, right, pairs, QUANTUM);
  }
}

/** Saturation of the whole signal or of the lane's bands. */
export class SaturationProcessor implements StageProcessor<SaturationSettings> {
  readonly latency: number;
  private readonly rate: Rate;
  private readonly place: Place = { frame: 0 };
  private readonly whole: Handover<SaturationSettings, Whole> | null = null;
  private readonly bands: BandwiseProcessor<SaturationSettings, Bands> | null = null;

  constructor(
    private readonly context: StageContext,
    settings: SaturationSettings,
  ) {
    const rate = this.rateOf(settings);
    this.rate = rate;
    if (settings.split === 'bands') {
      this.bands = new BandwiseProcessor(context, () => new Bands(context, rate, this.place), settings);
      this.latency = this.bands.latency;
    } else {
      const first = new Whole(context, rate, this.place);
      this.whole = new Handover(context, first, new Whole(context, rate, this.place), settings);
      this.latency = first.path.latency;
    }
  }

  update(settings: SaturationSettings, crossovers: Crossovers): boolean {
    const { factor, phase } = this.rateOf(settings);
    if (factor !== this.rate.factor || phase !== this.rate.phase) return false;
    if ((settings.split === 'bands') !== (this.bands !== null)) return false;
    this.whole?.set(settings);
    return this.bands?.update(settings, crossovers) ?? true;
  }

  seek(frame: number): void {
    this.place.frame = frame;
  }

  /** In quanta, each with its place in the track. */
  process(left: number, right: number, frames: number): void {
    for (let done = 0; done < frames * 8; done += QUANTUM * 8) {
      this.whole?.process(left + done, right + done, QUANTUM);
      this.bands?.process(left + done, right + done, QUANTUM);
      this.place.frame += QUANTUM;
    }
  }

  takeGainReduction(): number {
    return 0;
  }

  private rateOf({ oversampling }: SaturationSettings): Rate {
    return { factor: oversampling[this.context.use], phase: oversampling.phase };
  }
}
