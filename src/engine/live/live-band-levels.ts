import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { BandLevelMeter } from '../../core/measure/band-levels';
import type { Crossovers } from '../../core/stages/bands/crossovers';

/** Levels of the lane's bands before the stage that is open, in memory of its own. */
export class LiveBandLevels {
  private readonly kernels = new Kernels();
  private readonly left = this.kernels.allocate(QUANTUM * 8);
  private readonly right = this.kernels.allocate(QUANTUM * 8);
  private readonly meter: BandLevelMeter;

  constructor(
    sampleRate: number,
    readonly crossovers: Crossovers,
  ) {
    this.meter = new BandLevelMeter(this.kernels, sampleRate, crossovers);
  }

  /** One quantum. */
  add(left: Float64Array, right: Float64Array): void {
    const { f64 } = this.kernels;
    for (let i = 0; i < QUANTUM; i++) {
      f64[(this.left >> 3) + i] = left[i];
      f64[(this.right >> 3) + i] = right[i];
    }
    this.meter.add(this.left, this.right, QUANTUM);
  }

  /** Highest sample of each band since the last call, in dBFS. */
  take(): number[] {
    return this.meter.take();
  }
}
