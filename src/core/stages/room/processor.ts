import { QUANTUM } from '../../kernels/layout';
import { amplitude } from '../../signal/decibels';
import { DelayLine } from '../delay-line';
import type { ImpulseResponse, StageContext, StageProcessor } from '../definition';
import { describe } from '../setting';
import { bandSections } from '../equalizer/design';
import { equalizerBand } from '../equalizer/settings';
import { Handover, type Unit } from '../handover';
import { LongConvolver } from './long-convolver';
import { SectionList } from '../section-list';
import { roomSettings, WET_OFF_DB, type RoomSettings } from './settings';
import { synthesisedImpulse } from './synthesis';

/** A high-pass and a low-pass of the 2nd order, each of up to three sections. */
const SECTIONS = 6;

/** The impulse response that the settings name. Throws an Error with a sentence when it is not there. */
export function roomImpulse(
  { impulse, file }: RoomSettings,
  sampleRate: number,
  impulses: ReadonlyMap<string, ImpulseResponse>,
): ImpulseResponse {
  if (impulse !== 'file') return synthesisedImpulse(impulse, sampleRate);
  const found = impulses.get(file ?? '');
  if (!found) throw new Error(`The impulse response “${file}” is missing: upload it again, or choose another room.`);
  return found;
}

/** What is done to the wet sound: delay, filters and level. */
class WetSound implements Unit<RoomSettings> {
  private readonly delay: DelayLine;
  private readonly filters: SectionList;

  constructor(private readonly context: StageContext) {
    const { kernels, sampleRate } = context;
    this.delay = new DelayLine(context, preDelayFrames(describe(roomSettings.shape.preDelayMs).max, sampleRate));
    this.filters = new SectionList(kernels, SECTIONS);
  }

  set({ wetDb, preDelayMs, highPassHz, lowPassHz }: RoomSettings, before?: WetSound): void {
    const { sampleRate } = this.context;
    this.delay.set(preDelayFrames(preDelayMs, sampleRate), before?.delay);
    const sections = (shape: 'highPass' | 'lowPass', frequencyHz: number) =>
      bandSections(equalizerBand.parse({ shape, frequencyHz, slopeDbPerOctave: 12 }), sampleRate);
    this.filters.set(
      [...sections('highPass', highPassHz), ...sections('lowPass', lowPassHz)],
      before?.filters,
      wetDb <= WET_OFF_DB ? 0 : amplitude(wetDb),
    );
  }

  process(left: number, right: number, frames: number): void {
    this.delay.process(left, right, frames);
    this.filters.process(left, right, frames);
  }
}

function preDelayFrames(ms: number, sampleRate: number): number {
  return Math.round((ms * sampleRate) / 1000);
}

/** A room by convolution, plus the dry sound. */
export class RoomProcessor implements StageProcessor<RoomSettings> {
  readonly latency = LongConvolver.LATENCY;
  private readonly convolver: LongConvolver;
  private readonly wet: Handover<RoomSettings, WetSound>;
  private readonly dry: DelayLine;
  private readonly wetLeft: number;
  private readonly wetRight: number;
  private readonly heard: string;

  constructor(
    private readonly context: StageContext,
    settings: RoomSettings,
  ) {
    const { kernels, sampleRate, impulses } = context;
    const response = roomImpulse(settings, sampleRate, impulses);
    this.heard = nameOf(settings);
    this.convolver = new LongConvolver(kernels, sampleRate, response);
    this.dry = new DelayLine(context, this.latency);
    this.wet = new Handover(context, new WetSound(context), new WetSound(context), settings);
    this.wetLeft = kernels.allocate(context.maxFrames * 8);
    this.wetRight = kernels.allocate(context.maxFrames * 8);
  }

  /** Another response needs another convolution. */
  update(settings: RoomSettings): boolean {
    if (nameOf(settings) !== this.heard) return false;
    this.wet.set(settings);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    const { run, f64 } = this.context.kernels;
    const { wetLeft, wetRight } = this;
    f64.copyWithin(wetLeft >> 3, left >> 3, (left >> 3) + frames);
    f64.copyWithin(wetRight >> 3, right >> 3, (right >> 3) + frames);
    this.dry.process(left, right, frames);
    for (let done = 0; done < frames; done += QUANTUM) this.convolver.process(wetLeft + done * 8, wetRight + done * 8);
    this.wet.process(wetLeft, wetRight, frames);
    run.add(left, right, wetLeft, wetRight, frames);
  }

  takeGainReduction(): number {
    return 0;
  }
}

function nameOf({ impulse, file }: RoomSettings): string {
  return impulse === 'file' ? `file ${file}` : impulse;
}
