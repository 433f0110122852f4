import { Fft, hann } from '../../../core/signal/fft';

/** Frames of a window: as long as the lowest band needs. */
const SIZE = 4096;
/** Share of a new window in what is shown: about a third of a second. */
const NEW_SHARE = 0.12;

/** Where the bands meet, in Hz. */
export const CORRELATION_EDGES_HZ = [120, 500, 2000, 6000] as const;
export const CORRELATION_BANDS = ['below 120 Hz', '120–500 Hz', '0.5–2 kHz', '2–6 kHz', 'above 6 kHz'] as const;

/** Correlation of left and right by bands, from rings with mid and side; smoothed from picture to picture. */
export class BandCorrelations {
  private readonly fft = new Fft(SIZE);
  private readonly window = hann(SIZE);
  private readonly real = new Float64Array(SIZE);
  private readonly imaginary = new Float64Array(SIZE);
  /** Of each band: power of left, of right, and what they have in common. */
  private readonly sums = CORRELATION_BANDS.map(() => [0, 0, 0]);

  /** Takes the window that ends before frame `end` of the rings. */
  update(mid: Float32Array, side: Float32Array, end: number, sampleRate: number): void {
    const { real, imaginary, window } = this;
    for (let i = 0; i < SIZE; i++) {
      const at = (end - SIZE + i + 2 * mid.length) % mid.length;
      real[i] = (mid[at] + side[at]) * window[i];
      imaginary[i] = (mid[at] - side[at]) * window[i];
    }
    this.fft.transform(real, imaginary);
    for (const sums of this.sums) for (let i = 0; i < 3; i++) sums[i] *= 1 - NEW_SHARE;
    for (let k = 1; k < SIZE / 2; k++) {
      const m = SIZE - k;
      const [lr, li] = [(real[k] + real[m]) / 2, (imaginary[k] - imaginary[m]) / 2];
      const [rr, ri] = [(imaginary[k] + imaginary[m]) / 2, (real[m] - real[k]) / 2];
      const hz = (k * sampleRate) / SIZE;
      const band = CORRELATION_EDGES_HZ.findIndex((edge) => hz < edge);
      const sums = this.sums[band < 0 ? CORRELATION_EDGES_HZ.length : band];
      sums[0] += NEW_SHARE * (lr * lr + li * li);
      sums[1] += NEW_SHARE * (rr * rr + ri * ri);
      sums[2] += NEW_SHARE * (lr * rr + li * ri);
    }
  }

  /** −1 … 1 for each band; null where there is nothing. */
  values(): (number | null)[] {
    return this.sums.map(([l, r, common]) => {
      const product = Math.sqrt(l * r);
      return product > 1e-9 ? common / product : null;
    });
  }
}
