import { BLOCK_STEP_HOPS, integratedLoudness, MOMENTARY_HOPS } from '../../core/measure/loudness-statistics';
import type { LoudnessMeter } from '../../core/measure/loudness';

/** 400 ms blocks kept for the integrated loudness of what was played: an hour. */
const BLOCKS = 36000;

/** Integrated loudness of what passes a meter, gathered as it plays. */
export class PlayedLoudness {
  private readonly blocks = new Float64Array(BLOCKS);
  private count = 0;
  private hops = 0;

  clear(hops: number): void {
    this.count = 0;
    this.hops = hops;
  }

  follow(meter: LoudnessMeter): void {
    while (meter.hopCount >= this.hops + BLOCK_STEP_HOPS) {
      this.hops += BLOCK_STEP_HOPS;
      if (this.hops >= MOMENTARY_HOPS && this.count < BLOCKS)
        this.blocks[this.count++] = meter.meanEnergy(MOMENTARY_HOPS);
    }
  }

  integrated(): number {
    return integratedLoudness(this.blocks.subarray(0, this.count));
  }
}
