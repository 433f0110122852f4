// Copies and delays of f64 blocks.

/** Copies a block elsewhere. */
export function copy(x: usize, out: usize, frames: usize): void {
  memory.copy(out, x, frames << 3);
}

/**
 * One channel through a ring of `size` frames, in place: written at `position`, read `late` frames before it; late +
 * frames ≤ size.
 */
export function delay(ring: usize, size: usize, position: usize, late: usize, x: usize, frames: usize): void {
  const untilEnd = min<usize>(frames, size - position);
  copy(x, ring + (position << 3), untilEnd);
  copy(x + (untilEnd << 3), ring, frames - untilEnd);
  const from = position >= late ? position - late : position + size - late, first = min<usize>(frames, size - from);
  copy(ring + (from << 3), x, first);
  copy(ring, x + (first << 3), frames - first);
}
