// Linkwitz–Riley crossover of the 4th order.
import { XO_A1, XO_A2, XO_HIGH, XO_LOW, XO_STATES } from '../layout';
import { settled } from './pairs';

/** x − a1·w1 − a2·w2 */
@inline
function recursion(x: v128, w1: v128, w2: v128, a1: v128, a2: v128): v128 {
  return f64x2.sub(f64x2.sub(x, f64x2.mul(a1, w1)), f64x2.mul(a2, w2));
}

/**
 * Splits pairs: what is below goes to `low`, what is above to `high`, which may be `x`. Low-pass and high-pass have the
 * same poles, so the first section of both is one recursion w (direct form II), from which w + 2w1 + w2 is the low and
 * w − 2w1 + w2 the high band; each then passes its second section.
 */
export function crossover(s: usize, x: usize, low: usize, high: usize, frames: usize): void {
  const a1 = v128.load_splat<f64>(s + XO_A1), a2 = v128.load_splat<f64>(s + XO_A2);
  const lowGain = v128.load_splat<f64>(s + XO_LOW), highGain = v128.load_splat<f64>(s + XO_HIGH);
  let w1 = v128.load(s, XO_STATES), w2 = v128.load(s, XO_STATES + 16);
  let u1 = v128.load(s, XO_STATES + 32), u2 = v128.load(s, XO_STATES + 48);
  let v1 = v128.load(s, XO_STATES + 64), v2 = v128.load(s, XO_STATES + 80);
  for (let i: usize = 0, end = frames << 4; i < end; i += 16) {
    const w = recursion(v128.load(x + i), w1, w2, a1, a2);
    const outer = f64x2.add(w, w2), inner = f64x2.add(w1, w1);
    const u = recursion(f64x2.add(outer, inner), u1, u2, a1, a2);
    const v = recursion(f64x2.sub(outer, inner), v1, v2, a1, a2);
    v128.store(low + i, f64x2.mul(lowGain, f64x2.add(f64x2.add(u, u2), f64x2.add(u1, u1))));
    v128.store(high + i, f64x2.mul(highGain, f64x2.sub(f64x2.add(v, v2), f64x2.add(v1, v1))));
    w2 = w1;
    w1 = w;
    u2 = u1;
    u1 = u;
    v2 = v1;
    v1 = v;
  }
  v128.store(s, settled(w1), XO_STATES);
  v128.store(s, settled(w2), XO_STATES + 16);
  v128.store(s, settled(u1), XO_STATES + 32);
  v128.store(s, settled(u2), XO_STATES + 48);
  v128.store(s, settled(v1), XO_STATES + 64);
  v128.store(s, settled(v2), XO_STATES + 80);
}
