import type { Option } from '../setting';

/** Curves that saturate, named after the harmonics they add and how firmly; in the order of the kernel. */
export const CURVES = ['oddSoft', 'oddFirm', 'oddTight', 'oddLate', 'even', 'mixedSoft', 'mixedFirm'] as const;
export type Curve = (typeof CURVES)[number];

const bowed = (u: number) => u / Math.sqrt(1 + u * u);

function firm(u: number): number {
  const held = Math.max(-3, Math.min(3, u));
  return (held * (27 + held * held)) / (27 + 9 * held * held);
}

function late(u: number): number {
  const size = Math.abs(u);
  return Math.sign(u) * (Math.min(size, 0.5) + 0.5 * bowed(2 * Math.max(0, size - 0.5)));
}

/** The definition of each curve: 0 at 0 with a slope of 1; what goes in beyond ±1 is bent strongly. */
export const CURVE_FORMULAS: Record<Curve, (u: number) => number> = {
  oddSoft: bowed,
  oddFirm: firm,
  oddTight: (u) => u / Math.sqrt(Math.sqrt(1 + u * u * u * u)),
  oddLate: late,
  even: (u) => u + (u * u) / (2 + 2 * u * u),
  mixedSoft: (u) => bowed(u) + 0.25 * bowed(u) * bowed(u),
  mixedFirm: (u) => firm(u) + 0.25 * firm(u) * firm(u),
};

/** Whether a curve adds even harmonics, and with them DC. */
export function hasEvenHarmonics({ curve, biasPercent }: { curve: Curve; biasPercent: number }): boolean {
  return biasPercent !== 0 || CURVES.indexOf(curve) > CURVES.indexOf('oddLate');
}

/** What each curve is called, what it is good for, and what it costs. */
export const CURVE_OPTIONS: readonly Option<Curve>[] = [
  {
    value: 'oddSoft',
    title: 'Odd, soft',
    help: 'Bends from the first dB. Good for density everywhere; costs clarity in quiet passages too.',
  },
  {
    value: 'oddFirm',
    title: 'Odd, firm',
    help: 'Nearly straight in the middle, flat at the top. Good for body and presence; costs edge when driven hard.',
  },
  {
    value: 'oddTight',
    title: 'Odd, tight',
    help: 'Straight for long, then bends fast. Good for loud hits; sounds rough at the top when it works hard.',
  },
  {
    value: 'oddLate',
    title: 'Odd, late',
    help: 'Straight up to half its range, so it touches loud parts only. Good for peaks; costs a step in the sound where it sets in.',
  },
  {
    value: 'even',
    title: 'Even',
    help: 'Adds even harmonics and nothing else. Good for warmth an octave up; costs headroom, since one half of the wave grows.',
  },
  {
    value: 'mixedSoft',
    title: 'Mixed, soft',
    help: 'Odd and even together, from the first dB. Good for a full tone; costs clean silence between the notes.',
  },
  {
    value: 'mixedFirm',
    title: 'Mixed, firm',
    help: 'Odd and even together, firm. Good for bass that should be heard on small speakers; costs openness.',
  },
];
