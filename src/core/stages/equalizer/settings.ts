import { z } from 'zod';
import { quantity } from '../definition';

export const MAX_BANDS = 16;
export const SHAPES = ['bell', 'lowShelf', 'highShelf', 'tilt', 'highPass', 'lowPass', 'bandPass', 'notch'] as const;
export const SLOPES = [6, 12, 18, 24, 30, 36, 42, 48] as const;

/** What a band works on: both sides, what they share, what they do not, or one of them. */
export const PARTS = ['stereo', 'mid', 'side', 'left', 'right'] as const;

export const equalizerBand = z.strictObject({
  shape: z.enum(SHAPES),
  on: z.boolean().default(true),
  part: z.enum(PARTS).default('stereo'),
  frequencyHz: quantity({
    title: 'Frequency',
    unit: 'Hz',
    min: 20,
    max: 20000,
    step: 1,
    default: 1000,
    scale: 'logarithmic',
    help: 'Centre of a bell, notch or band-pass, midpoint of a shelf, pivot of a tilt, −3 dB point of a high-pass or low-pass.',
  }),
  gainDb: quantity({
    title: 'Gain',
    unit: 'dB',
    min: -18,
    max: 18,
    step: 0.1,
    default: 0,
    help: 'Most moves on a finished mix stay within ±3 dB. Boosts cost headroom; cuts give some back. A tilt lifts the highs by this and lowers the lows by as much.',
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
  slopeDbPerOctave: z.literal(SLOPES, 'The slope must be a multiple of 6 from 6 to 48 dB per octave.').default(12),
});

/**
 * One band. Gain applies to bells, shelves and tilts; Q to bells, shelves, notches and band-passes; slope to high-pass and
 * low-pass (Butterworth).
 */
export type EqualizerBand = z.infer<typeof equalizerBand>;

/** Whether a band's gain does anything. */
export function hasGain({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape === 'bell' || shape === 'lowShelf' || shape === 'highShelf' || shape === 'tilt';
}

/** Whether a band's Q does anything. */
export function hasQ({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape !== 'highPass' && shape !== 'lowPass' && shape !== 'tilt';
}

/** Whether a band's slope does anything. */
export function hasSlope({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape === 'highPass' || shape === 'lowPass';
}

export const equalizerSettings = z.strictObject({
  scalePercent: quantity({
    title: 'All gains',
    unit: '%',
    min: 0,
    max: 200,
    step: 1,
    default: 100,
    help: 'Scales the gains of all bands together once their shape is right. Good for finding how much of a correction is enough; passes and notches stay as they are.',
  }),
  bands: z.array(equalizerBand).max(MAX_BANDS, `The equalizer has at most ${MAX_BANDS} bands.`).default([]),
});

export type EqualizerSettings = z.infer<typeof equalizerSettings>;
