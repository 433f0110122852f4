/** Curves of the clipper, in the order of the kernel. */
export const CLIP_CURVES = ['hard', 'round', 'smooth', 'firm', 'bowed', 'long'] as const;
export type ClipCurve = (typeof CLIP_CURVES)[number];

/**
 * What of the knee each curve uses for what lies v knees above its beginning: 0 at 0 with a slope of 1, never beyond 1. The
 * hard one has no knee.
 */
const KNEES: Record<Exclude<ClipCurve, 'hard'>, (v: number) => number> = {
  round: (v) => Math.min(2, v) * (1 - Math.min(2, v) / 4),
  smooth: (v) => Math.min(1.5, v) * (1 - (4 / 27) * Math.min(1.5, v) * Math.min(1.5, v)),
  firm: (v) => (Math.min(3, v) * (27 + Math.min(3, v) * Math.min(3, v))) / (27 + 9 * Math.min(3, v) * Math.min(3, v)),
  bowed: (v) => v / Math.sqrt(1 + v * v),
  long: (v) => v / (1 + v),
};

/** What a sample becomes; ceiling and knee as amplitudes, the knee lying below the ceiling. */
export function clipped(curve: ClipCurve, x: number, ceiling: number, knee: number): number {
  const size = Math.abs(x);
  if (curve === 'hard') return Math.sign(x) * Math.min(size, ceiling);
  const start = ceiling - knee;
  return Math.sign(x) * (Math.min(size, start) + knee * KNEES[curve](Math.max(0, size - start) / knee));
}

export const CLIP_CURVE_TITLES: Record<ClipCurve, string> = {
  hard: 'Hard',
  round: 'Round',
  smooth: 'Smooth',
  firm: 'Firm',
  bowed: 'Bowed',
  long: 'Long',
};

/** What each curve is good for, and what it costs. */
export const CLIP_CURVE_HELP: Record<ClipCurve, string> = {
  hard: 'Cuts straight off. Good for peaks of microseconds, and nothing below the ceiling is touched; costs a rattle on anything that stays there longer.',
  round: 'A parabola into the ceiling. Good for drums with a little body; costs a dB or so below the ceiling.',
  smooth:
    'Begins and arrives without a corner. Good for dense mixes, since its harmonics fall off fastest; costs loudness, since it begins early.',
  firm: 'Nearly straight, then level. Good for loud choruses; costs harmonics in the upper middle.',
  bowed:
    'Never quite arrives, so that loud peaks still differ. Good for keeping a trace of the hit; costs peaks that stay a little apart from the ceiling.',
  long: 'The longest bend. Good for softening a sharp master all over; costs clarity, since it works far below the ceiling.',
};
