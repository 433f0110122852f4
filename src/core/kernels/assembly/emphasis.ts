// Emphasis of transients: a gain that rises while the level jumps above where it was.
import {
  EMPH_FALL, EMPH_FAST_LEVEL, EMPH_GAIN, EMPH_LOOK_FRAMES, EMPH_MOST, EMPH_MOST_NOW, EMPH_SLOW, EMPH_SLOW_LEVEL, EMPH_SMOOTH, EMPH_SMOOTHED,
} from '../layout';
import { loadPair, storePair } from './pairs';

/** Level ratios at which the emphasis begins and is whole. */
const BEGINS: f64 = 1.4, WHOLE: f64 = 2.8;
const SILENCE: f64 = 1e-6;
const LOOK_BYTES: usize = EMPH_LOOK_FRAMES * 8;

@inline
function larger(a: f64, b: f64): f64 {
  return a > b ? a : b;
}

/**
 * The fast level rises at once and falls by its share; the slow one follows it. The gain is 1 + most · t, where t goes
 * from 0 to 1 with the ratio of the two; it is smoothed, and interpolated between readings. Frames a multiple of 4.
 */
export function emphasis(s: usize, left: usize, right: usize, frames: usize): void {
  const most = load<f64>(s, EMPH_MOST), fall = load<f64>(s, EMPH_FALL), slowly = load<f64>(s, EMPH_SLOW), smooth = load<f64>(s, EMPH_SMOOTH);
  let now = load<f64>(s, EMPH_MOST_NOW), fast = load<f64>(s, EMPH_FAST_LEVEL), slow = load<f64>(s, EMPH_SLOW_LEVEL);
  let gain = load<f64>(s, EMPH_GAIN), smoothed = load<f64>(s, EMPH_SMOOTHED);
  for (let i: usize = 0; i < frames << 3; i += LOOK_BYTES) {
    const l = f64x2.pmax(f64x2.abs(v128.load(left + i)), f64x2.abs(v128.load(left + i, 16)));
    const r = f64x2.pmax(f64x2.abs(v128.load(right + i)), f64x2.abs(v128.load(right + i, 16)));
    const both = f64x2.pmax(l, r);
    const level = larger(f64x2.extract_lane(both, 0), f64x2.extract_lane(both, 1));
    fast = level > fast ? level : fast + (level - fast) * fall;
    slow += (fast - slow) * slowly;
    const ratio = fast / larger(SILENCE, slow), beyond = larger(0, (ratio - BEGINS) * (1 / (WHOLE - BEGINS)));
    smoothed += ((beyond < 1 ? beyond : 1) - smoothed) * smooth;
    now += (most - now) * smooth;
    const target = 1 + now * smoothed, step = f64x2.splat((target - gain) * (1.0 / EMPH_LOOK_FRAMES));
    let g = f64x2.splat(gain);
    for (let k: usize = 0; k < LOOK_BYTES; k += 8) {
      g = f64x2.add(g, step);
      storePair(left + i + k, right + i + k, f64x2.mul(g, loadPair(left + i + k, right + i + k)));
    }
    gain = target;
  }
  // Values too small to be heard would slow everything down.
  store<f64>(s, fast > 1e-30 ? fast : 0, EMPH_FAST_LEVEL);
  store<f64>(s, slow > 1e-30 ? slow : 0, EMPH_SLOW_LEVEL);
  store<f64>(s, smoothed > 1e-12 ? smoothed : 0, EMPH_SMOOTHED);
  store<f64>(s, now > 1e-12 ? now : 0, EMPH_MOST_NOW);
  store<f64>(s, gain, EMPH_GAIN);
}
