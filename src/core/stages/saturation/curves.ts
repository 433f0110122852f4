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

/** Whether a curve adds even harmonics, and with them something that stands still. */
export function hasEvenHarmonics({ curve, biasPercent }: { curve: Curve; biasPercent: number }): boolean {
  return biasPercent !== 0 || CURVES.indexOf(curve) > CURVES.indexOf('oddLate');
}

export const CURVE_TITLES: Record<Curve, string> = {
  oddSoft: 'Odd, soft',
  oddFirm: 'Odd, firm',
  oddTight: 'Odd, tight',
  oddLate: 'Odd, late',
  even: 'Even',
  mixedSoft: 'Mixed, soft',
  mixedFirm: 'Mixed, firm',
};

/** What each curve is good for, and what it costs. */
export const CURVE_HELP: Record<Curve, string> = {
  oddSoft: 'Bends from the first dB on. Good for density everywhere; costs clarity in quiet passages too.',
  oddFirm: 'Nearly straight in the middle, level at the top. Good for body and presence; costs edge when driven hard.',
  oddTight: 'Straight for long, then it bends fast. Good for loud hits; costs a rough top when it works much.',
  oddLate:
    'Straight up to half of its range: only what is loud is touched. Good for peaks alone; costs a step in the sound there.',
  even: 'Adds even harmonics and nothing else. Good for warmth that is an octave above; costs headroom, since one half of the wave grows.',
  mixedSoft:
    'Odd and even together, from the first dB on. Good for a full tone; costs the silence between the notes its purity.',
  mixedFirm: 'Odd and even together, firm. Good for bass that should be heard on small speakers; costs openness.',
};
