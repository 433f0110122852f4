// Gain, extent and moments of a planar f64 stereo block.

/** x[i] *= gain, gain += step, for both sides. */
export function gain(left: usize, right: usize, frames: usize, gainLeft: f64, gainRight: f64, stepLeft: f64, stepRight: f64): void {
  let g = f64x2(gainLeft, gainRight);
  const step = f64x2(stepLeft, stepRight);
  for (let i: usize = 0, end = frames << 3; i < end; i += 8) {
    store<f64>(left + i, load<f64>(left + i) * f64x2.extract_lane(g, 0));
    store<f64>(right + i, load<f64>(right + i) * f64x2.extract_lane(g, 1));
    g = f64x2.add(g, step);
  }
}

/** Lowest and highest sample of one side, written as two f64 at `out`; frames a multiple of 4. */
export function extent(x: usize, frames: usize, out: usize): void {
  let low = v128.load(x);
  let high = low;
  for (let p = x, end = x + (frames << 3); p < end; p += 32) {
    const a = v128.load(p);
    const b = v128.load(p, 16);
    low = f64x2.pmin(low, f64x2.pmin(a, b));
    high = f64x2.pmax(high, f64x2.pmax(a, b));
  }
  store<f64>(out, min(f64x2.extract_lane(low, 0), f64x2.extract_lane(low, 1)));
  store<f64>(out, max(f64x2.extract_lane(high, 0), f64x2.extract_lane(high, 1)), 8);
}
