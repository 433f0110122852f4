// Fourier transform of complex f64 signals and products of their spectra. A complex number is an f64x2 (re, im).
// Twiddle factor k of a table of size N, e^(−2πik/N), is stored as two f64x2: (re, re) and (−im, im).

@inline
function swapped(a: v128): v128 {
  return v128.shuffle<f64>(a, a, 1, 0);
}

@inline
function times(a: v128, re: v128, im: v128): v128 {
  return f64x2.add(f64x2.mul(a, re), f64x2.mul(swapped(a), im));
}

/**
 * In place, by decimation in frequency: natural order in, bit-reversed order out, not scaled. The table is that of a
 * transform `stride` times as large.
 */
export function forwardTransform(x: usize, size: usize, twiddles: usize, stride: usize): void {
  for (let half = size >> 1, step = stride << 5; half > 0; half >>= 1, step <<= 1) {
    const reach = half << 4;
    for (let group = x, end = x + (size << 4); group < end; group += reach << 1) {
      let w = twiddles;
      for (let a = group; a < group + reach; a += 16, w += step) {
        const u = v128.load(a), v = v128.load(a + reach);
        v128.store(a, f64x2.add(u, v));
        v128.store(a + reach, times(f64x2.sub(u, v), v128.load(w), v128.load(w, 16)));
      }
    }
  }
}

/** In place, by decimation in time: bit-reversed order in, natural order out, `size` times too large. */
export function inverseTransform(x: usize, size: usize, twiddles: usize, stride: usize): void {
  for (let half: usize = 1, step = stride * (size >> 1) << 5; half < size; half <<= 1, step >>= 1) {
    const reach = half << 4;
    for (let group = x, end = x + (size << 4); group < end; group += reach << 1) {
      let w = twiddles;
      for (let a = group; a < group + reach; a += 16, w += step) {
        const u = v128.load(a), v = times(v128.load(a + reach), v128.load(w), f64x2.neg(v128.load(w, 16)));
        v128.store(a, f64x2.add(u, v));
        v128.store(a + reach, f64x2.sub(u, v));
      }
    }
  }
}

@inline
function product(a: v128, b: v128): v128 {
  const im = v128.shuffle<f64>(b, b, 1, 1);
  return times(a, v128.shuffle<f64>(b, b, 0, 0), f64x2.replace_lane(im, 0, -f64x2.extract_lane(im, 0)));
}

/** sum[k] += x[k] · h[k] */
export function addProduct(sum: usize, x: usize, h: usize, size: usize): void {
  for (let i: usize = 0, end = size << 4; i < end; i += 16) {
    v128.store(sum + i, f64x2.add(v128.load(sum + i), product(v128.load(x + i), v128.load(h + i))));
  }
}

/** sum[k] += conj(x[−k]) · h[k]: the product with the spectrum of the conjugate signal; `mirror` holds the places of −k (u32). */
export function addConjugateProduct(sum: usize, x: usize, h: usize, mirror: usize, size: usize): void {
  for (let k: usize = 0; k < size; k++) {
    const i = k << 4;
    const at = v128.load(x + (<usize>load<u32>(mirror + (k << 2)) << 4));
    const conjugate = f64x2.replace_lane(at, 1, -f64x2.extract_lane(at, 1));
    v128.store(sum + i, f64x2.add(v128.load(sum + i), product(conjugate, v128.load(h + i))));
  }
}
