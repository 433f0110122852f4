import { arithmetic } from '../signal/arithmetic';
import type { Kernels } from './host';

/** Bytes of a complex number, of a twiddle factor. */
export const COMPLEX_BYTES = 16;
const TWIDDLE_BYTES = 32;

/** Position of each index when its bits are read backwards; `size` is a power of two. */
export function bitReversed(size: number): Uint32Array {
  const bits = 31 - Math.clz32(size);
  return Uint32Array.from({ length: size }, (_, i) => {
    let reversed = 0;
    for (let b = 0; b < bits; b++) reversed |= ((i >> b) & 1) << (bits - 1 - b);
    return reversed;
  });
}

/**
 * Fourier transforms of complex signals (re, im as f64 pairs) in the kernels' memory, up to a size. Spectra stand in
 * bit-reversed order.
 */
export class Transform {
  private readonly twiddles: number;

  /** `size`, the largest, is a power of two. */
  constructor(
    private readonly kernels: Kernels,
    private readonly size: number,
  ) {
    const { f64 } = kernels;
    const { cos, sin } = arithmetic();
    this.twiddles = kernels.allocate((size / 2) * TWIDDLE_BYTES);
    for (let k = 0; k < size / 2; k++) {
      const at = (this.twiddles + k * TWIDDLE_BYTES) >> 3;
      const angle = (-2 * Math.PI * k) / size;
      f64.fill(cos(angle), at, at + 2);
      f64[at + 2] = -sin(angle);
      f64[at + 3] = sin(angle);
    }
  }

  /** In place: natural order in, bit-reversed order out, not scaled. */
  forward(address: number, size: number): void {
    this.kernels.run.forwardTransform(address, size, this.twiddles, this.size / size);
  }

  /** In place: bit-reversed order in, natural order out, `size` times too large. */
  inverse(address: number, size: number): void {
    this.kernels.run.inverseTransform(address, size, this.twiddles, this.size / size);
  }
}
