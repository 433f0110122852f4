import { z } from 'zod';
import { quantity } from '../definition';

export const MAX_BANDS = 8;
export const SHAPES = ['bell', 'lowShelf', 'highShelf', 'highPass', 'lowPass'] as const;
export const SLOPES = [12, 24, 36, 48] as const;

export const equalizerBand = z.strictObject({
  shape: z.enum(SHAPES),
  on: z.boolean().default(true),
  frequencyHz: quantity({
    title: 'Frequency',
    unit: 'Hz',
    min: 20,
    max: 20000,
    step: 1,
    default: 1000,
    scale: 'logarithmic',
    help: 'Centre of a bell, midpoint of a shelf, −3 dB point of a high-pass or low-pass.',
  }),
  gainDb: quantity({
    title: 'Gain',
    unit: 'dB',
    min: -18,
    max: 18,
    step: 0.1,
    default: 0,
    help: 'Most moves on a finished mix stay within ±3 dB. Boosts cost headroom; cuts give some back.',
  }),
  q: quantity({
    title: 'Q',
    unit: '',
    min: 0.1,
    max: 30,
    step: 0.01,
    default: 0.71,
    scale: 'logarithmic',
    help: 'Low Q: a broad stroke that colours. High Q: a narrow cut for a ringing tone; costs a longer ring of its own when it boosts.',
  }),
  slopeDbPerOctave: z.literal(SLOPES, 'The slope must be 12, 24, 36 or 48 dB per octave.').default(12),
});

/** One band; gain applies to bells and shelves, Q to those too, slope to the passes (Butterworth). */
export type EqualizerBand = z.infer<typeof equalizerBand>;

export const equalizerSettings = z.strictObject({
  bands: z.array(equalizerBand).max(MAX_BANDS, `The equalizer has at most ${MAX_BANDS} bands.`).default([]),
});

export type EqualizerSettings = z.infer<typeof equalizerSettings>;
