import { z } from 'zod';
import { quantity } from '../setting';
import { equalizerBand, type EqualizerBand } from './settings';

/** How a sweep sounds, and what it leaves. */
export const sweepSettings = z.object({
  boostDb: quantity({
    title: 'Boost',
    unit: 'dB',
    min: 3,
    max: 18,
    step: 0.5,
    default: 10,
    help: 'How much the narrow band is boosted while you search. More makes ringing jump out; too much makes everything ring.',
  }),
  q: quantity({
    title: 'Q',
    unit: '',
    min: 2,
    max: 30,
    step: 0.1,
    default: 9,
    scale: 'logarithmic',
    help: 'How narrow the search and the cut are. Narrow finds one tone; wider takes out a whole colour.',
  }),
  cutDb: quantity({
    title: 'Cut',
    unit: 'dB',
    min: -18,
    max: -0.5,
    step: 0.5,
    default: -5,
    help: 'Depth of the cut left when you let go. You can change its gain afterwards like any band’s.',
  }),
});

export type SweepSettings = z.infer<typeof sweepSettings>;

/** What is heard while searching at a frequency in Hz. */
export function sweptBoost(frequencyHz: number, { boostDb, q }: SweepSettings): EqualizerBand {
  return equalizerBand.parse({ shape: 'bell', frequencyHz, gainDb: boostDb, q });
}

/** What stays when the search ends at a frequency in Hz. */
export function sweptCut(frequencyHz: number, { cutDb, q }: SweepSettings): EqualizerBand {
  return equalizerBand.parse({ shape: 'bell', frequencyHz, gainDb: cutDb, q });
}
