// Fourier transform of complex f64 signals and products of their spectra. A complex number is an f64x2 (re, im).
// Twiddle factors w^k = e^(−2πik/size) are in one table for each size, k = 0 … 3·size/4 − 1.

const MINUS_RE = i64x2(i64.MIN_VALUE, 0);
const MINUS_IM = i64x2(0, i64.MIN_VALUE);

@inline
function swapped(a: v128): v128 {
  return v128.shuffle<f64>(a, a, 1, 0);
}

/** a · w, with w at an address. */
@inline
function times(a: v128, w: usize): v128 {
  const re = v128.load_splat<f64>(w), im = v128.load_splat<f64>(w, 8);
  return f64x2.add(f64x2.mul(a, re), v128.xor(f64x2.mul(swapped(a), im), MINUS_RE));
}

/** a · conj(w), with w at an address. */
@inline
function timesConjugate(a: v128, w: usize): v128 {
  const re = v128.load_splat<f64>(w), im = v128.load_splat<f64>(w, 8);
  return f64x2.add(f64x2.mul(a, re), v128.xor(f64x2.mul(swapped(a), im), MINUS_IM));
}

/** i · a */
@inline
function turned(a: v128): v128 {
  return v128.xor(swapped(a), MINUS_RE);
}

/**
 * In place, by decimation in frequency: natural order in, bit-reversed order out, not scaled. Two radix-2 passes in
 * one: (x0 ± x2), (x1 ± x3) are combined and rotated by w^2k, w^k and w^3k.
 */
export function forwardTransform(x: usize, size: usize, twiddles: usize): void {
  let half = size >> 1;
  let step: usize = 16;
  if (ctz(size) & 1) {
    const reach = half << 4;
    for (let a = x, w = twiddles; a < x + reach; a += 16, w += 16) {
      const u = v128.load(a), v = v128.load(a + reach);
      v128.store(a, f64x2.add(u, v));
      v128.store(a + reach, times(f64x2.sub(u, v), w));
    }
    half >>= 1;
    step <<= 1;
  }
  for (; half > 0; half >>= 2, step <<= 2) {
    const reach = half << 3;
    for (let group = x, end = x + (size << 4); group < end; group += reach << 2) {
      let w = twiddles, w2 = twiddles, w3 = twiddles;
      for (let a = group; a < group + reach; a += 16) {
        const x0 = v128.load(a), x1 = v128.load(a + reach);
        const x2 = v128.load(a + 2 * reach), x3 = v128.load(a + 3 * reach);
        const sum = f64x2.add(x0, x2), difference = f64x2.sub(x0, x2);
        const across = f64x2.add(x1, x3), turn = turned(f64x2.sub(x1, x3));
        v128.store(a, f64x2.add(sum, across));
        v128.store(a + reach, times(f64x2.sub(sum, across), w2));
        v128.store(a + 2 * reach, times(f64x2.sub(difference, turn), w));
        v128.store(a + 3 * reach, times(f64x2.add(difference, turn), w3));
        w += step;
        w2 += step << 1;
        w3 += step * 3;
      }
    }
  }
}

/** In place, by decimation in time: bit-reversed order in, natural order out, `size` times too large. */
export function inverseTransform(x: usize, size: usize, twiddles: usize): void {
  const odd = <bool>(ctz(size) & 1);
  let half: usize = 2;
  let step: usize = size << 2;
  for (; half <= size >> (odd ? 2 : 1); half <<= 2, step >>= 2) {
    const reach = half << 3;
    for (let group = x, end = x + (size << 4); group < end; group += reach << 2) {
      let w = twiddles, w2 = twiddles, w3 = twiddles;
      for (let a = group; a < group + reach; a += 16) {
        const y0 = v128.load(a), y1 = timesConjugate(v128.load(a + reach), w2);
        const y2 = timesConjugate(v128.load(a + 2 * reach), w), y3 = timesConjugate(v128.load(a + 3 * reach), w3);
        const sum = f64x2.add(y0, y1), difference = f64x2.sub(y0, y1);
        const across = f64x2.add(y2, y3), turn = turned(f64x2.sub(y2, y3));
        v128.store(a, f64x2.add(sum, across));
        v128.store(a + reach, f64x2.add(difference, turn));
        v128.store(a + 2 * reach, f64x2.sub(sum, across));
        v128.store(a + 3 * reach, f64x2.sub(difference, turn));
        w += step;
        w2 += step << 1;
        w3 += step * 3;
      }
    }
  }
  if (odd) {
    const reach = size << 3;
    for (let a = x, w = twiddles; a < x + reach; a += 16, w += 16) {
      const u = v128.load(a), v = timesConjugate(v128.load(a + reach), w);
      v128.store(a, f64x2.add(u, v));
      v128.store(a + reach, f64x2.sub(u, v));
    }
  }
}

/** sum[k] += x[k] · h[k] */
export function addProduct(sum: usize, x: usize, h: usize, size: usize): void {
  for (let i: usize = 0, end = size << 4; i < end; i += 16) {
    v128.store(sum + i, f64x2.add(v128.load(sum + i), times(v128.load(x + i), h + i)));
  }
}

/** out[k] = conj(x[−k]), the spectrum of the conjugate signal; `mirror` holds the places of −k (u32). */
export function conjugated(x: usize, out: usize, mirror: usize, size: usize): void {
  for (let k: usize = 0; k < size; k++) {
    v128.store(out + (k << 4), v128.xor(v128.load(x + (<usize>load<u32>(mirror + (k << 2)) << 4)), MINUS_IM));
  }
}
