import type { Option } from '../setting';

/** Curves of the clipper, in the order of the kernel. */
export const CLIP_CURVES = ['hard', 'round', 'smooth', 'firm', 'bowed', 'long'] as const;
export type ClipCurve = (typeof CLIP_CURVES)[number];

/**
 * Share of the knee that each curve uses for a sample v knees above its start: 0 at 0 with a slope of 1, never more
 * than 1. The hard curve has no knee.
 */
const KNEES: Record<Exclude<ClipCurve, 'hard'>, (v: number) => number> = {
  round: (v) => Math.min(2, v) * (1 - Math.min(2, v) / 4),
  smooth: (v) => Math.min(1.5, v) * (1 - (4 / 27) * Math.min(1.5, v) * Math.min(1.5, v)),
  firm: (v) => (Math.min(3, v) * (27 + Math.min(3, v) * Math.min(3, v))) / (27 + 9 * Math.min(3, v) * Math.min(3, v)),
  bowed: (v) => v / Math.sqrt(1 + v * v),
  long: (v) => v / (1 + v),
};

/**
 * What a sample becomes; ceiling and knee as amplitudes, the knee lying below the ceiling.
 * @example
 * clipped('hard', 1.4, 1, 0) // 1
 * clipped('long', 1, 1, 0.5) // 0.75
 */
export function clipped(curve: ClipCurve, x: number, ceiling: number, knee: number): number {
  const size = Math.abs(x);
  if (curve === 'hard') return Math.sign(x) * Math.min(size, ceiling);
  const start = ceiling - knee;
  return Math.sign(x) * (Math.min(size, start) + knee * KNEES[curve](Math.max(0, size - start) / knee));
}

/** What each curve is called, what it is good for, and what it costs. */
export const CLIP_CURVE_OPTIONS: readonly Option<ClipCurve>[] = [
  {
    value: 'hard',
    title: 'Hard',
    help: 'Cuts straight off. Good for peaks of microseconds, and nothing below the ceiling is touched; rattles on anything that stays there longer.',
  },
  {
    value: 'round',
    title: 'Round',
    help: 'A parabola into the ceiling. Good for drums with a little body; costs a dB or so below the ceiling.',
  },
  {
    value: 'smooth',
    title: 'Smooth',
    help: 'Bends in and out without a corner. Good for dense mixes, since its harmonics fall off fastest; costs loudness, since it starts early.',
  },
  {
    value: 'firm',
    title: 'Firm',
    help: 'Nearly straight, then flat. Good for loud choruses; costs harmonics in the upper mids.',
  },
  {
    value: 'bowed',
    title: 'Bowed',
    help: 'Never quite gets there, so loud peaks still differ. Good for keeping a trace of the hit; peaks stay a little below the ceiling.',
  },
  {
    value: 'long',
    title: 'Long',
    help: 'The longest bend. Good for softening a sharp master all over; costs clarity, since it works far below the ceiling.',
  },
];
