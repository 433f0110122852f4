import { decibels } from '../signal/decibels';

/** The two kinds of quasi-peak meters (IEC 60268-10; from memory). */
export const PPM_TYPES = ['I', 'II'] as const;
export type PpmType = (typeof PPM_TYPES)[number];

/** How quickly an indication rises, and how it falls. */
interface Ballistics {
  /** Time constant in seconds in which a wave above the indication draws it up. */
  riseSeconds: number;
  /** It falls by so many dB in so many seconds. */
  fallDb: number;
  fallSeconds: number;
}

/**
 * Rise such that a burst of 5 ms (type I) or 10 ms (type II) reads 2 dB less than a steady tone, fall by 20 dB in 1.7 s or
 * 24 dB in 2.8 s (IEC 60268-10; from memory).
 */
const BALLISTICS: Record<PpmType, Ballistics> = {
  I: { riseSeconds: 0.001358, fallDb: 20, fallSeconds: 1.7 },
  II: { riseSeconds: 0.00277, fallDb: 24, fallSeconds: 2.8 },
};

/** dB by which a steady sine, of whatever frequency, reads less than its peak: the fall between its peaks outweighs the rise. */
const STEADY_LOSS_DB: Record<PpmType, number> = { I: 0.176, II: 0.237 };

/** A quasi-peak programme meter: it follows peaks that last, and falls slowly. A steady sine reads its peak level. */
export class PpmMeter {
  private readonly rise: number;
  private readonly fall: number;
  /** What a steady sine reads before the scale is set to its level: it falls a little between its peaks. */
  private readonly scale: number;
  private indication = 0;

  /** `sampleRate` in Hz. */
  constructor(type: PpmType, sampleRate: number) {
    const { riseSeconds, fallDb, fallSeconds } = BALLISTICS[type];
    this.rise = 1 - Math.exp(-1 / (riseSeconds * sampleRate));
    this.fall = 10 ** (-fallDb / (20 * fallSeconds * sampleRate));
    this.scale = 10 ** (STEADY_LOSS_DB[type] / 20);
  }

  /** Takes some samples of one channel. */
  add(samples: Float32Array | Float64Array): void {
    const { rise, fall } = this;
    let { indication } = this;
    for (let i = 0; i < samples.length; i++) {
      const level = Math.abs(samples[i]);
      indication *= fall;
      if (level > indication) indication += (level - indication) * rise;
    }
    this.indication = indication > 1e-15 && Number.isFinite(indication) ? indication : 0;
  }

  /** dBFS that a steady sine would have which reads the same. */
  get levelDbfs(): number {
    return decibels(this.scale * this.indication);
  }
}
