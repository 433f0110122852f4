// Rounding to a word length, with dither and noise shaping.
import {
  DITHER_AT, DITHER_CLIPPED, DITHER_ERRORS, DITHER_FILTER, DITHER_HIGH_PASS, DITHER_KIND, DITHER_RANDOM, DITHER_SCALE,
  DITHER_SILENT, DITHER_SILENT_FRAMES, DITHER_TAPS, DITHER_TRIANGULAR, DITHER_UNIFORM,
} from '../layout';

/** Below this, in steps, a signal is silent. */
const SILENT_STEPS: f64 = 1.0 / 256.0;
/** Errors are kept within these, in steps: more there are only where the scale ends. */
const MOST_ERROR: f64 = 2;

// State of the random numbers while a block is rounded: xoshiro128** as in signal/random.ts.
let s0: u32 = 0, s1: u32 = 0, s2: u32 = 0, s3: u32 = 0;

/** The next uniform number in [0, 1). */
@inline function uniform(): f64 {
  const result = rotl<u32>(s1 * 5, 7) * 9, t = s1 << 9;
  s2 ^= s0;
  s3 ^= s1;
  s1 ^= s2;
  s0 ^= s3;
  s2 ^= t;
  s3 = rotl<u32>(s3, 11);
  return <f64>result * (1.0 / 4294967296.0);
}

/** Rounds f64 samples to i32 steps at `out`. NaN becomes silence. */
export function dither(s: usize, x: usize, out: usize, frames: usize): void {
  const scale = load<f64>(s, DITHER_SCALE), lowest = -scale, highest = scale - 1;
  const kind = load<u32>(s, DITHER_KIND), taps = load<u32>(s, DITHER_TAPS);
  const silentFrames = load<u32>(s, DITHER_SILENT_FRAMES);
  let at = load<u32>(s, DITHER_AT), silent = load<u32>(s, DITHER_SILENT), clipped: u32 = 0;
  let before = load<f64>(s, DITHER_UNIFORM);
  s0 = load<u32>(s, DITHER_RANDOM);
  s1 = load<u32>(s, DITHER_RANDOM + 4);
  s2 = load<u32>(s, DITHER_RANDOM + 8);
  s3 = load<u32>(s, DITHER_RANDOM + 12);
  for (let i: usize = 0; i < frames; i++) {
    const exact = load<f64>(x + (i << 3)) * scale;
    silent = Math.abs(exact) < SILENT_STEPS ? min<u32>(silent, u32.MAX_VALUE - 1) + 1 : 0;
    let value = exact;
    const errors = s + DITHER_ERRORS + (at << 3);
    for (let k: usize = 0, end = <usize>taps << 3; k < end; k += 8) {
      value -= load<f64>(s + k, DITHER_FILTER) * load<f64>(errors + k);
    }
    let added: f64 = 0;
    if (kind == DITHER_TRIANGULAR) {
      added = uniform();
      added -= uniform();
    } else if (kind == DITHER_HIGH_PASS) {
      const drawn = uniform();
      added = drawn - before;
      before = drawn;
    }
    const rounded = Math.floor(value + added + 0.5);
    let written = rounded;
    if (!(rounded >= lowest && rounded <= highest)) {
      // A comparison with NaN is false.
      if (rounded == rounded) clipped++;
      written = rounded > highest ? highest : rounded < lowest ? lowest : 0;
    }
    store<i32>(out + (i << 2), silent > silentFrames ? 0 : <i32>written);
    if (taps == 0) continue;
    const error = written - value;
    at = (at == 0 ? taps : at) - 1;
    const held = error > MOST_ERROR ? MOST_ERROR : error < -MOST_ERROR ? -MOST_ERROR : error == error ? error : 0;
    store<f64>(s + (at << 3), held, DITHER_ERRORS);
    store<f64>(s + ((at + taps) << 3), held, DITHER_ERRORS);
  }
  store<u32>(s, s0, DITHER_RANDOM);
  store<u32>(s, s1, DITHER_RANDOM + 4);
  store<u32>(s, s2, DITHER_RANDOM + 8);
  store<u32>(s, s3, DITHER_RANDOM + 12);
  store<f64>(s, before, DITHER_UNIFORM);
  store<u32>(s, at, DITHER_AT);
  store<u32>(s, silent, DITHER_SILENT);
  store<u32>(s, load<u32>(s, DITHER_CLIPPED) + clipped, DITHER_CLIPPED);
}
