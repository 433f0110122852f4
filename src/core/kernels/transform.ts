import { arithmetic } from '../signal/arithmetic';
import type { Kernels } from './host';

export const COMPLEX_BYTES = 16;

/** Keeps what was computed for each size: a lane that is rebuilt while it plays must not wait for it. */
function remembered<T>(make: (size: number) => T): (size: number) => T {
  const made = new Map<number, T>();
  return (size) => {
    const known = made.get(size) ?? make(size);
    made.set(size, known);
    return known;
  };
}

/** Position of each index when its bits are read backwards; `size` is a power of two. */
export const bitReversed = remembered((size): Uint32Array => {
  const bits = 31 - Math.clz32(size);
  return Uint32Array.from({ length: size }, (_, i) => {
    let reversed = 0;
    for (let b = 0; b < bits; b++) reversed |= ((i >> b) & 1) << (bits - 1 - b);
    return reversed;
  });
});

/** e^(−2πik/size) for k = 0 … 3·size/4 − 1, as pairs. */
export const twiddleFactors = remembered((size): Float64Array => {
  const { cos, sin } = arithmetic();
  const factors = new Float64Array((3 * size) / 2);
  for (let k = 0; k < (3 * size) / 4; k++) {
    const angle = (-2 * Math.PI * k) / size;
    factors[2 * k] = cos(angle);
    factors[2 * k + 1] = sin(angle);
  }
  return factors;
});

/**
 * Fourier transform of complex signals (re, im as f64 pairs) of one size in the kernels' memory. Spectra are in
 * bit-reversed order.
 */
export class Transform {
  private readonly twiddles: number;

  /** `size` is a power of two, at least 4. */
  constructor(
    private readonly kernels: Kernels,
    readonly size: number,
  ) {
    const factors = twiddleFactors(size);
    this.twiddles = kernels.allocate(factors.byteLength);
    kernels.view64(this.twiddles, factors.length).set(factors);
  }

  /** In place: natural order in, bit-reversed order out, not scaled. */
  forward(address: number): void {
    this.kernels.run.forwardTransform(address, this.size, this.twiddles);
  }

  /** In place: bit-reversed order in, natural order out, `size` times too large. */
  inverse(address: number): void {
    this.kernels.run.inverseTransform(address, this.size, this.twiddles);
  }
}
