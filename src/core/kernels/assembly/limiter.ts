// Look-ahead limiter: required gain from interpolated peaks, running minimum (van Herk), recovery, two smoothing boxes.
import {
  GROUP, LIM_BOX, LIM_CEILING, LIM_DELAY, LIM_DETECTION, LIM_GAIN, LIM_GRID, LIM_HELD, LIM_LEFT, LIM_LINK, LIM_LOWEST, LIM_MEMORY,
  LIM_MEMORY_FALL, LIM_MEMORY_RISE, LIM_POSITION, LIM_RECOVERY, LIM_RECOVERY_LINK, LIM_RIGHT, LIM_CHANNEL_CURRENT,
  LIM_CHANNEL_DELAY, LIM_CHANNEL_DETECT, LIM_CHANNEL_FIRST_BOX, LIM_CHANNEL_GROUPS, LIM_CHANNEL_MINIMUM, LIM_CHANNEL_PREFIX,
  LIM_CHANNEL_SECOND_BOX, LIM_CHANNEL_SUFFIX, LIM_CHANNEL_SUM_1, LIM_CHANNEL_SUM_2, LIM_WINDOW, TAPS,
} from '../layout';
import { settled } from './pairs';
import { annex2Peaks, eighthPeaks, finePeaks, groupBend, groupPeak, larger, samplePeaks, toSingle } from './peaks';

/**
 * Gains are rounded to whole steps, so that the running sums of them stay exact in f64 and an idle limiter multiplies
 * by exactly 1.
 */
const GRID: f64 = LIM_GRID;

@inline
function swapped(a: v128): v128 {
  return v128.shuffle<f64>(a, a, 1, 0);
}

/** a + share · (b − a) */
@inline
function towards(a: v128, b: v128, share: v128): v128 {
  return f64x2.add(a, f64x2.mul(share, f64x2.sub(b, a)));
}

/** Minimum of each lane and the lanes before it. */
@inline
function prefixMinimum(g: v128, one: v128): v128 {
  const a = f32x4.pmin(g, v128.shuffle<f32>(g, one, 4, 0, 1, 2));
  return f32x4.pmin(a, v128.shuffle<f32>(a, one, 4, 5, 0, 1));
}

/** Minimum of each lane and the lanes after it. */
@inline
function suffixMinimum(g: v128, one: v128): v128 {
  const a = f32x4.pmin(g, v128.shuffle<f32>(g, one, 1, 2, 3, 4));
  return f32x4.pmin(a, v128.shuffle<f32>(a, one, 2, 3, 4, 5));
}

/** Peaks at the four frames whose windows start at p, by as many points between the samples as are looked at. */
function peaks(p: usize, detection: u32): v128 {
  if (detection == 0) return samplePeaks(p);
  const four = f32x4.pmax(finePeaks(p), annex2Peaks(p));
  return detection == 3 ? four : f32x4.pmax(four, eighthPeaks(p));
}

/**
 * Running minimum, over the window, of the gain that keeps the peaks of a channel, or with `other` of both, below the
 * ceiling: for each frame, as f32. Returns the position in the current chunk.
 */
function runningMinimum(s: usize, channel: usize, other: usize, frames: usize, onLevel: f32, onBend: f32): u32 {
  const detect: usize = load<u32>(channel, LIM_CHANNEL_DETECT), otherDetect: usize = load<u32>(other ? other : channel, LIM_CHANNEL_DETECT);
  const current: usize = load<u32>(channel, LIM_CHANNEL_CURRENT), suffix: usize = load<u32>(channel, LIM_CHANNEL_SUFFIX), minimum: usize = load<u32>(channel, LIM_CHANNEL_MINIMUM);
  const windowBytes: usize = load<u32>(s, LIM_WINDOW) << 2, detection = load<u32>(s, LIM_DETECTION);
  const one = f32x4.splat(1), limit = <f32>load<f64>(s, LIM_CEILING), ceiling = f32x4.splat(limit);
  let prefix = v128.load(channel, LIM_CHANNEL_PREFIX), position: usize = load<u32>(s, LIM_POSITION);
  let group1 = load<f32>(channel, LIM_CHANNEL_GROUPS), group2 = load<f32>(channel, LIM_CHANNEL_GROUPS + 4);
  let bend1 = load<f32>(channel, LIM_CHANNEL_GROUPS + 8), bend2 = load<f32>(channel, LIM_CHANNEL_GROUPS + 12);
  for (let i: usize = 0; i < frames; i += GROUP) {
    const newest: usize = <usize>(TAPS * 4) + (i << 2);
    let group = groupPeak(detect + newest), bend = groupBend(detect + newest);
    if (other) {
      group = larger(group, groupPeak(otherDetect + newest));
      bend = larger(bend, groupBend(otherDetect + newest));
    }
    const level = larger(group, larger(group1, group2)), sharpest = larger(bend, larger(bend1, bend2));
    const reaches = level * onLevel + sharpest * onBend > limit;
    group2 = group1;
    group1 = group;
    bend2 = bend1;
    bend1 = bend;
    for (let k: usize = i << 2; k < (i + <usize>GROUP) << 2; k += 16) {
      let g = one;
      if (reaches) {
        let most = peaks(detect + 4 + k, detection);
        if (other) most = f32x4.pmax(most, peaks(otherDetect + 4 + k, detection));
        g = f32x4.div(ceiling, f32x4.pmax(ceiling, most));
      }
      v128.store(current + position, g);
      const v = f32x4.pmin(prefixMinimum(g, one), prefix);
      prefix = v128.shuffle<f32>(v, v, 3, 3, 3, 3);
      v128.store(minimum + k, f32x4.pmin(v, v128.load(suffix + position, 4)));
      position += 16;
      if (position == windowBytes) {
        let carry = one;
        for (let j: usize = windowBytes; j > 0; j -= 16) {
          const m = f32x4.pmin(suffixMinimum(v128.load(current + j - 16), one), carry);
          carry = v128.shuffle<f32>(m, m, 0, 0, 0, 0);
          v128.store(suffix + j - 16, m);
        }
        position = 0;
        prefix = one;
      }
    }
  }
  v128.store(channel, prefix, LIM_CHANNEL_PREFIX);
  store<f32>(channel, group1, LIM_CHANNEL_GROUPS);
  store<f32>(channel, group2, LIM_CHANNEL_GROUPS + 4);
  store<f32>(channel, bend1, LIM_CHANNEL_GROUPS + 8);
  store<f32>(channel, bend2, LIM_CHANNEL_GROUPS + 12);
  return <u32>position;
}

/**
 * Gains of both channels: they fall at once and recover exponentially, at first only to a share of what is remembered.
 * Leaves them in steps of the grid after what the first moving average holds; on the left where they are the same.
 */
function recover(s: usize, frames: usize): void {
  const minimumLeft: usize = load<u32>(s, LIM_LEFT + LIM_CHANNEL_MINIMUM), minimumRight: usize = load<u32>(s, LIM_RIGHT + LIM_CHANNEL_MINIMUM);
  const boxBytes: usize = load<u32>(s, LIM_BOX) << 3;
  const left = <usize>load<u32>(s, LIM_LEFT + LIM_CHANNEL_FIRST_BOX) + boxBytes, right = <usize>load<u32>(s, LIM_RIGHT + LIM_CHANNEL_FIRST_BOX) + boxBytes;
  const one = f64x2.splat(1), grid = f64x2.splat(GRID);
  const share = v128.load_splat<f64>(s + LIM_RECOVERY), keep = f64x2.sub(one, share), held = v128.load_splat<f64>(s + LIM_HELD);
  const apart = minimumLeft != minimumRight, remembers = load<f64>(s, LIM_HELD) > 0;
  const link = v128.load_splat<f64>(s + LIM_LINK), recoveryLink = v128.load_splat<f64>(s + LIM_RECOVERY_LINK);
  const rise = v128.load_splat<f64>(s + LIM_MEMORY_RISE), fall = v128.load_splat<f64>(s + LIM_MEMORY_FALL);
  let gain = v128.load(s, LIM_GAIN), remembered = v128.load(s, LIM_MEMORY);
  for (let i: usize = 0; i < frames; i++) {
    let need = f64x2.promote_low_f32x4(v128.load32_lane(minimumRight + (i << 2), v128.load32_zero(minimumLeft + (i << 2)), 1));
    if (apart) need = towards(need, f64x2.pmin(need, swapped(need)), link);
    const goal = remembers ? f64x2.pmin(need, f64x2.sub(one, f64x2.mul(held, remembered))) : need;
    let recovered = f64x2.add(f64x2.mul(gain, keep), f64x2.mul(goal, share));
    if (apart) recovered = towards(recovered, f64x2.pmin(recovered, swapped(recovered)), recoveryLink);
    gain = f64x2.pmin(need, recovered);
    if (remembers) {
      const reduction = f64x2.sub(one, gain);
      remembered = towards(remembered, reduction, v128.bitselect(rise, fall, f64x2.gt(reduction, remembered)));
    }
    const steps = f64x2.nearest(f64x2.mul(gain, grid));
    v128.store_lane<f64>(left + (i << 3), steps, 0);
    if (apart) v128.store_lane<f64>(right + (i << 3), steps, 1);
  }
  v128.store(s, gain, LIM_GAIN);
  v128.store(s, settled(remembered), LIM_MEMORY);
}

/** The sum so far with each of two values added, the first to both. */
@inline
function runningSums(sum: f64, two: v128): v128 {
  return f64x2.add(f64x2.splat(sum), f64x2.add(two, v128.shuffle<f64>(f64x2.splat(0), two, 0, 2)));
}

/**
 * Rounds the corners of a channel's gain by two moving averages and applies it to the delayed signal of that channel,
 * and with `other` to that of the other too.
 */
function applyGain(s: usize, channel: usize, x: usize, other: usize, y: usize, frames: usize): void {
  const first: usize = load<u32>(channel, LIM_CHANNEL_FIRST_BOX), second: usize = load<u32>(channel, LIM_CHANNEL_SECOND_BOX);
  const delayed: usize = load<u32>(channel, LIM_CHANNEL_DELAY), otherDelayed: usize = load<u32>(other ? other : channel, LIM_CHANNEL_DELAY);
  const boxBytes: usize = load<u32>(s, LIM_BOX) << 3, perBox = f64x2.splat(1 / <f64>load<u32>(s, LIM_BOX)), perStep = f64x2.splat(1 / GRID);
  let sum1 = load<f64>(channel, LIM_CHANNEL_SUM_1), sum2 = load<f64>(channel, LIM_CHANNEL_SUM_2), lowest = v128.load(s, LIM_LOWEST);
  for (let i: usize = 0; i < frames << 3; i += 16) {
    const sums = runningSums(sum1, f64x2.sub(v128.load(first + boxBytes + i), v128.load(first + i)));
    sum1 = f64x2.extract_lane(sums, 1);
    const smooth = f64x2.nearest(f64x2.mul(sums, perBox));
    const sumsOfSmooth = runningSums(sum2, f64x2.sub(smooth, v128.load(second + i)));
    sum2 = f64x2.extract_lane(sumsOfSmooth, 1);
    v128.store(second + boxBytes + i, smooth);
    const gain = f64x2.mul(f64x2.nearest(f64x2.mul(sumsOfSmooth, perBox)), perStep);
    lowest = f64x2.pmin(lowest, gain);
    v128.store(x + i, f64x2.mul(v128.load(delayed + i), gain));
    if (other) v128.store(y + i, f64x2.mul(v128.load(otherDelayed + i), gain));
  }
  store<f64>(channel, sum1, LIM_CHANNEL_SUM_1);
  store<f64>(channel, sum2, LIM_CHANNEL_SUM_2);
  v128.store(s, lowest, LIM_LOWEST);
  memory.copy(first, first + (frames << 3), boxBytes);
  memory.copy(second, second + (frames << 3), boxBytes);
}

/** The newest block of a channel after what was detected and delayed before. */
@inline
function take(channel: usize, x: usize, delayBytes: usize, frames: usize): void {
  toSingle(x, <usize>load<u32>(channel, LIM_CHANNEL_DETECT) + TAPS * 4, frames);
  memory.copy(<usize>load<u32>(channel, LIM_CHANNEL_DELAY) + delayBytes, x, frames << 3);
}

/** Moves the part of a channel that later blocks need to its front. */
@inline
function advance(channel: usize, delayBytes: usize, frames: usize): void {
  const detect: usize = load<u32>(channel, LIM_CHANNEL_DETECT), delay: usize = load<u32>(channel, LIM_CHANNEL_DELAY);
  memory.copy(detect, detect + (frames << 2), TAPS * 4);
  memory.copy(delay, delay + (frames << 3), delayBytes);
}

/** Holds the peaks of both channels below the ceiling; frames a multiple of 16. */
export function limiter(s: usize, left: usize, right: usize, frames: usize, onLevel: f32, onBend: f32): void {
  const delayBytes: usize = load<u32>(s, LIM_DELAY) << 3, linked = load<f64>(s, LIM_LINK) == 1;
  take(s + LIM_LEFT, left, delayBytes, frames);
  take(s + LIM_RIGHT, right, delayBytes, frames);
  const other = linked ? s + LIM_RIGHT : 0;
  const position = runningMinimum(s, s + LIM_LEFT, other, frames, onLevel, onBend);
  if (!linked) runningMinimum(s, s + LIM_RIGHT, 0, frames, onLevel, onBend);
  store<u32>(s, position, LIM_POSITION);
  recover(s, frames);
  applyGain(s, s + LIM_LEFT, left, other, right, frames);
  if (!linked) applyGain(s, s + LIM_RIGHT, right, 0, right, frames);
  advance(s + LIM_LEFT, delayBytes, frames);
  advance(s + LIM_RIGHT, delayBytes, frames);
}
