// Recursive filters: left and right of a frame travel together as an f64x2.
import {
  KW_ENERGY, KW_HIGH_PASS, KW_SHELF, KW_STATE, QUANTUM,
  SECTION_A1, SECTION_A2, SECTION_B0, SECTION_B1, SECTION_B2, SECTION_S1, SECTION_S2,
} from '../layout';
import { loadPair, multiplyAdd, settled, storePair } from './pairs';

const FRAMES = memory.data(QUANTUM * 16, 16);

/** Transposed direct form II over pairs in place: y = b0 x + s1; s1 = b1 x − a1 y + s2; s2 = b2 x − a2 y. */
export function section(s: usize, x: usize, frames: usize): void {
  const b0 = v128.load(s, SECTION_B0), b1 = v128.load(s, SECTION_B1), b2 = v128.load(s, SECTION_B2);
  const a1 = v128.load(s, SECTION_A1), a2 = v128.load(s, SECTION_A2);
  let s1 = v128.load(s, SECTION_S1), s2 = v128.load(s, SECTION_S2);
  for (let p = x, end = x + (frames << 4); p < end; p += 16) {
    const u = v128.load(p);
    const y = multiplyAdd(b0, u, s1);
    s1 = f64x2.sub(multiplyAdd(b1, u, s2), f64x2.mul(a1, y));
    s2 = f64x2.sub(f64x2.mul(b2, u), f64x2.mul(a2, y));
    v128.store(p, y);
  }
  v128.store(s, settled(s1), SECTION_S1);
  v128.store(s, settled(s2), SECTION_S2);
}

/** Two sections in one sweep: their recursions overlap in the processor's pipeline. */
function sectionPair(s: usize, t: usize, frames: usize): void {
  const b0 = v128.load(s, SECTION_B0), b1 = v128.load(s, SECTION_B1), b2 = v128.load(s, SECTION_B2);
  const a1 = v128.load(s, SECTION_A1), a2 = v128.load(s, SECTION_A2);
  const d0 = v128.load(t, SECTION_B0), d1 = v128.load(t, SECTION_B1), d2 = v128.load(t, SECTION_B2);
  const c1 = v128.load(t, SECTION_A1), c2 = v128.load(t, SECTION_A2);
  let s1 = v128.load(s, SECTION_S1), s2 = v128.load(s, SECTION_S2);
  let t1 = v128.load(t, SECTION_S1), t2 = v128.load(t, SECTION_S2);
  for (let p: usize = FRAMES, end = FRAMES + (frames << 4); p < end; p += 16) {
    const x = v128.load(p);
    const y = multiplyAdd(b0, x, s1);
    s1 = f64x2.sub(multiplyAdd(b1, x, s2), f64x2.mul(a1, y));
    s2 = f64x2.sub(f64x2.mul(b2, x), f64x2.mul(a2, y));
    const z = multiplyAdd(d0, y, t1);
    t1 = f64x2.sub(multiplyAdd(d1, y, t2), f64x2.mul(c1, z));
    t2 = f64x2.sub(f64x2.mul(d2, y), f64x2.mul(c2, z));
    v128.store(p, z);
  }
  v128.store(s, settled(s1), SECTION_S1);
  v128.store(s, settled(s2), SECTION_S2);
  v128.store(t, settled(t1), SECTION_S1);
  v128.store(t, settled(t2), SECTION_S2);
}

/**
 * Four sections with b0 = 1 in one sweep: each waits for its own last output, so that four recursions keep the
 * processor busy where one would leave it idle.
 */
function fourUnitSections(s: usize, t: usize, u: usize, v: usize, frames: usize): void {
  let s1 = v128.load(s, SECTION_S1), s2 = v128.load(s, SECTION_S2);
  let t1 = v128.load(t, SECTION_S1), t2 = v128.load(t, SECTION_S2);
  let u1 = v128.load(u, SECTION_S1), u2 = v128.load(u, SECTION_S2);
  let v1 = v128.load(v, SECTION_S1), v2 = v128.load(v, SECTION_S2);
  for (let p: usize = FRAMES, end = FRAMES + (frames << 4); p < end; p += 16) {
    let x = v128.load(p);
    let y = f64x2.add(x, s1);
    s1 = f64x2.sub(multiplyAdd(v128.load(s, SECTION_B1), x, s2), f64x2.mul(v128.load(s, SECTION_A1), y));
    s2 = f64x2.sub(f64x2.mul(v128.load(s, SECTION_B2), x), f64x2.mul(v128.load(s, SECTION_A2), y));
    x = y;
    y = f64x2.add(x, t1);
    t1 = f64x2.sub(multiplyAdd(v128.load(t, SECTION_B1), x, t2), f64x2.mul(v128.load(t, SECTION_A1), y));
    t2 = f64x2.sub(f64x2.mul(v128.load(t, SECTION_B2), x), f64x2.mul(v128.load(t, SECTION_A2), y));
    x = y;
    y = f64x2.add(x, u1);
    u1 = f64x2.sub(multiplyAdd(v128.load(u, SECTION_B1), x, u2), f64x2.mul(v128.load(u, SECTION_A1), y));
    u2 = f64x2.sub(f64x2.mul(v128.load(u, SECTION_B2), x), f64x2.mul(v128.load(u, SECTION_A2), y));
    x = y;
    y = f64x2.add(x, v1);
    v1 = f64x2.sub(multiplyAdd(v128.load(v, SECTION_B1), x, v2), f64x2.mul(v128.load(v, SECTION_A1), y));
    v2 = f64x2.sub(f64x2.mul(v128.load(v, SECTION_B2), x), f64x2.mul(v128.load(v, SECTION_A2), y));
    v128.store(p, y);
  }
  v128.store(s, settled(s1), SECTION_S1);
  v128.store(s, settled(s2), SECTION_S2);
  v128.store(t, settled(t1), SECTION_S1);
  v128.store(t, settled(t2), SECTION_S2);
  v128.store(u, settled(u1), SECTION_S1);
  v128.store(u, settled(u2), SECTION_S2);
  v128.store(v, settled(v1), SECTION_S1);
  v128.store(v, settled(v2), SECTION_S2);
}

/**
 * Runs `count` sections, whose addresses are at `list` (u32), over a block in place. The first `units` of them have
 * b0 = 1; what their leading coefficients were multiplies the input as `gain` (f64x2).
 */
export function cascade(
  list: usize, count: usize, units: usize, gain: usize, left: usize, right: usize, frames: usize,
): void {
  const g = v128.load(gain);
  for (let done: usize = 0; done < frames; done += QUANTUM) {
    const part = min<usize>(QUANTUM, frames - done);
    const l = left + (done << 3), r = right + (done << 3);
    for (let i: usize = 0; i < part; i++) {
      v128.store(FRAMES + (i << 4), f64x2.mul(g, loadPair(l + (i << 3), r + (i << 3))));
    }
    let k: usize = 0;
    for (; k + 3 < units; k += 4) {
      const at = list + (k << 2);
      fourUnitSections(load<u32>(at), load<u32>(at, 4), load<u32>(at, 8), load<u32>(at, 12), part);
    }
    for (; k + 1 < count; k += 2) sectionPair(load<u32>(list + (k << 2)), load<u32>(list + (k << 2), 4), part);
    if (k < count) section(load<u32>(list + (k << 2)), FRAMES, part);
    for (let i: usize = 0; i < part; i++) storePair(l + (i << 3), r + (i << 3), v128.load(FRAMES + (i << 4)));
  }
}

/** K-weighting of ITU-R BS.1770 (shelf, then high-pass with numerator 1, −2, 1); adds the squares to the energy. */
export function kWeightedEnergy(s: usize, left: usize, right: usize, frames: usize): void {
  const b0 = v128.load(s, KW_SHELF), b1 = v128.load(s, KW_SHELF + 16), b2 = v128.load(s, KW_SHELF + 32);
  const a1 = v128.load(s, KW_SHELF + 48), a2 = v128.load(s, KW_SHELF + 64);
  const c1 = v128.load(s, KW_HIGH_PASS), c2 = v128.load(s, KW_HIGH_PASS + 16);
  let s1 = v128.load(s, KW_STATE), s2 = v128.load(s, KW_STATE + 16);
  let t1 = v128.load(s, KW_STATE + 32), t2 = v128.load(s, KW_STATE + 48);
  let energy = v128.load(s, KW_ENERGY);
  for (let i: usize = 0, end = frames << 3; i < end; i += 8) {
    const x = loadPair(left + i, right + i);
    const y = multiplyAdd(b0, x, s1);
    s1 = f64x2.sub(multiplyAdd(b1, x, s2), f64x2.mul(a1, y));
    s2 = f64x2.sub(f64x2.mul(b2, x), f64x2.mul(a2, y));
    const z = f64x2.add(y, t1);
    t1 = f64x2.sub(f64x2.sub(t2, f64x2.add(y, y)), f64x2.mul(c1, z));
    t2 = f64x2.sub(y, f64x2.mul(c2, z));
    energy = multiplyAdd(z, z, energy);
  }
  v128.store(s, settled(s1), KW_STATE);
  v128.store(s, settled(s2), KW_STATE + 16);
  v128.store(s, settled(t1), KW_STATE + 32);
  v128.store(s, settled(t2), KW_STATE + 48);
  v128.store(s, energy, KW_ENERGY);
}
