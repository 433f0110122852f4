// A band that moves with the level of the signal in it.
import {
  BAND_ATTACK, BAND_BASE, BAND_BASE_COUNT, BAND_DETECTOR, BAND_DETECTOR_COUNT, BAND_ENERGY, BAND_ENERGY_SHARE, BAND_FULL,
  BAND_FULL_COUNT, BAND_HEARD, BAND_MOST, BAND_MOVE, BAND_RANGE, BAND_RELEASE, BAND_SPAN, BAND_STEP_FRAMES,
  BAND_THRESHOLD, BAND_TURN, BAND_WEIGHT, BAND_WHOLE, BAND_WHOLE_SHARE, QUANTUM, SECTION_BYTES,
} from '../layout';
import { section } from './filters';
import { loadPair, settled, storePair } from './pairs';

const BASE = memory.data(QUANTUM * 16, 16);
const FULL = memory.data(QUANTUM * 16, 16);
const DETECTED = memory.data(QUANTUM * 16, 16);

/** Movement below this, in dB, counts as none. */
const STILL: f64 = 1e-6;
const SILENCE: f64 = 1e-20;
/** Against a level below this, in dBFS, nothing counts as loud. */
const QUIET: f64 = -90;

/** Runs consecutive sections over a quantum of pairs. */
@inline
function sections(first: usize, count: u32, pairs: usize): void {
  for (let k: u32 = 0; k < count; k++) section(first + k * SECTION_BYTES, pairs, QUANTUM);
}

/** Level in dBFS of a mean square, of a sine its peak. */
@inline
function levelOf(energy: f64): f64 {
  return energy > SILENCE ? 10 / NativeMath.LN10 * NativeMath.log(2 * energy) : -200;
}

/** Mean square of the louder of the channels that are listened to. */
@inline
function louder(energy: v128, heard: v128): f64 {
  const channels = f64x2.mul(energy, heard);
  return max(f64x2.extract_lane(channels, 0), f64x2.extract_lane(channels, 1));
}

/**
 * Next movement in dB: as many dB as the level is beyond the threshold, at most the range, approached with the attack's
 * or the release's share (Giannoulis, Massberg, Reiss, JAES 2012: the smoothed log-domain detector; from memory).
 */
function nextMove(s: usize, level: f64): f64 {
  const beyond = max(0, min(load<f64>(s, BAND_RANGE), level - load<f64>(s, BAND_THRESHOLD)));
  const move = load<f64>(s, BAND_MOVE);
  const next = move + (beyond - move) * (beyond > move ? load<f64>(s, BAND_ATTACK) : load<f64>(s, BAND_RELEASE));
  return beyond == 0 && next < STILL ? 0 : next;
}

/**
 * y = base + weight · (full − base): the signal through the band at rest and through the band moved by its whole range,
 * blended so that the gain where the band works fully is moved by the dB wanted: weight = (g^move − 1) / (g^range − 1).
 */
export function dynamicBand(s: usize, left: usize, right: usize, frames: usize): void {
  const heard = v128.load(s, BAND_HEARD);
  const share = f64x2.splat(load<f64>(s, BAND_ENERGY_SHARE));
  const turn = load<f64>(s, BAND_TURN), span = load<f64>(s, BAND_SPAN);
  const wholeShare = load<f64>(s, BAND_WHOLE_SHARE), relative = wholeShare > 0;
  let energy = v128.load(s, BAND_ENERGY), whole = v128.load(s, BAND_WHOLE);
  let weight = load<f64>(s, BAND_WEIGHT);
  for (let done: usize = 0; done < frames; done += QUANTUM) {
    const l = left + (done << 3), r = right + (done << 3);
    for (let i: usize = 0; i < <usize>QUANTUM; i++) v128.store(BASE + (i << 4), loadPair(l + (i << 3), r + (i << 3)));
    if (relative) {
      for (let i: usize = 0; i < <usize>QUANTUM; i++) {
        const x = v128.load(BASE + (i << 4));
        whole = f64x2.add(whole, f64x2.mul(f64x2.splat(wholeShare), f64x2.sub(f64x2.mul(x, x), whole)));
      }
      whole = settled(whole);
    }
    memory.copy(FULL, BASE, QUANTUM * 16);
    memory.copy(DETECTED, BASE, QUANTUM * 16);
    sections(s + BAND_BASE, load<u32>(s, BAND_BASE_COUNT), BASE);
    sections(s + BAND_FULL, load<u32>(s, BAND_FULL_COUNT), FULL);
    sections(s + BAND_DETECTOR, load<u32>(s, BAND_DETECTOR_COUNT), DETECTED);
    for (let step: usize = 0; step < <usize>QUANTUM; step += BAND_STEP_FRAMES) {
      for (let i = step; i < step + BAND_STEP_FRAMES; i++) {
        const d = v128.load(DETECTED + (i << 4));
        energy = f64x2.add(energy, f64x2.mul(share, f64x2.sub(f64x2.mul(d, d), energy)));
      }
      energy = settled(energy);
      let level = levelOf(louder(energy, heard));
      if (relative) level -= max(QUIET, levelOf(louder(whole, heard)));
      const move = nextMove(s, level);
      store<f64>(s, move, BAND_MOVE);
      store<f64>(s, max(move, load<f64>(s, BAND_MOST)), BAND_MOST);
      const target = (NativeMath.exp(turn * move) - 1) * span;
      const increment = (target - weight) / BAND_STEP_FRAMES;
      for (let i = step; i < step + BAND_STEP_FRAMES; i++) {
        weight += increment;
        const base = v128.load(BASE + (i << 4));
        const whole = f64x2.sub(v128.load(FULL + (i << 4)), base);
        storePair(l + (i << 3), r + (i << 3), f64x2.add(base, f64x2.mul(f64x2.splat(weight), whole)));
      }
      // Exactly: sums of increments round.
      weight = target;
    }
  }
  v128.store(s, energy, BAND_ENERGY);
  v128.store(s, whole, BAND_WHOLE);
  store<f64>(s, weight, BAND_WEIGHT);
}
