// Logarithm and power of two of pairs, for levels: good to 1e-9, which is far below what a gain can be heard by.

import { multiplyAdd } from './pairs';

const EXPONENT_BITS: i32 = 52;
/** Read from memory, where a constant costs one load: a literal would be rebuilt each time. */
const MASKS = memory.data<i64>([0x000f_ffff_ffff_ffff, 0x3ff0_0000_0000_0000, 0x4330_0000_0000_0000], 16);
const MANTISSA: usize = 0, ONE_BITS: usize = 8;
/** 2^52: a whole number added to it ends up in the low bits. */
const WHOLE_BITS: usize = 16;
const NUMBERS = memory.data<f64>([1, 0.5, 1.4142135623730951, 4503599627370496 + 1023, 0.6931471805599453], 16);
const ONE: usize = 0, HALF: usize = 8, ROOT_TWO: usize = 16, BIAS: usize = 24, LN_TWO: usize = 32;
/** 2 / (ln 2 · n) for n = 11, 9, … 1. */
const LOG_SERIES = memory.data<f64>([
  0.26230818925253875, 0.32059889797532525, 0.4121985831111324, 0.5770780163555854, 0.9617966939259756, 2.8853900817779268,
], 16);
/** 1 / n! for n = 8, 7, … 2. */
const EXP_SERIES = memory.data<f64>([
  2.48015873015873e-5, 1.984126984126984e-4, 1.388888888888889e-3, 8.333333333333333e-3, 4.1666666666666664e-2,
  0.16666666666666666, 0.5,
], 16);

@inline
function at(table: usize, offset: usize): v128 {
  return v128.load_splat<f64>(table + offset);
}

/**
 * log2 of positive, normal numbers: the exponent, and of the mantissa m in [√½, √2) the series 2/ln 2 · (t + t³/3 +
 * t⁵/5 + …) in t = (m − 1) / (m + 1).
 */
@inline
export function log2(x: v128): v128 {
  const exponent = f64x2.sub(v128.or(i64x2.shr_u(x, EXPONENT_BITS), at(MASKS, WHOLE_BITS)), at(NUMBERS, BIAS));
  const mantissa = v128.or(v128.and(x, at(MASKS, MANTISSA)), at(MASKS, ONE_BITS));
  const upper = f64x2.gt(mantissa, at(NUMBERS, ROOT_TWO));
  const one = at(NUMBERS, ONE);
  // Halved where it is above √2.
  const m = f64x2.mul(mantissa, f64x2.sub(one, v128.and(upper, at(NUMBERS, HALF))));
  const t = f64x2.div(f64x2.sub(m, one), f64x2.add(m, one));
  // Pairs of terms first: a shorter way through the processor than one term after the other.
  const square = f64x2.mul(t, t), fourth = f64x2.mul(square, square);
  const high = multiplyAdd(at(LOG_SERIES, 0), square, at(LOG_SERIES, 8));
  const middle = multiplyAdd(at(LOG_SERIES, 16), square, at(LOG_SERIES, 24));
  const low = multiplyAdd(at(LOG_SERIES, 32), square, at(LOG_SERIES, 40));
  const series = multiplyAdd(multiplyAdd(high, fourth, middle), fourth, low);
  return f64x2.add(f64x2.add(exponent, v128.and(upper, one)), f64x2.mul(series, t));
}

/** 2^x for |x| < 1000: a power of two, and the Taylor series of the rest in [−½, ½]; exactly 1 for 0. */
@inline
export function exp2(x: v128): v128 {
  const whole = f64x2.nearest(x);
  const f = f64x2.mul(f64x2.sub(x, whole), at(NUMBERS, LN_TWO));
  const one = at(NUMBERS, ONE), square = f64x2.mul(f, f), fourth = f64x2.mul(square, square);
  const seventh = multiplyAdd(at(EXP_SERIES, 0), f, at(EXP_SERIES, 8)), fifth = multiplyAdd(at(EXP_SERIES, 16), f, at(EXP_SERIES, 24));
  const third = multiplyAdd(at(EXP_SERIES, 32), f, at(EXP_SERIES, 40)), first = multiplyAdd(at(EXP_SERIES, 48), f, one);
  // 1 + f · (…), so that 0 gives exactly 1.
  const upper = multiplyAdd(seventh, square, fifth), lower = multiplyAdd(third, square, first);
  const series = multiplyAdd(multiplyAdd(upper, fourth, lower), f, one);
  return f64x2.mul(series, i64x2.shl(f64x2.add(whole, at(NUMBERS, BIAS)), EXPONENT_BITS));
}
