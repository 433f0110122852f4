import { Kernels } from '../kernels/host';
import { bitReversed, COMPLEX_BYTES, Transform } from '../kernels/transform';
import { powerDecibels } from '../signal/decibels';
import { hann } from '../signal/fft';

/** Third-octaves by the exact base-ten centres (IEC 61260-1; from memory), from 25 Hz to 20 kHz. */
const [FIRST, LAST] = [-16, 13];
export const THIRD_OCTAVES_HZ: readonly number[] = Array.from(
  { length: LAST - FIRST + 1 },
  (_, i) => 1000 * 10 ** ((FIRST + i) / 10),
);
const HALF_STEP = 10 ** 0.05;

/** Points of a window at up to 48 kHz, so that the lowest third-octave has bins of its own; more at higher rates. */
const RESOLUTION_HZ = 3;

/** One third-octave of a whole programme. */
export interface BalanceBand {
  /** Level of both channels together, dBFS (of sines of the same power); −infinity for silence, and beyond the rate. */
  levelDbfs: number;
  /** Side against mid, in dB: −infinity in mono, 0 for independent channels. */
  sideDb: number;
  /** −1 … 1; 1 for silence. */
  correlation: number;
}

/** Balance, width and correlation of a whole programme by third-octaves ({@link THIRD_OCTAVES_HZ}). */
export class BalanceMeter {
  private readonly size: number;
  private readonly window: Float64Array;
  private readonly transform: Transform;
  private readonly reversed: Uint32Array;
  private readonly address: number;
  private readonly work: Float64Array;
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private readonly common: Float64Array;
  private filled = 0;
  private windows = 0;

  /** `sampleRate` in Hz; `kernels` whose memory it uses, left out: its own. */
  constructor(
    private readonly sampleRate: number,
    kernels = new Kernels(),
  ) {
    this.size = 2 ** Math.ceil(Math.log2(sampleRate / RESOLUTION_HZ));
    this.window = hann(this.size);
    this.transform = new Transform(kernels, this.size);
    this.reversed = bitReversed(this.size);
    this.address = kernels.allocate(this.size * COMPLEX_BYTES);
    this.work = kernels.view64(this.address, 2 * this.size);
    this.left = new Float64Array(this.size / 2);
    this.right = new Float64Array(this.size / 2);
    this.common = new Float64Array(this.size / 2);
  }

  /** Takes some frames of planar channels. */
  add(left: Float32Array | Float64Array, right: Float32Array | Float64Array): void {
    const { work, window, size } = this;
    for (let i = 0; i < left.length; i++) {
      const weight = window[this.filled];
      work[2 * this.filled] = left[i] * weight;
      work[2 * this.filled + 1] = right[i] * weight;
      if (++this.filled === size) this.flush();
    }
  }

  /** Both channels are transformed as one complex signal and told apart by symmetry. */
  private flush(): void {
    const { work, reversed, size } = this;
    work.fill(0, 2 * this.filled);
    this.filled = 0;
    this.transform.forward(this.address);
    for (let k = 1; k < size / 2; k++) {
      const a = 2 * reversed[k];
      const b = 2 * reversed[size - k];
      const leftReal = (work[a] + work[b]) / 2;
      const leftImaginary = (work[a + 1] - work[b + 1]) / 2;
      const rightReal = (work[a + 1] + work[b + 1]) / 2;
      const rightImaginary = (work[b] - work[a]) / 2;
      this.left[k] += leftReal * leftReal + leftImaginary * leftImaginary;
      this.right[k] += rightReal * rightReal + rightImaginary * rightImaginary;
      this.common[k] += leftReal * rightReal + leftImaginary * rightImaginary;
    }
    this.windows++;
  }

  /** One reading for each third-octave. */
  result(): BalanceBand[] {
    // A window that is cut off smears what is in it; it counts only where there is no other.
    if (this.windows === 0) this.flush();
    // A sine of full scale leaves a quarter of the window's length in its bin, and half as much again beside it.
    const unit = (this.size / 4) ** 2 * 1.5 * Math.max(1, this.windows);
    return THIRD_OCTAVES_HZ.map((hz) => {
      const bin = (frequency: number) => Math.round((frequency * this.size) / this.sampleRate);
      const [from, to] = [bin(hz / HALF_STEP), Math.min(bin(hz * HALF_STEP), this.size / 2)];
      let [l, r, common] = [0, 0, 0];
      for (let k = from; k < to; k++) {
        l += this.left[k];
        r += this.right[k];
        common += this.common[k];
      }
      const product = Math.sqrt(l * r);
      return {
        levelDbfs: powerDecibels((l + r) / 2 / unit),
        sideDb: powerDecibels(Math.max(0, l + r - 2 * common) / (l + r + 2 * common)),
        correlation: product > 0 ? common / product : 1,
      };
    });
  }
}

/** Level of one balance above another in dB by third-octaves, at equal loudness; null where either has nothing. */
export function balanceDifference(
  of: { bands: readonly BalanceBand[]; integratedLufs: number },
  against: { bands: readonly BalanceBand[]; integratedLufs: number },
): (number | null)[] {
  const louder = of.integratedLufs - against.integratedLufs;
  return of.bands.map(({ levelDbfs }, i) => {
    const difference = levelDbfs - against.bands[i].levelDbfs - louder;
    return Number.isFinite(difference) ? difference : null;
  });
}
