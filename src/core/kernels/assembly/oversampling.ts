// Half-band filters that double and halve a sample rate, in f32.
import { ALL_PASS_BYTES, HALF_BAND_HISTORY } from '../layout';
import { settled } from './pairs';

/**
 * Σ h[k] x[n − k] of symmetric taps for sixteen frames n from the address x on: pairs of frames that share a tap are
 * added first. Leaves the sums at SUMS.
 */
@inline
function symmetricSums(x: usize, taps: usize, count: usize): void {
  let a = f32x4.splat(0), b = a, c = a, d = a;
  let front = x, back = x - ((count - 1) << 2);
  for (let h = taps, end = taps + (count << 1); h < end; h += 4) {
    const tap = v128.load32_splat(h);
    a = f32x4.add(a, f32x4.mul(tap, f32x4.add(v128.load(front), v128.load(back))));
    b = f32x4.add(b, f32x4.mul(tap, f32x4.add(v128.load(front, 16), v128.load(back, 16))));
    c = f32x4.add(c, f32x4.mul(tap, f32x4.add(v128.load(front, 32), v128.load(back, 32))));
    d = f32x4.add(d, f32x4.mul(tap, f32x4.add(v128.load(front, 48), v128.load(back, 48))));
    front -= 4;
    back += 4;
  }
  v128.store(SUMS, a);
  v128.store(SUMS, b, 16);
  v128.store(SUMS, c, 32);
  v128.store(SUMS, d, 48);
}

const SUMS = memory.data(64, 16);

/**
 * Doubles the rate of one channel by a half-band filter of linear phase: between each two frames one more. `x` is the
 * newest block, preceded by the frames before it, which this shifts; the filter has `count` taps and is `late` frames
 * late, frames are a multiple of 16.
 */
export function upsample(x: usize, out: usize, taps: usize, count: usize, late: usize, frames: usize): void {
  const lateBytes = late << 2, spare = lateBytes - (count << 1);
  for (let i: usize = 0; i < frames << 2; i += 64) {
    symmetricSums(x + i - spare, taps, count);
    for (let k: usize = 0; k < 64; k += 16) {
      const own = v128.load(x + i + k - lateBytes), between = v128.load(SUMS + k);
      v128.store(out + ((i + k) << 1), v128.shuffle<f32>(own, between, 0, 4, 1, 5));
      v128.store(out + ((i + k) << 1), v128.shuffle<f32>(own, between, 2, 6, 3, 7), 16);
    }
  }
  memory.copy(x - HALF_BAND_HISTORY, x - HALF_BAND_HISTORY + (frames << 2), HALF_BAND_HISTORY);
}

/**
 * Halves the rate of one channel by the same filter. `even` and `odd` are where the two phases of x are put, each after
 * its own history; frames as they come out.
 */
export function downsample(x: usize, even: usize, odd: usize, out: usize, taps: usize, count: usize, late: usize, frames: usize): void {
  for (let i: usize = 0; i < frames << 2; i += 16) {
    const a = v128.load(x + (i << 1)), b = v128.load(x + (i << 1), 16);
    v128.store(even + i, v128.shuffle<f32>(a, b, 0, 2, 4, 6));
    v128.store(odd + i, v128.shuffle<f32>(a, b, 1, 3, 5, 7));
  }
  const lateBytes = late << 2, spare = lateBytes - (count << 1), half = f32x4.splat(0.5);
  for (let i: usize = 0; i < frames << 2; i += 64) {
    symmetricSums(odd + i - 4 - spare, taps, count);
    for (let k: usize = 0; k < 64; k += 16) {
      v128.store(out + i + k, f32x4.mul(half, f32x4.add(v128.load(even + i + k - lateBytes), v128.load(SUMS + k))));
    }
  }
  const block = frames << 2;
  memory.copy(even - HALF_BAND_HISTORY, even - HALF_BAND_HISTORY + block, HALF_BAND_HISTORY);
  memory.copy(odd - HALF_BAND_HISTORY, odd - HALF_BAND_HISTORY + block, HALF_BAND_HISTORY);
}

/** Left and right of one frame of f32 channels as a pair. */
@inline
function loadSingles(left: usize, right: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load32_lane(right, v128.load32_zero(left), 1));
}

@inline
function storeSingles(left: usize, right: usize, pair: v128): void {
  const singles = f32x4.demote_f64x2_zero(pair);
  v128.store32_lane(left, singles, 0);
  v128.store32_lane(right, singles, 1);
}

/** One all-pass section (a + z⁻¹) / (1 + a z⁻¹) on a pair: y = a (x − y₁) + x₁. */
@inline
function allPass(s: usize, x: v128): v128 {
  const y = f64x2.add(f64x2.mul(v128.load(s), f64x2.sub(x, v128.load(s, 32))), v128.load(s, 16));
  v128.store(s, x, 16);
  v128.store(s, y, 32);
  return y;
}

/** The sections of one branch: every second one from s on. */
@inline
function branch(s: usize, end: usize, x: v128): v128 {
  let y = x;
  for (let p = s; p < end; p += 2 * ALL_PASS_BYTES) y = allPass(p, y);
  return y;
}

function settle(s: usize, end: usize): void {
  for (let p = s; p < end; p += ALL_PASS_BYTES) {
    v128.store(p, settled(v128.load(p, 16)), 16);
    v128.store(p, settled(v128.load(p, 32)), 32);
  }
}

/** Doubles the rate of both channels by a half-band filter of two all-pass branches, with `count` sections at s. */
export function upsampleAllPass(s: usize, count: usize, left: usize, right: usize, outLeft: usize, outRight: usize, frames: usize): void {
  const end = s + count * ALL_PASS_BYTES;
  for (let i: usize = 0; i < frames << 2; i += 4) {
    const x = loadSingles(left + i, right + i);
    storeSingles(outLeft + (i << 1), outRight + (i << 1), branch(s, end, x));
    storeSingles(outLeft + (i << 1) + 4, outRight + (i << 1) + 4, branch(s + ALL_PASS_BYTES, end, x));
  }
  settle(s, end);
}

/**
 * Halves the rate of both channels by the same filter; `held` is the pair whose turn in the second branch comes next.
 */
export function downsampleAllPass(s: usize, count: usize, held: usize, left: usize, right: usize, outLeft: usize, outRight: usize, frames: usize): void {
  const end = s + count * ALL_PASS_BYTES, half = f64x2.splat(0.5);
  let before = v128.load(held);
  for (let i: usize = 0; i < frames << 2; i += 4) {
    const own = branch(s, end, loadSingles(left + (i << 1), right + (i << 1)));
    storeSingles(outLeft + i, outRight + i, f64x2.mul(half, f64x2.add(own, branch(s + ALL_PASS_BYTES, end, before))));
    before = loadSingles(left + (i << 1) + 4, right + (i << 1) + 4);
  }
  v128.store(held, before);
  settle(s, end);
}

/** f32 samples as f64; frames a multiple of 4. */
export function toDouble(x: usize, out: usize, frames: usize): void {
  for (let i: usize = 0; i < frames << 2; i += 16) {
    const four = v128.load(x + i);
    v128.store(out + (i << 1), f64x2.promote_low_f32x4(four));
    v128.store(out + (i << 1), f64x2.promote_low_f32x4(v128.shuffle<i32>(four, four, 2, 3, 2, 3)), 16);
  }
}
