// Curves that bend a waveform, in f32 at the oversampled rate.
import {
  CLIP_CEILING, CLIP_CURVE, CLIP_KNEE, CLIP_LOUDEST, CLIP_REMOVED_ONLY, CLIP_TOUCHED, SHAPE_BIAS, SHAPE_CURVE, SHAPE_DRIVE, SHAPE_GAIN,
} from '../layout';
import { larger, horizontalMax } from './peaks';

@inline
function splat(x: f32): v128 {
  return f32x4.splat(x);
}

@inline
function withSign(size: v128, sign: v128): v128 {
  return v128.bitselect(sign, size, splat(-0.0));
}

/** u / √(1 + u²) */
@inline
function bowed(u: v128): v128 {
  return f32x4.div(u, f32x4.sqrt(f32x4.add(splat(1), f32x4.mul(u, u))));
}

/** u (27 + u²) / (27 + 9 u²) up to 3, then 1: near the hyperbolic tangent, and level where it arrives. */
@inline
function firm(u: v128): v128 {
  const held = f32x4.pmax(splat(-3), f32x4.pmin(splat(3), u)), square = f32x4.mul(held, held);
  return f32x4.div(f32x4.mul(held, f32x4.add(splat(27), square)), f32x4.add(splat(27), f32x4.mul(splat(9), square)));
}

/** u / (1 + u⁴)^¼: straight for longer. */
@inline
function tight(u: v128): v128 {
  const square = f32x4.mul(u, u);
  return f32x4.div(u, f32x4.sqrt(f32x4.sqrt(f32x4.add(splat(1), f32x4.mul(square, square)))));
}

/** Straight up to a half, then bowed towards 1. */
@inline
function late(u: v128): v128 {
  const half = splat(0.5), size = f32x4.abs(u), beyond = f32x4.pmax(splat(0), f32x4.sub(size, half));
  const bent = f32x4.add(f32x4.pmin(size, half), f32x4.mul(half, bowed(f32x4.add(beyond, beyond))));
  return withSign(bent, u);
}

/** u + u² / (2 (1 + u²)): the odd part is straight, so that only even harmonics are added. */
@inline
function even(u: v128): v128 {
  const square = f32x4.mul(u, u);
  return f32x4.add(u, f32x4.div(square, f32x4.add(splat(2), f32x4.add(square, square))));
}

/** s + s² / 4, where s is the bowed curve. */
@inline
function mixed(u: v128): v128 {
  const s = bowed(u);
  return f32x4.add(s, f32x4.mul(splat(0.25), f32x4.mul(s, s)));
}

/** s + s² / 4, where s is the firm curve. */
@inline
function mixedFirm(u: v128): v128 {
  const s = firm(u);
  return f32x4.add(s, f32x4.mul(splat(0.25), f32x4.mul(s, s)));
}

@inline
function curve(kind: i32, u: v128): v128 {
  if (kind == 0) return bowed(u);
  if (kind == 1) return firm(u);
  if (kind == 2) return tight(u);
  if (kind == 3) return late(u);
  if (kind == 4) return even(u);
  if (kind == 5) return mixed(u);
  return mixedFirm(u);
}

/** gain · (f(drive · x + bias) − f(bias)) */
@inline
function bend(kind: i32, s: usize, x: usize, frames: usize): void {
  const drive = v128.load32_splat(s, SHAPE_DRIVE), bias = v128.load32_splat(s, SHAPE_BIAS), gain = v128.load32_splat(s, SHAPE_GAIN);
  const rest = f32x4.mul(gain, curve(kind, bias));
  for (let p = x, end = x + (frames << 2); p < end; p += 16) {
    const u = f32x4.add(f32x4.mul(drive, v128.load(p)), bias);
    v128.store(p, f32x4.sub(f32x4.mul(gain, curve(kind, u)), rest));
  }
}

/** Saturates one channel in place; frames a multiple of 4. */
export function saturate(s: usize, x: usize, frames: usize): void {
  switch (load<u32>(s, SHAPE_CURVE)) {
    case 0: return bend(0, s, x, frames);
    case 1: return bend(1, s, x, frames);
    case 2: return bend(2, s, x, frames);
    case 3: return bend(3, s, x, frames);
    case 4: return bend(4, s, x, frames);
    case 5: return bend(5, s, x, frames);
    default: return bend(6, s, x, frames);
  }
}

/** Share of the knee used by a sample v knees above its start: from 0 with a slope of 1 up to 1. */
@inline
function knee(kind: i32, v: v128): v128 {
  // v − v²/4, there at 2
  if (kind == 1) {
    const held = f32x4.pmin(splat(2), v);
    return f32x4.mul(held, f32x4.sub(splat(1), f32x4.mul(splat(0.25), held)));
  }
  // v − 4v³/27, there at 1.5, without a corner in its bend
  if (kind == 2) {
    const held = f32x4.pmin(splat(1.5), v);
    return f32x4.mul(held, f32x4.sub(splat(1), f32x4.mul(splat(4.0 / 27), f32x4.mul(held, held))));
  }
  if (kind == 3) return firm(v);
  if (kind == 4) return bowed(v);
  return f32x4.div(v, f32x4.add(splat(1), v));
}

@inline
function cut(kind: i32, s: usize, x: usize, frames: usize): void {
  const ceiling = v128.load32_splat(s, CLIP_CEILING), width = v128.load32_splat(s, CLIP_KNEE);
  const start = f32x4.sub(ceiling, width), perWidth = f32x4.div(splat(1), width), own = splat(load<u32>(s, CLIP_REMOVED_ONLY) ? 1 : 0);
  let loudest = splat(0), touched = i32x4.splat(0);
  for (let p = x, end = x + (frames << 2); p < end; p += 16) {
    const u = v128.load(p), size = f32x4.abs(u);
    loudest = f32x4.pmax(loudest, size);
    touched = i32x4.sub(touched, f32x4.gt(size, start));
    let out: v128;
    if (kind == 0) {
      out = f32x4.pmin(size, ceiling);
    } else {
      const beyond = f32x4.mul(f32x4.pmax(splat(0), f32x4.sub(size, start)), perWidth);
      out = f32x4.add(f32x4.pmin(size, start), f32x4.mul(width, knee(kind, beyond)));
    }
    v128.store(p, f32x4.sub(withSign(out, u), f32x4.mul(own, u)));
  }
  store<f32>(s, larger(load<f32>(s, CLIP_LOUDEST), horizontalMax(loudest)), CLIP_LOUDEST);
  const count = i32x4.extract_lane(touched, 0) + i32x4.extract_lane(touched, 1) + i32x4.extract_lane(touched, 2) + i32x4.extract_lane(touched, 3);
  store<u32>(s, load<u32>(s, CLIP_TOUCHED) + <u32>count, CLIP_TOUCHED);
}

/** Clips one channel in place at a ceiling, with a knee of the ceiling's width below it; frames a multiple of 4. */
export function clip(s: usize, x: usize, frames: usize): void {
  switch (load<u32>(s, CLIP_CURVE)) {
    case 0: return cut(0, s, x, frames);
    case 1: return cut(1, s, x, frames);
    case 2: return cut(2, s, x, frames);
    case 3: return cut(3, s, x, frames);
    case 4: return cut(4, s, x, frames);
    default: return cut(5, s, x, frames);
  }
}
