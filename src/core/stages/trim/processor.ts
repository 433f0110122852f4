import { amplitude } from '../../signal/decibels';
import type { StageContext, StageProcessor } from '../definition';
import { GainRamp } from '../gain-ramp';
import type { TrimSettings } from './settings';

/** Seconds a gain takes to arrive. */
const RAMP_SECONDS = 0.02;

function gains(settings: TrimSettings): [left: number, right: number] {
  const { linked, gainDb, gainLeftDb, gainRightDb } = settings;
  return linked ? [amplitude(gainDb), amplitude(gainDb)] : [amplitude(gainLeftDb), amplitude(gainRightDb)];
}

/** Gain of both channels, linked or apart. */
export class TrimProcessor implements StageProcessor<TrimSettings> {
  readonly latency = 0;
  private readonly ramp: GainRamp;

  constructor({ kernels, sampleRate }: StageContext, settings: TrimSettings) {
    this.ramp = new GainRamp(kernels, ...gains(settings), Math.round(RAMP_SECONDS * sampleRate));
  }

  update(settings: TrimSettings): boolean {
    this.ramp.moveTo(...gains(settings));
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.ramp.process(left, right, frames);
  }

  takeGainReduction(): number {
    return 0;
  }
}
