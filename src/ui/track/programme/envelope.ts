import { PICTURE_FRAMES } from '../../../engine/measure/measurement';
import type { DrawnProgramme } from './draw-programme';
import type { View } from './view';

/**
 * Lowest and highest value in each column of pixels: from the samples when zoomed in, else from the picture, which also
 * stands in for samples that are not there; null when nothing is known.
 */
export function envelope(
  view: View,
  width: number,
  { reading, samples }: DrawnProgramme,
): [low: Float32Array, high: Float32Array] | null {
  const low = new Float32Array(width);
  const high = new Float32Array(width);
  const perColumn = (view.end - view.start) / width;
  const picture = reading?.picture;
  const coarse = picture && (perColumn > PICTURE_FRAMES * 2 || !samples);
  if (!coarse && !samples) return null;
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
    } else if (samples) {
      const { left, right } = samples;
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
