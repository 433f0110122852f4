/** Complex radix-2 transform of one size, in place. The sign of the exponent is negative; nothing is scaled. */
export class Fft {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  private readonly reversed: Uint32Array;

  /** `size` is a power of two. */
  constructor(readonly size: number) {
    this.cosines = Float64Array.from({ length: size / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / size));
    this.sines = Float64Array.from({ length: size / 2 }, (_, k) => -Math.sin((2 * Math.PI * k) / size));
    const bits = Math.log2(size);
    this.reversed = Uint32Array.from({ length: size }, (_, i) => {
      let r = 0;
      for (let b = 0; b < bits; b++) r |= ((i >> b) & 1) << (bits - 1 - b);
      return r;
    });
  }

  transform(real: Float64Array, imaginary: Float64Array): void {
    const { size, cosines, sines, reversed } = this;
    for (let i = 0; i < size; i++) {
      const r = reversed[i];
      if (r <= i) continue;
      const re = real[i];
      real[i] = real[r];
      real[r] = re;
      const im = imaginary[i];
      imaginary[i] = imaginary[r];
      imaginary[r] = im;
    }
    for (let half = 1; half < size; half *= 2) {
      const stride = size / (2 * half);
      for (let start = 0; start < size; start += 2 * half) {
        for (let k = 0; k < half; k++) {
          const c = cosines[k * stride];
          const s = sines[k * stride];
          const a = start + k;
          const b = a + half;
          const r = real[b] * c - imaginary[b] * s;
          const i = real[b] * s + imaginary[b] * c;
          real[b] = real[a] - r;
          imaginary[b] = imaginary[a] - i;
          real[a] += r;
          imaginary[a] += i;
        }
      }
    }
  }
}

/**
 * Periodic Hann window, (1 − cos(2πn/N)) / 2: its mean is 1/2.
 * @example
 * hann(4) // [0, 0.5, 1, 0.5]
 */
export function hann(size: number): Float64Array {
  return Float64Array.from({ length: size }, (_, k) => 0.5 - 0.5 * Math.cos((2 * Math.PI * k) / size));
}
