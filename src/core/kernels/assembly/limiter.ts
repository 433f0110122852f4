// Look-ahead limiter: required gain from interpolated peaks, running minimum (van Herk), recovery, two smoothing boxes.
import {
  GROUP, INTERPOLATION_DELAY, LIM_BOX, LIM_CEILING, LIM_CURRENT, LIM_DELAY, LIM_DELAY_LEFT, LIM_DELAY_RIGHT, LIM_DETECT_LEFT, LIM_DETECT_RIGHT,
  LIM_FIRST_BOX, LIM_GAIN, LIM_GROUPS, LIM_LOWEST, LIM_MINIMUM, LIM_POSITION, LIM_PREFIX, LIM_RECOVERY,
  LIM_SECOND_BOX, LIM_SUFFIX, LIM_SUM_1, LIM_SUM_2, LIM_WINDOW, TAPS,
} from '../layout';
import { annex2Peaks, finePeaks, groupBend, groupPeak, larger, toSingle } from './peaks';

/** Gains are rounded to this grid, so that the running sums stay exact in f64 and an idle limiter multiplies by exactly 1. */
const GRID: f64 = 1073741824;

@inline
function onGrid(gain: f64): f64 {
  return nearest(gain * GRID) * (1 / GRID);
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

/** Gain that keeps the interpolated peaks of both sides at the four frames at p and q below the ceiling. */
@inline
function requiredGain(p: usize, q: usize, ceiling: v128): v128 {
  return f32x4.div(ceiling, f32x4.pmax(ceiling, f32x4.pmax(f32x4.pmax(finePeaks(p), annex2Peaks(p)), f32x4.pmax(finePeaks(q), annex2Peaks(q)))));
}

/** Running minimum of the required gain over the window, for each frame, as f32 at LIM_MINIMUM. */
function runningMinimum(s: usize, frames: usize, onLevel: f32, onBend: f32): void {
  const detectLeft: usize = load<u32>(s, LIM_DETECT_LEFT), detectRight: usize = load<u32>(s, LIM_DETECT_RIGHT);
  const current: usize = load<u32>(s, LIM_CURRENT), suffix: usize = load<u32>(s, LIM_SUFFIX), minimum: usize = load<u32>(s, LIM_MINIMUM);
  const windowBytes: usize = load<u32>(s, LIM_WINDOW) << 2;
  const one = f32x4.splat(1), limit = <f32>load<f64>(s, LIM_CEILING), ceiling = f32x4.splat(limit);
  let prefix = v128.load(s, LIM_PREFIX), position: usize = load<u32>(s, LIM_POSITION);
  let group1 = load<f32>(s, LIM_GROUPS), group2 = load<f32>(s, LIM_GROUPS + 4);
  let bend1 = load<f32>(s, LIM_GROUPS + 8), bend2 = load<f32>(s, LIM_GROUPS + 12);
  for (let i: usize = 0; i < frames; i += GROUP) {
    const newest: usize = <usize>(TAPS * 4) + (i << 2);
    const group = larger(groupPeak(detectLeft + newest), groupPeak(detectRight + newest));
    const bend = larger(groupBend(detectLeft + newest), groupBend(detectRight + newest));
    const level = larger(group, larger(group1, group2)), sharpest = larger(bend, larger(bend1, bend2));
    const reaches = level * onLevel + sharpest * onBend > limit;
    group2 = group1;
    group1 = group;
    bend2 = bend1;
    bend1 = bend;
    for (let k: usize = i << 2; k < (i + <usize>GROUP) << 2; k += 16) {
      const g = reaches ? requiredGain(detectLeft + 4 + k, detectRight + 4 + k, ceiling) : one;
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
  v128.store(s, prefix, LIM_PREFIX);
  store<u32>(s, <u32>position, LIM_POSITION);
  store<f32>(s, group1, LIM_GROUPS);
  store<f32>(s, group2, LIM_GROUPS + 4);
  store<f32>(s, bend1, LIM_GROUPS + 8);
  store<f32>(s, bend2, LIM_GROUPS + 12);
}

/** Gain falls at once and recovers exponentially; two moving averages round its corners; the result is applied to the delayed signal. */
export function limiter(s: usize, left: usize, right: usize, frames: usize, onLevel: f32, onBend: f32): void {
  const detectLeft: usize = load<u32>(s, LIM_DETECT_LEFT), detectRight: usize = load<u32>(s, LIM_DETECT_RIGHT);
  toSingle(left, detectLeft + TAPS * 4, frames);
  toSingle(right, detectRight + TAPS * 4, frames);
  runningMinimum(s, frames, onLevel, onBend);
  memory.copy(detectLeft, detectLeft + (frames << 2), TAPS * 4);
  memory.copy(detectRight, detectRight + (frames << 2), TAPS * 4);

  const delayBytes: usize = load<u32>(s, LIM_DELAY) << 3, blockBytes = frames << 3;
  const delayLeft: usize = load<u32>(s, LIM_DELAY_LEFT), delayRight: usize = load<u32>(s, LIM_DELAY_RIGHT);
  memory.copy(delayLeft + delayBytes, left, blockBytes);
  memory.copy(delayRight + delayBytes, right, blockBytes);

  const minimum: usize = load<u32>(s, LIM_MINIMUM), first: usize = load<u32>(s, LIM_FIRST_BOX), second: usize = load<u32>(s, LIM_SECOND_BOX);
  const boxBytes: usize = load<u32>(s, LIM_BOX) << 3, perBox = 1 / <f64>load<u32>(s, LIM_BOX), recovery = load<f64>(s, LIM_RECOVERY);
  let gain = load<f64>(s, LIM_GAIN), sum1 = load<f64>(s, LIM_SUM_1), sum2 = load<f64>(s, LIM_SUM_2), lowest = load<f64>(s, LIM_LOWEST);
  for (let i: usize = 0; i < blockBytes; i += 8) {
    const target = <f64>load<f32>(minimum + (i >> 1));
    gain = min(target, gain + (target - gain) * recovery);
    const released = onGrid(gain);
    sum1 += released - load<f64>(first + i);
    store<f64>(first + boxBytes + i, released);
    const smooth = onGrid(sum1 * perBox);
    sum2 += smooth - load<f64>(second + i);
    store<f64>(second + boxBytes + i, smooth);
    const applied = onGrid(sum2 * perBox);
    lowest = min(lowest, applied);
    store<f64>(left + i, load<f64>(delayLeft + i) * applied);
    store<f64>(right + i, load<f64>(delayRight + i) * applied);
  }
  store<f64>(s, gain, LIM_GAIN);
  store<f64>(s, sum1, LIM_SUM_1);
  store<f64>(s, sum2, LIM_SUM_2);
  store<f64>(s, lowest, LIM_LOWEST);
  memory.copy(first, first + blockBytes, boxBytes);
  memory.copy(second, second + blockBytes, boxBytes);
  memory.copy(delayLeft, delayLeft + blockBytes, delayBytes);
  memory.copy(delayRight, delayRight + blockBytes, delayBytes);
}
