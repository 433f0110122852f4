import type { Kernels } from '../kernels/host';
import { bitReversed, COMPLEX_BYTES, Transform, twiddleFactors } from '../kernels/transform';
import { arithmetic } from '../signal/arithmetic';

/** Share of the response at each end that is faded. */
const TAPER = 1 / 16;

/** Makes impulse responses that are symmetric in time from spectra without phase. */
export class ZeroPhaseDesign {
  /** Address of the spectrum, then of the response: complex. */
  readonly work: number;
  /** sin²(ω/2) of each frequency up to half the sample rate. */
  readonly squares: Float64Array;
  private readonly transform: Transform;
  private readonly reversed: Uint32Array;
  private readonly taper: Float64Array;

  /** `taps`, the length of the response, is a power of two. */
  constructor(
    private readonly kernels: Kernels,
    private readonly taps: number,
  ) {
    this.transform = new Transform(kernels, taps);
    this.work = kernels.allocate(taps * COMPLEX_BYTES);
    this.reversed = bitReversed(taps);
    const half = taps / 2;
    const factors = twiddleFactors(2 * taps);
    this.squares = Float64Array.from({ length: half + 1 }, (_, k) => factors[2 * k + 1] ** 2);
    const faded = taps * TAPER;
    // The tap at −half has no partner at +half and stays out, so that the response is symmetric.
    this.taper = Float64Array.from({ length: half }, (_, lag) =>
      lag < half - faded ? 1 : 0.5 + 0.5 * arithmetic().cos((Math.PI * (lag - (half - faded))) / faded),
    );
  }

  /** Sets the spectrum at bin `k`, up to half the taps, and at its mirror image. */
  write(k: number, re: number, im: number): void {
    const { f64 } = this.kernels;
    const at = this.work >> 3;
    for (const place of [this.reversed[k], this.reversed[(this.taps - k) % this.taps]]) {
      f64[at + 2 * place] = re;
      f64[at + 2 * place + 1] = im;
    }
  }

  inverse(): void {
    this.transform.inverse(this.work);
  }

  /** Scales the response, moves lag 0 to the middle, and fades its ends. */
  centre(): void {
    const { f64 } = this.kernels;
    const at = this.work >> 3;
    const half = this.taps / 2;
    const scale = 1 / this.taps;
    for (let lag = 0; lag < half; lag++) {
      for (const part of [0, 1]) {
        const early = at + 2 * lag + part;
        const late = at + 2 * (lag + half) + part;
        const after = f64[early] * scale * this.taper[lag];
        // The value at taps − n is the response at −n; it goes to half − n.
        const before = lag === 0 ? 0 : f64[late] * scale * this.taper[half - lag];
        f64[early] = before;
        f64[late] = after;
      }
    }
  }
}
