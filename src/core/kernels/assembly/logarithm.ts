// Logarithm and power of two of pairs, for levels: good to 1e-9, which is far below what a gain can be heard by.

const EXPONENT_BITS: i64 = 52;
const MANTISSA = i64x2.splat(0x000f_ffff_ffff_ffff);
const ONE_BITS = i64x2.splat(0x3ff0_0000_0000_0000);
/** 2^52: a whole number added to it stands in the low bits. */
const WHOLE_BITS = i64x2.splat(0x4330_0000_0000_0000);
const WHOLE = f64x2.splat(4503599627370496);
const BIAS = f64x2.splat(4503599627370496 + 1023);
const ROOT_TWO = f64x2.splat(1.4142135623730951);

@inline
function multiplyAdd(a: v128, b: v128, c: v128): v128 {
  return f64x2.add(f64x2.mul(a, b), c);
}

/**
 * log2 of positive, normal numbers: the exponent, and of the mantissa m in [√½, √2) the series
 * 2/ln 2 · (t + t³/3 + t⁵/5 + …) in t = (m − 1) / (m + 1).
 */
@inline
export function log2(x: v128): v128 {
  const exponent = f64x2.sub(v128.or(i64x2.shr_u(x, <i32>EXPONENT_BITS), WHOLE_BITS), BIAS);
  const mantissa = v128.or(v128.and(x, MANTISSA), ONE_BITS);
  const upper = f64x2.gt(mantissa, ROOT_TWO);
  const one = f64x2.splat(1);
  const m = v128.bitselect(f64x2.mul(mantissa, f64x2.splat(0.5)), mantissa, upper);
  const t = f64x2.div(f64x2.sub(m, one), f64x2.add(m, one));
  const square = f64x2.mul(t, t);
  let series = f64x2.splat(2.8853900817779268 / 11);
  series = multiplyAdd(series, square, f64x2.splat(2.8853900817779268 / 9));
  series = multiplyAdd(series, square, f64x2.splat(2.8853900817779268 / 7));
  series = multiplyAdd(series, square, f64x2.splat(2.8853900817779268 / 5));
  series = multiplyAdd(series, square, f64x2.splat(2.8853900817779268 / 3));
  series = multiplyAdd(series, square, f64x2.splat(2.8853900817779268));
  return f64x2.add(f64x2.add(exponent, v128.and(upper, one)), f64x2.mul(series, t));
}

/** 2^x for |x| < 1000: a power of two, and the Taylor series of the rest in [−½, ½]; exactly 1 for 0. */
@inline
export function exp2(x: v128): v128 {
  const whole = f64x2.nearest(x);
  const f = f64x2.mul(f64x2.sub(x, whole), f64x2.splat(0.6931471805599453));
  let series = f64x2.splat(1.0 / 40320);
  series = multiplyAdd(series, f, f64x2.splat(1.0 / 5040));
  series = multiplyAdd(series, f, f64x2.splat(1.0 / 720));
  series = multiplyAdd(series, f, f64x2.splat(1.0 / 120));
  series = multiplyAdd(series, f, f64x2.splat(1.0 / 24));
  series = multiplyAdd(series, f, f64x2.splat(1.0 / 6));
  series = multiplyAdd(series, f, f64x2.splat(0.5));
  series = multiplyAdd(series, f, f64x2.splat(1));
  series = multiplyAdd(series, f, f64x2.splat(1));
  return f64x2.mul(series, i64x2.shl(f64x2.add(whole, BIAS), <i32>EXPONENT_BITS));
}
