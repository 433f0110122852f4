import { QUANTUM } from '../../core/kernels/layout';

/** Places of one quantum: for each frame the frame of the track it comes from, and a gain that dips at the seam of a loop. */
export interface Places {
  frames: Int32Array;
  gains: Float32Array;
}

export function makePlaces(): Places {
  return { frames: new Int32Array(QUANTUM), gains: new Float32Array(QUANTUM) };
}

/** A rendered stereo signal or a mix: planar channels of equal length, in shared memory on a page. */
export interface StereoBuffer {
  left: Float32Array;
  right: Float32Array;
}

/** Reads a quantum of a buffer at places; silence outside it. */
export function readAt(
  { left, right }: StereoBuffer,
  { frames, gains }: Places,
  outLeft: Float32Array | Float64Array,
  outRight: Float32Array | Float64Array,
): void {
  const length = left.length;
  for (let i = 0; i < QUANTUM; i++) {
    const at = frames[i];
    const inside = at >= 0 && at < length;
    outLeft[i] = inside ? left[at] * gains[i] : 0;
    outRight[i] = inside ? right[at] * gains[i] : 0;
  }
}
