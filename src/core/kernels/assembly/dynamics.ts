// A gain that follows the level: compressors, limiters of a band, expanders.
import {
  DYN_ATTACK, DYN_COLOUR, DYN_CREST_FRAMES, DYN_CREST_MEAN, DYN_CREST_PEAK, DYN_CREST_SHARE, DYN_DIRECTION, DYN_DRY,
  DYN_ENERGY, DYN_ENERGY_SHARE, DYN_FLOOR, DYN_FOLLOWED, DYN_GROWTH, DYN_HEARD, DYN_HELD, DYN_KNEE, DYN_LEAD,
  DYN_LEADING, DYN_LINK, DYN_LOWEST, DYN_MEMORY, DYN_MEMORY_FALL, DYN_MEMORY_RISE, DYN_MOVED, DYN_OFFSET, DYN_ONSET,
  DYN_RANGE, DYN_RELEASE, DYN_RELEASE_LOOP, DYN_SECTIONS, DYN_SIDE_CHAIN, DYN_SLOPE, DYN_STEP_FRAMES, DYN_THRESHOLD,
  DYN_WET, DYN_WORKED, QUANTUM, SECTION_BYTES,
} from '../layout';
import { section } from './filters';
import { exp2, log2 } from './logarithm';
import { loadPair, settled, storePair } from './pairs';

const BYTES: usize = QUANTUM * 16;
const STEP_BYTES: usize = DYN_STEP_FRAMES * 16;
/** What is detected, then its energy, then the reduction wanted, then the gain: pairs. */
const WORK = memory.data(QUANTUM * 16, 16);
/** Release share of each step. */
const RELEASES = memory.data(64, 16);

/** dB of a mean square are this times its log2. */
const DB: f64 = 3.010299956639812;
/** log2 of an amplitude ratio is this times its dB. */
const OCTAVES: f64 = 0.16609640474436813;
const SILENCE: f64 = 1e-20;

@inline
function splat(s: usize, field: usize): v128 {
  return v128.load_splat<f64>(s + field);
}

@inline
function swapped(a: v128): v128 {
  return v128.shuffle<f64>(a, a, 1, 0);
}

/** a + share · (b − a) */
@inline
function towards(a: v128, b: v128, share: v128): v128 {
  return f64x2.add(a, f64x2.mul(share, f64x2.sub(b, a)));
}

/** Mean square of what is detected; with a share of 1 its square. */
function detect(s: usize): void {
  const share = splat(s, DYN_ENERGY_SHARE);
  let energy = v128.load(s, DYN_ENERGY);
  for (let p = WORK; p < WORK + BYTES; p += 16) {
    const x = v128.load(p);
    energy = towards(energy, f64x2.mul(x, x), share);
    v128.store(p, energy);
  }
  v128.store(s, settled(energy), DYN_ENERGY);
}

/**
 * Release shares of the steps. With a crest share they follow the crest factor C: the time is 2 · longest / C², at most the longest, so that
 * short peaks are let go of quickly and a dense programme slowly (Giannoulis, Massberg, Reiss, "Parameter Automation in a
 * Dynamic Range Compressor", JAES 2013; from memory).
 */
function releases(s: usize): void {
  const fixed = load<f64>(s, DYN_RELEASE), crestShare = load<f64>(s, DYN_CREST_SHARE);
  if (crestShare == 0) {
    for (let p = RELEASES; p < RELEASES + 64; p += 8) store<f64>(p, fixed);
    return;
  }
  const share = f64x2.splat(crestShare), longest = load<f64>(s, DYN_CREST_FRAMES);
  let peak = v128.load(s, DYN_CREST_PEAK), mean = v128.load(s, DYN_CREST_MEAN);
  for (let step: usize = 0; step < BYTES; step += STEP_BYTES) {
    for (let p = WORK + step; p < WORK + step + STEP_BYTES; p += 16) {
      const x = v128.load(p), square = f64x2.mul(x, x);
      peak = f64x2.pmax(square, towards(peak, square, share));
      mean = towards(mean, square, share);
    }
    const highest = max(f64x2.extract_lane(peak, 0), f64x2.extract_lane(peak, 1));
    const average = max(f64x2.extract_lane(mean, 0), f64x2.extract_lane(mean, 1));
    const rate = min<f64>(0.1, max<f64>(1, highest > SILENCE ? highest / (2 * average) : 1) / longest);
    // 1 − e^−rate
    store<f64>(RELEASES + step / STEP_BYTES * 8, rate * (1 - rate * 0.5 * (1 - rate * (1.0 / 3))));
  }
  v128.store(s, settled(peak), DYN_CREST_PEAK);
  v128.store(s, settled(mean), DYN_CREST_MEAN);
}

/**
 * Reduction wanted by the static curve, in dB with the sign of the direction. A knee K: slope · (b + K/2)² / 2K around the
 * threshold, where b is the dB beyond it (Giannoulis, Massberg, Reiss, "Digital Dynamic Range Compressor Design", JAES
 * 2012; from memory). With growth W: slope · b² / (b + W), so that the ratio rises from 1 towards its full value.
 */
function wanted(s: usize): void {
  const zero = f64x2.splat(0), direction = splat(s, DYN_DIRECTION), threshold = splat(s, DYN_THRESHOLD);
  const slope = splat(s, DYN_SLOPE), knee = splat(s, DYN_KNEE), range = splat(s, DYN_RANGE), link = splat(s, DYN_LINK);
  const half = f64x2.mul(knee, f64x2.splat(0.5)), perKnee = f64x2.div(f64x2.splat(0.5), knee);
  const heard = v128.load(s, DYN_HEARD), offset = splat(s, DYN_OFFSET), growth = splat(s, DYN_GROWTH);
  const grows = load<f64>(s, DYN_GROWTH) > 0;
  const floor = f64x2.splat(SILENCE);
  for (let p = WORK; p < WORK + BYTES; p += 16) {
    const energy = f64x2.pmax(floor, f64x2.mul(v128.load(p), heard));
    let level = f64x2.add(f64x2.mul(log2(energy), f64x2.splat(DB)), offset);
    level = towards(level, f64x2.pmax(level, swapped(level)), link);
    const beyond = f64x2.mul(direction, f64x2.sub(level, threshold));
    let reduction: v128;
    if (grows) {
      const above = f64x2.pmax(beyond, zero);
      reduction = f64x2.div(f64x2.mul(above, above), f64x2.add(above, growth));
    } else {
      const into = f64x2.pmin(f64x2.pmax(f64x2.add(beyond, half), zero), knee);
      reduction = f64x2.add(f64x2.mul(f64x2.mul(into, into), perKnee), f64x2.pmax(f64x2.sub(beyond, half), zero));
    }
    v128.store(p, f64x2.mul(direction, f64x2.pmin(range, f64x2.mul(slope, reduction))));
  }
}

/**
 * Follows what is wanted: up at once and down by the release, then smoothed by the attack (the smooth decoupled detector of
 * the same paper). The release falls no further than a share of what is remembered, which is how an opto cell lets go in
 * two stages; in a feedback loop it is quicker while what comes out is above the threshold. Writes the gain in octaves.
 */
function follow(s: usize): void {
  const direction = splat(s, DYN_DIRECTION), slope = splat(s, DYN_SLOPE), zero = f64x2.splat(0);
  const lead = splat(s, DYN_LEAD), attack = splat(s, DYN_ATTACK), onset = splat(s, DYN_ONSET);
  const rise = splat(s, DYN_MEMORY_RISE), fall = splat(s, DYN_MEMORY_FALL), held = splat(s, DYN_HELD);
  const floor = splat(s, DYN_FLOOR), worked = v128.load(s, DYN_WORKED);
  const toOctaves = f64x2.mul(f64x2.mul(f64x2.splat(-OCTAVES), direction), worked);
  const looped = load<f64>(s, DYN_RELEASE_LOOP) > load<f64>(s, DYN_RELEASE);
  let followed = v128.load(s, DYN_FOLLOWED), memory = v128.load(s, DYN_MEMORY);
  let leading = v128.load(s, DYN_LEADING), moved = v128.load(s, DYN_MOVED), lowest = zero;
  for (let step: usize = 0; step < BYTES; step += STEP_BYTES) {
    const release = v128.load_splat<f64>(RELEASES + step / STEP_BYTES * 8);
    const loopRelease = looped ? splat(s, DYN_RELEASE_LOOP) : release;
    for (let p = WORK + step; p < WORK + step + STEP_BYTES; p += 16) {
      const want = v128.load(p);
      const target = f64x2.pmax(want, f64x2.add(floor, f64x2.mul(held, memory)));
      const share = v128.bitselect(loopRelease, release, f64x2.gt(want, f64x2.mul(slope, followed)));
      followed = f64x2.pmax(target, towards(followed, target, share));
      const filling = f64x2.gt(followed, memory);
      memory = towards(memory, v128.bitselect(followed, want, filling), v128.bitselect(rise, fall, filling));
      leading = f64x2.pmin(followed, towards(leading, followed, lead));
      moved = towards(moved, leading, attack);
      const reduction = f64x2.add(moved, f64x2.mul(onset, f64x2.pmax(zero, f64x2.sub(followed, moved))));
      const octaves = f64x2.mul(toOctaves, reduction);
      lowest = f64x2.pmin(lowest, octaves);
      v128.store(p, octaves);
    }
  }
  v128.store(s, settled(followed), DYN_FOLLOWED);
  v128.store(s, settled(memory), DYN_MEMORY);
  v128.store(s, settled(leading), DYN_LEADING);
  v128.store(s, settled(moved), DYN_MOVED);
  const most = min(f64x2.extract_lane(lowest, 0), f64x2.extract_lane(lowest, 1)) / OCTAVES;
  store<f64>(s, min(load<f64>(s, DYN_LOWEST), most), DYN_LOWEST);
}

/** Applies the gain g: x · (dry + wet · g · (1 − colour · (1 − g) · u² / (1 + u²))) with u = g · x: a curve that is odd. */
function apply(s: usize, left: usize, right: usize): void {
  const one = f64x2.splat(1), dry = splat(s, DYN_DRY), wet = splat(s, DYN_WET), colour = splat(s, DYN_COLOUR);
  const coloured = load<f64>(s, DYN_COLOUR) > 0;
  for (let i: usize = 0; i < <usize>QUANTUM; i++) {
    const x = loadPair(left + (i << 3), right + (i << 3));
    const gain = exp2(v128.load(WORK + (i << 4)));
    let share = gain;
    if (coloured) {
      const u = f64x2.mul(gain, x), square = f64x2.mul(u, u);
      const bent = f64x2.div(f64x2.mul(f64x2.mul(colour, f64x2.sub(one, gain)), square), f64x2.add(one, square));
      share = f64x2.mul(gain, f64x2.sub(one, bent));
    }
    storePair(left + (i << 3), right + (i << 3), f64x2.mul(x, f64x2.add(dry, f64x2.mul(wet, share))));
  }
}

/** Moves the gain of left and right, in place, by the level of what is detected, which may be the same buffers. */
export function dynamics(
  s: usize, detectLeft: usize, detectRight: usize, left: usize, right: usize, frames: usize,
): void {
  const sections = load<u32>(s, DYN_SECTIONS);
  for (let done: usize = 0; done < frames << 3; done += QUANTUM << 3) {
    for (let i: usize = 0; i < <usize>QUANTUM; i++) {
      v128.store(WORK + (i << 4), loadPair(detectLeft + done + (i << 3), detectRight + done + (i << 3)));
    }
    for (let k: usize = 0; k < sections; k++) section(s + DYN_SIDE_CHAIN + k * SECTION_BYTES, WORK, QUANTUM);
    releases(s);
    detect(s);
    wanted(s);
    follow(s);
    apply(s, left + done, right + done);
  }
}
