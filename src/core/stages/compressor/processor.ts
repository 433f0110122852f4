import { DelayLine } from '../delay-line';
import type { StageContext, StageProcessor } from '../definition';
import { Dynamics } from '../dynamics';
import { Exchange, type Unit } from '../exchange';
import { compressorDesign } from './design';
import type { CompressorSettings } from './settings';

function lookAheadFrames({ lookAheadMs }: CompressorSettings, sampleRate: number): number {
  return Math.round((lookAheadMs * sampleRate) / 1000);
}

/** One setting of the compressor. */
class Compressor implements Unit<CompressorSettings> {
  private readonly dynamics: Dynamics;
  private readonly delay: DelayLine;
  /** What is listened to, while it is ahead of what is worked on. */
  private readonly key: [left: number, right: number];
  private midSide = false;

  constructor(
    private readonly context: StageContext,
    private readonly ahead: number,
  ) {
    const { kernels, maxFrames } = context;
    this.dynamics = new Dynamics(context);
    this.delay = new DelayLine(context, ahead);
    this.key = [kernels.allocate(maxFrames * 8), kernels.allocate(maxFrames * 8)];
  }

  set(settings: CompressorSettings, before?: Compressor): void {
    this.midSide = settings.operation !== 'stereo';
    this.dynamics.set(compressorDesign(settings, this.context.sampleRate), before?.dynamics);
    if (before) this.delay.set(this.ahead, before.delay);
  }

  process(left: number, right: number, frames: number): void {
    const { run, f64 } = this.context.kernels;
    const [keyLeft, keyRight] = this.ahead > 0 ? this.key : [left, right];
    if (this.ahead > 0) {
      f64.copyWithin(keyLeft >> 3, left >> 3, (left >> 3) + frames);
      f64.copyWithin(keyRight >> 3, right >> 3, (right >> 3) + frames);
      this.delay.process(left, right, frames);
    }
    if (this.midSide) {
      run.toMidSide(left, right, frames);
      if (this.ahead > 0) run.toMidSide(keyLeft, keyRight, frames);
    }
    this.dynamics.process(keyLeft, keyRight, left, right, frames);
    if (this.midSide) run.toLeftRight(left, right, frames);
  }

  takeReduction(): number {
    return this.dynamics.takeReduction();
  }
}

/** Compression of the whole programme, in the manner of one of four circuits. */
export class CompressorProcessor implements StageProcessor<CompressorSettings> {
  readonly latency: number;
  private readonly compressors: Exchange<CompressorSettings, Compressor>;

  constructor(
    private readonly context: StageContext,
    settings: CompressorSettings,
  ) {
    this.latency = lookAheadFrames(settings, context.sampleRate);
    const compressor = () => new Compressor(context, this.latency);
    this.compressors = new Exchange(context, compressor(), compressor(), settings);
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
