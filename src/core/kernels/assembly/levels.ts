// Gains and sums of stereo blocks in f64.
import { GAIN_BEND, GAIN_NOW, GAIN_STEP } from '../layout';
import { loadPair, storePair } from './pairs';

/** Inverts the sign of the second value of a pair. */
const MINUS_SECOND = i64x2(0, i64.MIN_VALUE);

/** x[i] *= gain for both channels. */
export function gain(s: usize, left: usize, right: usize, frames: usize): void {
  const g = v128.load_splat<f64>(s + GAIN_NOW), h = v128.load_splat<f64>(s + GAIN_NOW + 8);
  const end = (frames & ~1) << 3;
  for (let i: usize = 0; i < end; i += 16) {
    v128.store(left + i, f64x2.mul(v128.load(left + i), g));
    v128.store(right + i, f64x2.mul(v128.load(right + i), h));
  }
  if (frames & 1) {
    store<f64>(left + end, load<f64>(left + end) * f64x2.extract_lane(g, 0));
    store<f64>(right + end, load<f64>(right + end) * f64x2.extract_lane(h, 0));
  }
}

/** x[i] *= gain, gain += step, step += bend for both channels: the gain moves along a parabola. */
export function movingGain(s: usize, left: usize, right: usize, frames: usize): void {
  let g = v128.load(s, GAIN_NOW), step = v128.load(s, GAIN_STEP);
  const bend = v128.load(s, GAIN_BEND);
  for (let i: usize = 0, end = frames << 3; i < end; i += 8) {
    storePair(left + i, right + i, f64x2.mul(loadPair(left + i, right + i), g));
    g = f64x2.add(g, step);
    step = f64x2.add(step, bend);
  }
  v128.store(s, g, GAIN_NOW);
  v128.store(s, step, GAIN_STEP);
}

/** x[i] += (other[i] − x[i]) * gain for both channels, while the gain moves along a parabola. */
export function crossfade(s: usize, left: usize, right: usize, otherLeft: usize, otherRight: usize, frames: usize): void {
  let g = v128.load(s, GAIN_NOW), step = v128.load(s, GAIN_STEP);
  const bend = v128.load(s, GAIN_BEND);
  for (let i: usize = 0, end = frames << 3; i < end; i += 8) {
    const x = loadPair(left + i, right + i);
    storePair(left + i, right + i, f64x2.add(x, f64x2.mul(f64x2.sub(loadPair(otherLeft + i, otherRight + i), x), g)));
    g = f64x2.add(g, step);
    step = f64x2.add(step, bend);
  }
  v128.store(s, g, GAIN_NOW);
  v128.store(s, step, GAIN_STEP);
}

/** x[i] += other[i] for both channels; frames a multiple of 2. */
export function add(left: usize, right: usize, otherLeft: usize, otherRight: usize, frames: usize): void {
  for (let i: usize = 0, end = frames << 3; i < end; i += 16) {
    v128.store(left + i, f64x2.add(v128.load(left + i), v128.load(otherLeft + i)));
    v128.store(right + i, f64x2.add(v128.load(right + i), v128.load(otherRight + i)));
  }
}

/** left, right → a·left + b·right, c·left + d·right, with the matrix as four f64; frames a multiple of 2. */
export function mix(matrix: usize, left: usize, right: usize, frames: usize): void {
  const a = v128.load_splat<f64>(matrix), b = v128.load_splat<f64>(matrix + 8);
  const c = v128.load_splat<f64>(matrix + 16), d = v128.load_splat<f64>(matrix + 24);
  for (let i: usize = 0, end = frames << 3; i < end; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i);
    v128.store(left + i, f64x2.add(f64x2.mul(a, l), f64x2.mul(b, r)));
    v128.store(right + i, f64x2.add(f64x2.mul(c, l), f64x2.mul(d, r)));
  }
}

/** Planar left and right as pairs. */
export function toPairs(left: usize, right: usize, pairs: usize, frames: usize): void {
  for (let i: usize = 0; i < frames; i++) v128.store(pairs + (i << 4), loadPair(left + (i << 3), right + (i << 3)));
}

/** Pairs as planar left and right. */
export function toPlanar(pairs: usize, left: usize, right: usize, frames: usize): void {
  for (let i: usize = 0; i < frames; i++) storePair(left + (i << 3), right + (i << 3), v128.load(pairs + (i << 4)));
}

/** x[i] += other[i] for pairs. */
export function addPairs(pairs: usize, other: usize, frames: usize): void {
  for (let i: usize = 0, end = frames << 4; i < end; i += 16) {
    v128.store(pairs + i, f64x2.add(v128.load(pairs + i), v128.load(other + i)));
  }
}

/** x[i] = own · x[i] + other · x[i] with its channels swapped. */
export function mixPairs(pairs: usize, own: f64, other: f64, frames: usize): void {
  const a = f64x2.splat(own), b = f64x2.splat(other);
  for (let p = pairs, end = pairs + (frames << 4); p < end; p += 16) {
    const x = v128.load(p);
    v128.store(p, f64x2.add(f64x2.mul(a, x), f64x2.mul(b, v128.shuffle<f64>(x, x, 1, 0))));
  }
}

/** (a, b) → gain · (a + b, a − b): left and right to mid and side with a gain of ½, and back with 1. */
export function sumsOfPairs(pairs: usize, gain: f64, frames: usize): void {
  const g = f64x2.splat(gain);
  for (let p = pairs, end = pairs + (frames << 4); p < end; p += 16) {
    const x = v128.load(p);
    const first = v128.shuffle<f64>(x, x, 0, 0), second = v128.xor(v128.shuffle<f64>(x, x, 1, 1), MINUS_SECOND);
    v128.store(p, f64x2.mul(g, f64x2.add(first, second)));
  }
}

/** Adds the sums of left², right² and left·right of pairs to three f64 at `out`. */
export function products(pairs: usize, frames: usize, out: usize): void {
  let squares = v128.load(out), common: f64 = load<f64>(out, 16);
  for (let p = pairs, end = pairs + (frames << 4); p < end; p += 16) {
    const x = v128.load(p);
    squares = f64x2.add(squares, f64x2.mul(x, x));
    common += f64x2.extract_lane(x, 0) * f64x2.extract_lane(x, 1);
  }
  v128.store(out, squares);
  store<f64>(out, common, 16);
}

/** left, right → mid, side: half their sum and half their difference. */
export function toMidSide(left: usize, right: usize, frames: usize): void {
  const half = f64x2.splat(0.5);
  for (let i: usize = 0, end = frames << 3; i < end; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i);
    v128.store(left + i, f64x2.mul(f64x2.add(l, r), half));
    v128.store(right + i, f64x2.mul(f64x2.sub(l, r), half));
  }
}

/** mid, side → left, right: their sum and their difference; frames of both a multiple of 2. */
export function toLeftRight(mid: usize, side: usize, frames: usize): void {
  for (let i: usize = 0, end = frames << 3; i < end; i += 16) {
    const m = v128.load(mid + i), s = v128.load(side + i);
    v128.store(mid + i, f64x2.add(m, s));
    v128.store(side + i, f64x2.sub(m, s));
  }
}

/** Holds both channels within ±`most`; NaN becomes zero. Frames a multiple of 2. */
export function bounded(left: usize, right: usize, frames: usize, most: f64): void {
  const high = f64x2.splat(most), low = f64x2.splat(-most);
  for (let i: usize = 0, end = frames << 3; i < end; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i);
    // A comparison with NaN is false, and leaves zero.
    v128.store(left + i, f64x2.pmax(low, f64x2.pmin(high, v128.and(l, f64x2.eq(l, l)))));
    v128.store(right + i, f64x2.pmax(low, f64x2.pmin(high, v128.and(r, f64x2.eq(r, r)))));
  }
}

/**
 * Writes the loudest sample of both channels and the sharpest bend (a quarter of the second difference) as two f64 at
 * `out`. Reads two frames before each channel; frames a multiple of 2.
 */
export function extremes(left: usize, right: usize, frames: usize, out: usize): void {
  let level = f64x2.splat(0), bend = level;
  for (let i: usize = 0, end = frames << 3; i < end; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i);
    level = f64x2.pmax(level, f64x2.pmax(f64x2.abs(l), f64x2.abs(r)));
    const a = v128.load(left + i - 8), b = v128.load(right + i - 8);
    const bentLeft = f64x2.sub(f64x2.add(l, v128.load(left + i - 16)), f64x2.add(a, a));
    const bentRight = f64x2.sub(f64x2.add(r, v128.load(right + i - 16)), f64x2.add(b, b));
    bend = f64x2.pmax(bend, f64x2.pmax(f64x2.abs(bentLeft), f64x2.abs(bentRight)));
  }
  store<f64>(out, max(f64x2.extract_lane(level, 0), f64x2.extract_lane(level, 1)));
  store<f64>(out, 0.25 * max(f64x2.extract_lane(bend, 0), f64x2.extract_lane(bend, 1)), 8);
}

/** Widens the lowest and the highest value, two f32 at `out`, by the samples of two f32 channels. */
export function widen(left: usize, right: usize, frames: usize, out: usize): void {
  let low = v128.load32_splat(out), high = v128.load32_splat(out, 4);
  const whole = (frames & ~3) << 2, end = frames << 2;
  for (let i: usize = 0; i < whole; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i);
    low = f32x4.pmin(low, f32x4.pmin(l, r));
    high = f32x4.pmax(high, f32x4.pmax(l, r));
  }
  for (let i = whole; i < end; i += 4) {
    const l = v128.load32_splat(left + i), r = v128.load32_splat(right + i);
    low = f32x4.pmin(low, f32x4.pmin(l, r));
    high = f32x4.pmax(high, f32x4.pmax(l, r));
  }
  low = f32x4.pmin(low, v128.shuffle<f32>(low, low, 2, 3, 0, 1));
  high = f32x4.pmax(high, v128.shuffle<f32>(high, high, 2, 3, 0, 1));
  v128.store32_lane(out, f32x4.pmin(low, v128.shuffle<f32>(low, low, 1, 0, 3, 2)), 0);
  v128.store32_lane(out, f32x4.pmax(high, v128.shuffle<f32>(high, high, 1, 0, 3, 2)), 0, 4);
}
