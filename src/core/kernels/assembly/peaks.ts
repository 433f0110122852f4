// Interpolated (true) peaks in f32: a 4x interpolator of 32 taps a phase whose phase 0 is the signal itself. Phases 1
// and 3 mirror each other and phase 2 is symmetric, so pairs of taps are added and subtracted once and shared.
import {
  ANNEX2_FIRST, GROUP, HALF_TAPS, INTERPOLATION_DELAY, TAPS, TP_GROUP_1, TP_GROUP_2, TP_OVERS, TP_PEAK, TP_SAMPLE_PEAK, TP_SIGNAL,
} from '../layout';

/** Per pair of taps: even part of phase 1, odd part of phase 1, phase 2; each splat to an f32x4. */
const FINE = memory.data(HALF_TAPS * 48, 16);
/** Per pair of taps of Annex 2: even and odd part of its phase 0, then of its phase 1. */
const ANNEX2 = memory.data(6 * 64, 16);

/** Per pair of taps: even and odd part of the phase 1/8, then of 3/8. */
const EIGHTHS = memory.data(HALF_TAPS * 64, 16);

export function eighthsTable(): usize {
  return EIGHTHS;
}
export function fineTable(): usize {
  return FINE;
}
export function annex2Table(): usize {
  return ANNEX2;
}

@inline
function multiplyAdd(a: v128, b: v128, c: v128): v128 {
  return f32x4.add(f32x4.mul(a, b), c);
}

/** Larger of |phase 1| and |phase 3|, which are the sum and the difference of an even and an odd part. */
@inline
function mirrored(even: v128, odd: v128): v128 {
  return f32x4.add(f32x4.abs(even), f32x4.abs(odd));
}

/** Largest of the fine interpolation's four points at each of the four frames whose windows start at p. */
@inline
export function finePeaks(p: usize): v128 {
  let even = f32x4.splat(0), odd = even, middle = even;
  let front = p, back = p + 4 * (TAPS - 1);
  for (let c: usize = FINE; c < FINE + HALF_TAPS * 48; c += 96) {
    let x = v128.load(front), y = v128.load(back);
    let sum = f32x4.add(x, y);
    even = multiplyAdd(v128.load(c), sum, even);
    odd = multiplyAdd(v128.load(c, 16), f32x4.sub(x, y), odd);
    middle = multiplyAdd(v128.load(c, 32), sum, middle);
    x = v128.load(front, 4);
    y = v128.load(back - 4);
    sum = f32x4.add(x, y);
    even = multiplyAdd(v128.load(c, 48), sum, even);
    odd = multiplyAdd(v128.load(c, 64), f32x4.sub(x, y), odd);
    middle = multiplyAdd(v128.load(c, 80), sum, middle);
    front += 8;
    back -= 8;
  }
  const between = f32x4.pmax(mirrored(even, odd), f32x4.abs(middle));
  return f32x4.pmax(between, samplePeaks(p));
}

/** The samples themselves at the four frames whose windows start at p. */
@inline
export function samplePeaks(p: usize): v128 {
  return f32x4.abs(v128.load(p, 4 * (TAPS - 1 - INTERPOLATION_DELAY)));
}

/**
 * Largest point of two phases and of those that mirror them, with even and odd parts from `table` to `end`, taps from
 * `front` and `back` inwards.
 */
@inline
function twoPhasePeaks(front: usize, back: usize, table: usize, end: usize): v128 {
  let even = f32x4.splat(0), odd = even, evenInner = even, oddInner = even;
  for (let c = table; c < end; c += 64) {
    const x = v128.load(front), y = v128.load(back);
    const sum = f32x4.add(x, y), difference = f32x4.sub(x, y);
    even = multiplyAdd(v128.load(c), sum, even);
    odd = multiplyAdd(v128.load(c, 16), difference, odd);
    evenInner = multiplyAdd(v128.load(c, 32), sum, evenInner);
    oddInner = multiplyAdd(v128.load(c, 48), difference, oddInner);
    front += 4;
    back -= 4;
  }
  return f32x4.pmax(mirrored(even, odd), mirrored(evenInner, oddInner));
}

/**
 * Largest of the four points at odd eighths between the samples at each of the four frames whose windows start at p.
 */
export function eighthPeaks(p: usize): v128 {
  return twoPhasePeaks(p, p + 4 * (TAPS - 1), EIGHTHS, EIGHTHS + HALF_TAPS * 64);
}

/** The same by the 12-tap phases of ITU-R BS.1770 Annex 2, centred on the same instant. */
@inline
export function annex2Peaks(p: usize): v128 {
  return twoPhasePeaks(p + 4 * ANNEX2_FIRST, p + 4 * (TAPS - 1 - ANNEX2_FIRST), ANNEX2, ANNEX2 + 6 * 64);
}

/** WebAssembly's own maximum of two numbers is slow, since it checks for NaN. */
@inline
export function larger(a: f32, b: f32): f32 {
  return a > b ? a : b;
}

@inline
export function horizontalMax(v: v128): f32 {
  const a = f32x4.pmax(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return max(f32x4.extract_lane(a, 0), f32x4.extract_lane(a, 1));
}

/** Loudest sample of one group of 16. */
@inline
export function groupPeak(p: usize): f32 {
  const a = f32x4.pmax(f32x4.abs(v128.load(p)), f32x4.abs(v128.load(p, 16)));
  const b = f32x4.pmax(f32x4.abs(v128.load(p, 32)), f32x4.abs(v128.load(p, 48)));
  return horizontalMax(f32x4.pmax(a, b));
}

/**
 * Sharpest bend (a quarter of the second difference) at the samples of one group and the one before it, but its last.
 */
@inline
export function groupBend(p: usize): f32 {
  const two = f32x4.splat(2);
  let most = f32x4.splat(0);
  for (let i: usize = 0; i < 64; i += 16) {
    const outer = f32x4.add(v128.load(p + i), v128.load(p + i - 8));
    most = f32x4.pmax(most, f32x4.abs(f32x4.sub(outer, f32x4.mul(two, v128.load(p + i - 4)))));
  }
  return horizontalMax(most) * 0.25;
}

/** Four f64 samples as f32. */
@inline
export function single(x: usize): v128 {
  return v128.shuffle<i32>(f32x4.demote_f64x2_zero(v128.load(x)), f32x4.demote_f64x2_zero(v128.load(x, 16)), 0, 1, 4, 5);
}

/** f64 to f32, frames a multiple of 4. */
export function toSingle(x: usize, out: usize, frames: usize): void {
  for (let i: usize = 0; i < frames; i += 4) v128.store(out + (i << 2), single(x + (i << 3)));
}

/** Frames of a group whose interpolated peak is above full scale. */
function groupOvers(window: usize): u32 {
  let overs: u32 = 0;
  for (let k: usize = 0; k < 64; k += 16) {
    overs += popcnt(i32x4.bitmask(f32x4.gt(finePeaks(window + k), f32x4.splat(1))));
  }
  return overs;
}

/** Larger of the lanes of a and of those of b: lanes 0 and 2. */
@inline
function horizontalMaxima(a: v128, b: v128): v128 {
  const folded = f32x4.pmax(v128.shuffle<f32>(a, b, 0, 1, 4, 5), v128.shuffle<f32>(a, b, 2, 3, 6, 7));
  return f32x4.pmax(folded, v128.shuffle<f32>(folded, folded, 1, 0, 3, 2));
}

/**
 * Sample peak and true peak of one channel. A signal is its average over three samples and its bend, so no interpolated
 * point is above `onLevel` times the loudest sample of its window plus `onBend` times the sharpest bend there: where
 * that reaches neither the peak so far nor full scale, nothing needs to be interpolated.
 */
export function truePeak(s: usize, x: usize, frames: usize, onLevel: f32, onBend: f32): void {
  const signal = s + TP_SIGNAL, two = f32x4.splat(2), quarter = f32x4.splat(0.25);
  let peak = load<f32>(s, TP_PEAK), overs = load<u32>(s, TP_OVERS);
  // Lane 0: the loudest sample of a group, lane 2: its sharpest bend.
  let group1 = v128.load(s, TP_GROUP_1), group2 = v128.load(s, TP_GROUP_2);
  let highest = v128.load(s, TP_SAMPLE_PEAK), last = v128.load(signal + (TAPS - 4) * 4);
  for (let i: usize = 0; i < frames; i += GROUP) {
    const window = signal + 4 + (i << 2);
    let level = f32x4.splat(0), bend = level;
    for (let k: usize = 0; k < <usize>GROUP; k += 4) {
      const v = single(x + ((i + k) << 3));
      v128.store(window + (TAPS - 1) * 4 + (k << 2), v);
      level = f32x4.pmax(level, f32x4.abs(v));
      const outer = f32x4.add(v, v128.shuffle<f32>(last, v, 2, 3, 4, 5));
      bend = f32x4.pmax(bend, f32x4.abs(f32x4.sub(outer, f32x4.mul(two, v128.shuffle<f32>(last, v, 3, 4, 5, 6)))));
      last = v;
    }
    highest = f32x4.pmax(highest, level);
    const group = horizontalMaxima(level, f32x4.mul(quarter, bend));
    const most = f32x4.pmax(group, f32x4.pmax(group1, group2));
    if (f32x4.extract_lane(most, 0) * onLevel + f32x4.extract_lane(most, 2) * onBend > (peak < 1 ? peak : 1)) {
      const found = horizontalMax(f32x4.pmax(f32x4.pmax(finePeaks(window), finePeaks(window + 16)), f32x4.pmax(finePeaks(window + 32), finePeaks(window + 48))));
      peak = larger(peak, found);
      if (found > 1) overs += groupOvers(window);
    }
    group2 = group1;
    group1 = group;
  }
  v128.store(s, highest, TP_SAMPLE_PEAK);
  v128.store(s, group1, TP_GROUP_1);
  v128.store(s, group2, TP_GROUP_2);
  store<f32>(s, peak, TP_PEAK);
  store<u32>(s, overs, TP_OVERS);
  memory.copy(signal, signal + (frames << 2), TAPS * 4);
}
