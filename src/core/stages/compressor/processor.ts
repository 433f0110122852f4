import { QUANTUM } from '../../kernels/layout';
import { PAIRS_BYTES } from '../bands/band-splitter';
import { DelayLine } from '../delay-line';
import type { StageContext, StageProcessor } from '../definition';
import { Dynamics } from '../dynamics';
import { Handover, type Unit } from '../handover';
import { compressorDesign } from './design';
import type { CompressorSettings } from './settings';

function lookAheadFrames({ lookAheadMs }: CompressorSettings, sampleRate: number): number {
  return Math.round((lookAheadMs * sampleRate) / 1000);
}

/** One setting of the compressor. */
class Compressor implements Unit<CompressorSettings> {
  private readonly dynamics: Dynamics;
  private readonly delay: DelayLine;
  private readonly pairs: number;
  /** What is listened to; before what is used when there is a look-ahead. */
  private readonly key: number;
  private midSide = false;

  constructor(
    private readonly context: StageContext,
    private readonly ahead: number,
  ) {
    this.dynamics = new Dynamics(context);
    this.delay = new DelayLine(context, ahead);
    this.pairs = context.kernels.allocate(PAIRS_BYTES);
    this.key = ahead > 0 ? context.kernels.allocate(PAIRS_BYTES) : this.pairs;
  }

  set(settings: CompressorSettings, before?: Compressor): void {
    this.midSide = settings.operation !== 'stereo';
    this.dynamics.set(compressorDesign(settings, this.context.sampleRate), before?.dynamics);
    if (before) this.delay.set(this.ahead, before.delay);
  }

  process(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    for (let at = 0; at < frames * 8; at += QUANTUM * 8) {
      if (this.ahead > 0) {
        this.read(left + at, right + at, this.key);
        this.delay.process(left + at, right + at, QUANTUM);
      }
      this.read(left + at, right + at, this.pairs);
      this.dynamics.process(this.key, this.pairs);
      if (this.midSide) run.sumsOfPairs(this.pairs, 1, QUANTUM);
      run.toPlanar(this.pairs, left + at, right + at, QUANTUM);
    }
  }

  /** As pairs of left and right, or of mid and side. */
  private read(left: number, right: number, pairs: number): void {
    const { run } = this.context.kernels;
    run.toPairs(left, right, pairs, QUANTUM);
    if (this.midSide) run.sumsOfPairs(pairs, 0.5, QUANTUM);
  }

  takeReduction(): number {
    return this.dynamics.takeReduction();
  }
}

/** Compression of the whole track, in the manner of one of four circuits. */
export class CompressorProcessor implements StageProcessor<CompressorSettings> {
  readonly latency: number;
  private readonly compressors: Handover<CompressorSettings, Compressor>;

  constructor(
    private readonly context: StageContext,
    settings: CompressorSettings,
  ) {
    this.latency = lookAheadFrames(settings, context.sampleRate);
    const compressor = () => new Compressor(context, this.latency);
    this.compressors = new Handover(context, compressor(), compressor(), settings);
  }

  update(settings: CompressorSettings): boolean {
    if (lookAheadFrames(settings, this.context.sampleRate) !== this.latency) return false;
    this.compressors.set(settings);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.compressors.process(left, right, frames);
  }

  takeGainReduction(): number {
    return this.compressors.heard.takeReduction();
  }
}
