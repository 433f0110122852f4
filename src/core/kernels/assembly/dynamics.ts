// A gain that follows the level: compressors, limiters of a band, expanders.
import {
  DYN_ATTACK, DYN_COLOUR, DYN_CREST_FRAMES, DYN_CREST_MEAN, DYN_CREST_PEAK, DYN_CREST_SHARE, DYN_DIRECTION, DYN_DRY,
  DYN_ENERGY, DYN_ENERGY_SHARE, DYN_FLOOR, DYN_FOLLOWED, DYN_GAIN, DYN_GROWTH, DYN_HEARD, DYN_HELD, DYN_KNEE, DYN_LEAD,
  DYN_LEADING, DYN_LINK, DYN_LOOK_FRAMES, DYN_LOWEST, DYN_MEMORY, DYN_MEMORY_FALL, DYN_MEMORY_RISE, DYN_MOVED,
  DYN_OFFSET, DYN_ONSET, DYN_RANGE, DYN_RELEASE, DYN_RELEASE_LOOP, DYN_SECTIONS, DYN_SIDE_CHAIN, DYN_SLOPE, DYN_STEP_FRAMES, DYN_THRESHOLD,
  DYN_WET, DYN_WORKED, QUANTUM, SECTION_BYTES,
} from '../layout';
import { section } from './filters';
import { exp2, log2 } from './logarithm';
import { multiplyAdd, settled } from './pairs';

const BYTES: usize = QUANTUM * 16;
const LOOKS_PER_STEP: usize = DYN_STEP_FRAMES / DYN_LOOK_FRAMES;
const STEP_BYTES: usize = DYN_STEP_FRAMES * 16;
/** What is detected, where it is filtered, or its mean square: pairs. */
const WORK = memory.data(QUANTUM * 16, 16);
/**
 * Loudest energy of each reading, then the reduction wanted, the movement, the gain: pairs, or single values while both
 * channels move alike.
 */
const LOOKS = memory.data(QUANTUM / DYN_LOOK_FRAMES * 16, 16);
const LOOK_COUNT: usize = QUANTUM / DYN_LOOK_FRAMES;
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

/** a + share · (b − a), as a · (1 − share) + b · share: what a waits for is shorter. */
@inline
function towards(a: v128, b: v128, share: v128): v128 {
  return f64x2.add(f64x2.mul(a, f64x2.sub(f64x2.splat(1), share)), f64x2.mul(b, share));
}

/** Running mean square of what is detected. */
function meanSquares(s: usize, detected: usize): void {
  const share = splat(s, DYN_ENERGY_SHARE);
  let energy = v128.load(s, DYN_ENERGY);
  for (let i: usize = 0; i < BYTES; i += 16) {
    const x = v128.load(detected + i);
    energy = towards(energy, f64x2.mul(x, x), share);
    v128.store(WORK + i, energy);
  }
  v128.store(s, settled(energy), DYN_ENERGY);
}

/**
 * The loudest energy of the frames of each reading, of both channels when they move alike; from energies, or from peaks
 * themselves.
 */
function look(from: usize, peaks: bool, together: bool): void {
  for (let i: usize = 0; i < LOOK_COUNT; i++) {
    const p = from + i * (DYN_LOOK_FRAMES * 16);
    const first = f64x2.pmax(f64x2.abs(v128.load(p)), f64x2.abs(v128.load(p, 16)));
    const last = f64x2.pmax(f64x2.abs(v128.load(p, 32)), f64x2.abs(v128.load(p, 48)));
    let most = f64x2.pmax(first, last);
    if (peaks) most = f64x2.mul(most, most);
    if (together) v128.store_lane<f64>(LOOKS + (i << 3), f64x2.pmax(most, swapped(most)), 0);
    else v128.store(LOOKS + (i << 4), most);
  }
}

/**
 * Release shares of the steps. With a crest share they follow the crest factor C: the time is 2 · longest / C², at most
 * the longest, so that the gain recovers quickly from short peaks and slowly from dense passages (Giannoulis, Massberg,
 * Reiss, "Parameter Automation in a Dynamic Range Compressor", JAES 2013; from memory).
 */
function releases(s: usize, detected: usize): void {
  const fixed = load<f64>(s, DYN_RELEASE), crestShare = load<f64>(s, DYN_CREST_SHARE);
  if (crestShare == 0) {
    for (let p = RELEASES; p < RELEASES + 64; p += 8) store<f64>(p, fixed);
    return;
  }
  const share = f64x2.splat(crestShare), longest = load<f64>(s, DYN_CREST_FRAMES);
  let peak = v128.load(s, DYN_CREST_PEAK), mean = v128.load(s, DYN_CREST_MEAN);
  for (let step: usize = 0; step < BYTES; step += STEP_BYTES) {
    for (let p = detected + step; p < detected + step + STEP_BYTES; p += 16) {
      const x = v128.load(p), square = f64x2.mul(x, x);
      peak = f64x2.pmax(square, towards(peak, square, share));
      mean = towards(mean, square, share);
    }
    const highest = max(f64x2.extract_lane(peak, 0), f64x2.extract_lane(peak, 1));
    const average = max(f64x2.extract_lane(mean, 0), f64x2.extract_lane(mean, 1));
    const rate = min<f64>(0.3, DYN_LOOK_FRAMES * max<f64>(1, highest > SILENCE ? highest / (2 * average) : 1) / longest);
    // 1 − e^−rate
    store<f64>(RELEASES + step / STEP_BYTES * 8, rate * (1 - rate * (1.0 / 2) * (1 - rate * (1.0 / 3) * (1 - rate * (1.0 / 4)))));
  }
  v128.store(s, settled(peak), DYN_CREST_PEAK);
  v128.store(s, settled(mean), DYN_CREST_MEAN);
}

/**
 * Reduction wanted by the static curve, in dB with the sign of the direction. A knee K: slope · (b + K/2)² / 2K around
 * the threshold, where b is the dB beyond it (Giannoulis, Massberg, Reiss, "Digital Dynamic Range Compressor Design",
 * JAES 2012; from memory). With growth W: slope · b² / (b + W), so that the ratio rises from 1 towards its full value.
 */
function wanted(s: usize, together: bool): void {
  const zero = f64x2.splat(0), direction = splat(s, DYN_DIRECTION), threshold = splat(s, DYN_THRESHOLD);
  const slope = splat(s, DYN_SLOPE), knee = splat(s, DYN_KNEE), range = splat(s, DYN_RANGE), link = splat(s, DYN_LINK);
  const half = f64x2.mul(knee, f64x2.splat(0.5)), perKnee = f64x2.div(f64x2.splat(0.5), knee);
  const heard = v128.load(s, DYN_HEARD), offset = splat(s, DYN_OFFSET), growth = splat(s, DYN_GROWTH);
  const grows = load<f64>(s, DYN_GROWTH) > 0, floor = f64x2.splat(SILENCE), db = f64x2.splat(DB);
  for (let p = LOOKS, end = LOOKS + (together ? LOOK_COUNT << 3 : LOOK_COUNT << 4); p < end; p += 16) {
    const energy = f64x2.pmax(floor, together ? v128.load(p) : f64x2.mul(v128.load(p), heard));
    let level = f64x2.add(f64x2.mul(log2(energy), db), offset);
    if (!together) level = towards(level, f64x2.pmax(level, swapped(level)), link);
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
 * Follows what is wanted: up at once and down by the release, then smoothed by the attack (the smooth decoupled
 * detector of the same paper). The release falls no further than a share of what is remembered, which is how an opto
 * cell releases in two stages; in a feedback loop it is quicker while what comes out is above the threshold. Leaves the
 * movement in dB.
 */
function follow(s: usize, together: bool): void {
  const slope = splat(s, DYN_SLOPE), zero = f64x2.splat(0);
  const lead = splat(s, DYN_LEAD), attack = splat(s, DYN_ATTACK), onset = splat(s, DYN_ONSET);
  const rise = splat(s, DYN_MEMORY_RISE), fall = splat(s, DYN_MEMORY_FALL), held = splat(s, DYN_HELD);
  const floor = splat(s, DYN_FLOOR);
  const looped = load<f64>(s, DYN_RELEASE_LOOP) > load<f64>(s, DYN_RELEASE), remembers = load<f64>(s, DYN_HELD) > 0;
  let followed = v128.load(s, DYN_FOLLOWED), memory = v128.load(s, DYN_MEMORY);
  let leading = v128.load(s, DYN_LEADING), moved = v128.load(s, DYN_MOVED);
  for (let i: usize = 0; i < LOOK_COUNT; i++) {
    const release = v128.load_splat<f64>(RELEASES + i / LOOKS_PER_STEP * 8);
    const want = together ? v128.load_splat<f64>(LOOKS + (i << 3)) : v128.load(LOOKS + (i << 4));
    const target = f64x2.pmax(want, remembers ? f64x2.add(floor, f64x2.mul(held, memory)) : floor);
    const share = looped ? v128.bitselect(splat(s, DYN_RELEASE_LOOP), release, f64x2.gt(want, f64x2.mul(slope, followed))) : release;
    followed = f64x2.pmax(target, towards(followed, target, share));
    if (remembers) {
      const filling = f64x2.gt(followed, memory);
      memory = towards(memory, v128.bitselect(followed, want, filling), v128.bitselect(rise, fall, filling));
    }
    leading = f64x2.pmin(followed, towards(leading, followed, lead));
    moved = towards(moved, leading, attack);
    const move = f64x2.add(moved, f64x2.mul(onset, f64x2.pmax(zero, f64x2.sub(followed, moved))));
    if (together) v128.store_lane<f64>(LOOKS + (i << 3), move, 0);
    else v128.store(LOOKS + (i << 4), move);
  }
  v128.store(s, settled(followed), DYN_FOLLOWED);
  v128.store(s, settled(memory), DYN_MEMORY);
  v128.store(s, settled(leading), DYN_LEADING);
  v128.store(s, settled(moved), DYN_MOVED);
}

/** Gains as amplitude ratios, from the movements in dB. */
function gains(s: usize, together: bool): void {
  const octaves = f64x2.mul(f64x2.mul(f64x2.splat(-OCTAVES), splat(s, DYN_DIRECTION)), v128.load(s, DYN_WORKED));
  let lowest = f64x2.splat(0);
  for (let p = LOOKS, end = LOOKS + (together ? LOOK_COUNT << 3 : LOOK_COUNT << 4); p < end; p += 16) {
    const x = f64x2.mul(octaves, v128.load(p));
    lowest = f64x2.pmin(lowest, x);
    v128.store(p, exp2(x));
  }
  const most = min(f64x2.extract_lane(lowest, 0), f64x2.extract_lane(lowest, 1)) / OCTAVES;
  store<f64>(s, min(load<f64>(s, DYN_LOWEST), most), DYN_LOWEST);
}

/** One frame through the gain and the odd curve. */
@inline
function colouredFrame(p: usize, gain: v128, dry: v128, wet: v128, colour: v128): void {
  const one = f64x2.splat(1), x = v128.load(p), u = f64x2.mul(gain, x), square = f64x2.mul(u, u);
  const bent = f64x2.div(f64x2.mul(f64x2.mul(colour, f64x2.sub(one, gain)), square), f64x2.add(one, square));
  v128.store(p, f64x2.mul(x, multiplyAdd(wet, f64x2.mul(gain, f64x2.sub(one, bent)), dry)));
}

/**
 * Applies the gain g, interpolated between readings four frames apart: x · (dry + wet · g), or with colour the odd
 * curve x · (dry + wet · g · (1 − colour · (1 − g) · u² / (1 + u²))), where u = g · x.
 */
function apply(s: usize, pairs: usize, together: bool): void {
  const dry = splat(s, DYN_DRY), wet = splat(s, DYN_WET), colour = splat(s, DYN_COLOUR);
  const coloured = load<f64>(s, DYN_COLOUR) > 0, perFrame = f64x2.splat(1.0 / DYN_LOOK_FRAMES);
  let gain = v128.load(s, DYN_GAIN), p = pairs;
  for (let i: usize = 0; i < LOOK_COUNT; i++) {
    const target = together ? v128.load_splat<f64>(LOOKS + (i << 3)) : v128.load(LOOKS + (i << 4));
    const step = f64x2.mul(f64x2.sub(target, gain), perFrame), twoSteps = f64x2.add(step, step);
    const second = f64x2.add(gain, twoSteps);
    if (coloured) {
      colouredFrame(p, f64x2.add(gain, step), dry, wet, colour);
      colouredFrame(p + 16, second, dry, wet, colour);
      colouredFrame(p + 32, f64x2.add(second, step), dry, wet, colour);
      colouredFrame(p + 48, target, dry, wet, colour);
    } else {
      // What lies between is a straight line too.
      const shareStep = f64x2.mul(wet, step), share = multiplyAdd(wet, second, dry);
      v128.store(p, f64x2.mul(v128.load(p), f64x2.sub(share, shareStep)));
      v128.store(p, f64x2.mul(v128.load(p, 16), share), 16);
      v128.store(p, f64x2.mul(v128.load(p, 32), f64x2.add(share, shareStep)), 32);
      v128.store(p, f64x2.mul(v128.load(p, 48), multiplyAdd(wet, target, dry)), 48);
    }
    p += 64;
    gain = target;
  }
  v128.store(s, gain, DYN_GAIN);
}

@inline
function both(s: usize, field: usize): bool {
  return load<f64>(s + field) == 1 && load<f64>(s + field, 8) == 1;
}

/**
 * Moves the gain of one quantum of pairs in place by the level of what is detected, which may be the same. The level is
 * read every few frames, as the loudest of them, and the gain arrives with the last of these.
 */
export function dynamics(s: usize, detected: usize, pairs: usize): void {
  const sections = load<u32>(s, DYN_SECTIONS), peaks = load<f64>(s, DYN_ENERGY_SHARE) == 1;
  const together = load<f64>(s, DYN_LINK) == 1 && both(s, DYN_HEARD) && both(s, DYN_WORKED);
  let from = detected;
  if (sections > 0) {
    memory.copy(WORK, detected, BYTES);
    for (let k: usize = 0; k < sections; k++) section(s + DYN_SIDE_CHAIN + k * SECTION_BYTES, WORK, QUANTUM);
    from = WORK;
  }
  releases(s, from);
  if (!peaks) {
    meanSquares(s, from);
    from = WORK;
  }
  look(from, peaks, together);
  wanted(s, together);
  follow(s, together);
  gains(s, together);
  apply(s, pairs, together);
}
