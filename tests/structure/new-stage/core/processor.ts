import type { StageContext, StageProcessor } from '../definition';
import { GainRamp } from '../gain-ramp';
import type { PolaritySettings } from './settings';

const sign = (inverted: boolean) => (inverted ? -1 : 1);

export class PolarityProcessor implements StageProcessor<PolaritySettings> {
  readonly latency = 0;
  private readonly ramp: GainRamp;

  constructor({ kernels, sampleRate }: StageContext, { left, right }: PolaritySettings) {
    this.ramp = new GainRamp(kernels, sign(left), sign(right), Math.round(0.02 * sampleRate));
  }

  update({ left, right }: PolaritySettings): boolean {
    this.ramp.moveTo(sign(left), sign(right));
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.ramp.process(left, right, frames);
  }

  takeGainReduction(): number {
    return 0;
  }
}
