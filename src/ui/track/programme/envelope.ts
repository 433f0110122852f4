import { PICTURE_FRAMES } from '../../../engine/measure/measurement';
import type { View } from './view';

/** Lowest and highest value in each column of pixels, from the picture or, when zoomed in, from the samples. */
export function envelope(
  view: View,
  width: number,
  picture: Float32Array | null,
  left: Float32Array,
  right: Float32Array,
): [low: Float32Array, high: Float32Array] {
  const low = new Float32Array(width);
  const high = new Float32Array(width);
  const perColumn = (view.end - view.start) / width;
  const coarse = picture !== null && perColumn > PICTURE_FRAMES * 2;
  for (let x = 0; x < width; x++) {
    const from = view.start + x * perColumn;
    const to = from + Math.max(1, perColumn);
    let l = Infinity;
    let h = -Infinity;
    if (coarse) {
      const last = Math.min(picture.length / 2 - 1, Math.ceil(to / PICTURE_FRAMES) - 1);
      for (let bin = Math.floor(from / PICTURE_FRAMES); bin <= last; bin++) {
        l = Math.min(l, picture[bin * 2]);
        h = Math.max(h, picture[bin * 2 + 1]);
      }
    } else {
      for (let i = Math.floor(from); i < to && i < left.length; i++) {
        l = Math.min(l, left[i], right[i]);
        h = Math.max(h, left[i], right[i]);
      }
    }
    low[x] = l === Infinity ? 0 : l;
    high[x] = h === -Infinity ? 0 : h;
  }
  return [low, high];
}
