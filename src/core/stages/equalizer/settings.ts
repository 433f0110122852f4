import { z } from 'zod';
import { quantity } from '../definition';

export const MAX_BANDS = 16;
export const SHAPES = ['bell', 'lowShelf', 'highShelf', 'tilt', 'highPass', 'lowPass', 'bandPass', 'notch'] as const;
export const SLOPES = [6, 12, 18, 24, 30, 36, 42, 48] as const;

/** What a band works on: both sides, what they share, what they do not, or one of them. */
export const PARTS = ['stereo', 'mid', 'side', 'left', 'right'] as const;

/** How a band moves with the level of what lies in it. */
export const bandDynamics = z.strictObject({
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -80,
    max: 0,
    step: 0.1,
    default: -30,
    help: 'The band moves when what lies in it is louder than this: as many dB as it is beyond, up to the range. Set it so that the band moves in the passages that hurt and rests in the others.',
  }),
  rangeDb: quantity({
    title: 'Range',
    unit: 'dB',
    min: -18,
    max: 18,
    step: 0.1,
    default: -4,
    help: 'The most that the gain moves, down or up. A cut only where it gets harsh spares the limiter and leaves the rest alone; costs a change of tone with the level.',
  }),
  attackMs: quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.5,
    max: 200,
    step: 0.1,
    default: 10,
    scale: 'logarithmic',
    help: 'Time to 63 % of a move. Short: catches the hit itself, and may dull it. Long: lets the hit through and turns down what follows.',
  }),
  releaseMs: quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 2000,
    step: 1,
    default: 150,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. Too short flutters on low notes; too long keeps working on what is quiet again.',
  }),
});

export type BandDynamics = z.infer<typeof bandDynamics>;

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
  dynamics: bandDynamics.nullable().default(null),
});

/**
 * One band. Gain applies to bells, shelves and tilts; Q to bells, shelves, notches and band-passes; slope to high-pass and
 * low-pass (Butterworth); dynamics to bells and shelves.
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

/** Whether a band can move with its level. */
export function canMove({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape === 'bell' || shape === 'lowShelf' || shape === 'highShelf';
}

/** Whether a band moves with its level. */
export function moves(band: EqualizerBand): band is EqualizerBand & { dynamics: BandDynamics } {
  return band.on && band.dynamics !== null && band.dynamics.rangeDb !== 0 && canMove(band);
}

export const PHASES = ['minimum', 'linear'] as const;

/** What one state of the stage sounds like. */
export const equalizerState = z.strictObject({
  scalePercent: quantity({
    title: 'All gains',
    unit: '%',
    min: 0,
    max: 200,
    step: 1,
    default: 100,
    help: 'Scales the gains and ranges of all bands together once their shape is right. Good for finding how much of a correction is enough; passes and notches stay as they are.',
  }),
  bands: z.array(equalizerBand).max(MAX_BANDS, `The equalizer has at most ${MAX_BANDS} bands.`).default([]),
});

export type EqualizerState = z.infer<typeof equalizerState>;

export const equalizerSettings = equalizerState.extend({
  phase: z.enum(PHASES).default('minimum'),
  /** Which of the two states is heard, as the stage numbers them. */
  state: z.literal([1, 2]).default(1),
  /** The state that is not heard; null while there is only one. */
  other: equalizerState.nullable().default(null),
});

export type EqualizerSettings = z.infer<typeof equalizerSettings>;
