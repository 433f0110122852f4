// Left and right of one frame as an f64x2, read from and written to planar f64 buffers.

@inline
export function loadPair(left: usize, right: usize): v128 {
  return v128.load_lane<f64>(right, v128.load_zero<f64>(left), 1);
}

@inline
export function storePair(left: usize, right: usize, pair: v128): void {
  v128.store_lane<f64>(left, pair, 0);
  v128.store_lane<f64>(right, pair, 1);
}

/**
 * Zeroes values too small to be heard, and NaN, in a recursive state: neither JavaScript nor WebAssembly
 * flushes denormals, and a filter fed with silence would run many times slower.
 */
@inline
export function settled(state: v128): v128 {
  const size = f64x2.abs(state);
  return v128.and(state, v128.and(f64x2.gt(size, f64x2.splat(1e-30)), f64x2.lt(size, f64x2.splat(1e30))));
}

/** a · b + c */
@inline
export function multiplyAdd(a: v128, b: v128, c: v128): v128 {
  return f64x2.add(f64x2.mul(a, b), c);
}
