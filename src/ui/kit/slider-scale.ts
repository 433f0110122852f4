import type { Quantity } from '../../core/stages/setting';

/** The shortest slider in CSS pixels, and how many dB one of its pixels is at most around the default. */
const SHORTEST = 124;
const FINEST_DB = 0.1;
/** Units in which a tenth counts. */
const DECIBELS = ['dB', 'dBFS', 'dBTP'];
const HALVINGS = 40;

/** Where values stand on a slider: shares from 0 to 1 of its length, and back. */
export interface SliderScale {
  toShare(value: number): number;
  fromShare(share: number): number;
}

/**
 * The scale of a setting's slider: ratios for frequencies and times, differences for the rest. A range of decibels that is
 * too wide for a short slider is finer around the default and coarser towards its ends.
 */
export function sliderScale({ min, max, unit, scale, default: normal }: Quantity): SliderScale {
  if (scale === 'logarithmic')
    return {
      toShare: (value) => Math.log(value / min) / Math.log(max / min),
      fromShare: (share) => min * (max / min) ** share,
    };
  const middle = (normal - min) / (max - min);
  if (!DECIBELS.includes(unit) || (max - min) / SHORTEST <= FINEST_DB)
    return { toShare: (value) => (value - min) / (max - min), fromShare: (share) => min + (max - min) * share };
  /** Away from the default the way grows from a straight line to a cube; `range` in dB over `width` of the slider. */
  const side = (range: number, width: number) => {
    const straight = Math.min(range, FINEST_DB * SHORTEST * width);
    const distance = (u: number) => straight * u + (range - straight) * u ** 3;
    return {
      distance: (share: number) => distance(share / width),
      share: (db: number) => {
        let [low, high] = [0, 1];
        for (let i = 0; i < HALVINGS; i++) {
          const half = (low + high) / 2;
          if (distance(half) < db) low = half;
          else high = half;
        }
        return high * width;
      },
    };
  };
  const below = middle > 0 ? side(normal - min, middle) : null;
  const above = middle < 1 ? side(max - normal, 1 - middle) : null;
  return {
    toShare: (value) =>
      value < normal
        ? middle - (below?.share(normal - value) ?? 0)
        : middle + (value > normal ? (above?.share(value - normal) ?? 0) : 0),
    fromShare: (share) =>
      share < middle
        ? normal - (below?.distance(middle - share) ?? 0)
        : normal + (above?.distance(share - middle) ?? 0),
  };
}
