import { z } from 'zod';
import { choice, quantity, toggle } from '../setting';

export const MAX_BANDS = 16;
export const SHAPES = ['bell', 'lowShelf', 'highShelf', 'tilt', 'highPass', 'lowPass', 'bandPass', 'notch'] as const;
export const SLOPES = [6, 12, 18, 24, 30, 36, 42, 48] as const;

/** A slope in dB per octave. */
export const slopeChoice = (help: string) =>
  choice({
    title: 'Slope',
    help,
    options: SLOPES.map((value) => ({ value, title: `${value} dB/octave` })),
    default: 12,
  });

/** How a band follows the level of what is in it. */
export const bandDynamics = z.strictObject({
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -80,
    max: 0,
    step: 0.1,
    default: -30,
    help: 'The band moves when what is in it is louder than this: dB for dB, up to the range. Set it so that the band moves in the passages that hurt and rests in the others.',
  }),
  rangeDb: quantity({
    title: 'Range',
    unit: 'dB',
    min: -18,
    max: 18,
    step: 0.1,
    default: -4,
    help: 'The most the gain moves, down or up. A cut only where it gets harsh spares the limiter and leaves the rest alone; the tone then changes with the level.',
  }),
  attackMs: quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.5,
    max: 200,
    step: 0.1,
    default: 10,
    scale: 'logarithmic',
    help: 'Time to 63 % of a move. Short catches the hit itself and may dull it. Long lets the hit through and turns down what follows.',
  }),
  releaseMs: quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 2000,
    step: 1,
    default: 150,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. Too short flutters on low notes; too long keeps working when it is quiet again.',
  }),
});

export type BandDynamics = z.infer<typeof bandDynamics>;

/** The Q at which a pass of 12 dB per octave is Butterworth: it means exactly √½. */
export const FLAT_PASS_Q = 0.71;

export const equalizerBand = z.strictObject({
  shape: z.literal(SHAPES, `The shape must be one of ${SHAPES.join(', ')}.`).meta({
    choice: {
      title: 'Shape',
      help: 'What the band does around its frequency.',
      options: [
        { value: 'bell', title: 'Bell' },
        { value: 'lowShelf', title: 'Low shelf' },
        { value: 'highShelf', title: 'High shelf' },
        { value: 'tilt', title: 'Tilt' },
        { value: 'highPass', title: 'High-pass' },
        { value: 'lowPass', title: 'Low-pass' },
        { value: 'bandPass', title: 'Band-pass' },
        { value: 'notch', title: 'Notch' },
      ],
    },
  }),
  on: toggle({ title: 'On', help: 'Off leaves the sound as it is and keeps the band’s settings.', default: true }),
  part: choice({
    title: 'Works on',
    help: 'Left and right, or only what they share (mid), what they do not (side), or one channel.',
    options: [
      { value: 'stereo', title: 'Stereo' },
      { value: 'mid', title: 'Mid' },
      { value: 'side', title: 'Side' },
      { value: 'left', title: 'Left' },
      { value: 'right', title: 'Right' },
    ],
    default: 'stereo',
  }),
  frequencyHz: quantity({
    title: 'Frequency',
    unit: 'Hz',
    min: 20,
    max: 20000,
    step: 1,
    default: 1000,
    scale: 'logarithmic',
    help: 'Centre of a bell, notch or band-pass, midpoint of a shelf, pivot of a tilt, corner of a high-pass or low-pass (−3 dB without resonance).',
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
    default: FLAT_PASS_Q,
    scale: 'logarithmic',
    help: 'Low Q: a broad stroke that colours. High Q: a narrow cut for a ringing tone; a boost then rings longer itself. On a high-pass or low-pass of 12 dB/octave it is the resonance at the corner: 0.71 is flat, more lifts the corner before it falls.',
  }),
  slopeDbPerOctave: slopeChoice(
    'How steeply a high-pass or low-pass falls. Steep is thorough; costs more phase shift and ringing.',
  ),
  dynamics: bandDynamics.nullable().default(null),
});

/**
 * One band. Gain applies to bells, shelves and tilts; Q to bells, shelves, notches, band-passes, and as resonance to
 * passes of 12 dB per octave; slope to high-pass and low-pass (Butterworth, but for the resonance); dynamics to bells
 * and shelves.
 */
export type EqualizerBand = z.infer<typeof equalizerBand>;

/** Whether a band's gain does anything. */
export function hasGain({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape === 'bell' || shape === 'lowShelf' || shape === 'highShelf' || shape === 'tilt';
}

/** Whether a band's slope does anything. */
export function hasSlope({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape === 'highPass' || shape === 'lowPass';
}

/** Whether a band's Q does anything. */
export function hasQ({ shape, slopeDbPerOctave }: Pick<EqualizerBand, 'shape' | 'slopeDbPerOctave'>): boolean {
  return shape !== 'tilt' && (!hasSlope({ shape }) || slopeDbPerOctave === 12);
}

/** Whether a band can follow the level. */
export function canMove({ shape }: Pick<EqualizerBand, 'shape'>): boolean {
  return shape === 'bell' || shape === 'lowShelf' || shape === 'highShelf';
}

/** Whether a band follows the level. */
export function moves(band: EqualizerBand): band is EqualizerBand & { dynamics: BandDynamics } {
  return band.on && band.dynamics !== null && band.dynamics.rangeDb !== 0 && canMove(band);
}

/** What the bands do together. */
export const equalizerState = z.strictObject({
  scalePercent: quantity({
    title: 'Scale all gains',
    unit: '%',
    min: 0,
    max: 200,
    step: 1,
    default: 100,
    help: 'Scales the gains and ranges of all bands together once their shape is right. Good for finding how much of a correction is enough; passes and notches stay as they are.',
  }),
  shiftDb: quantity({
    title: 'Shift all gains',
    unit: 'dB',
    min: -12,
    max: 12,
    step: 0.1,
    default: 0,
    help: 'Adds this to the gain of every bell, shelf and tilt. Good for turning a set of boosts into cuts with the same shape, which costs no headroom.',
  }),
  bands: z.array(equalizerBand).max(MAX_BANDS, `The equalizer has at most ${MAX_BANDS} bands.`).default([]),
});

export type EqualizerState = z.infer<typeof equalizerState>;

/** The bands as they sound: their gains scaled and shifted, their ranges scaled. */
export function effectiveBands({ bands, scalePercent, shiftDb }: EqualizerState): EqualizerBand[] {
  const scaled = (db: number) => (db * scalePercent) / 100;
  return bands.map((band) => ({
    ...band,
    gainDb: scaled(band.gainDb) + (hasGain(band) ? shiftDb : 0),
    dynamics: band.dynamics && { ...band.dynamics, rangeDb: scaled(band.dynamics.rangeDb) },
  }));
}

export const equalizerSettings = equalizerState.extend({
  phase: choice({
    title: 'Phase',
    help: 'Minimum phase suits nearly everything. Linear phase keeps the timing of all frequencies together: good for bands on mid or side only and for mixing with the dry sound; costs latency and a faint ring before every hit, most with steep and narrow bands in the bass. The deepest of those also come out softer than drawn: by up to 0.65 dB at 40 Hz and Q 8.',
    options: [
      { value: 'minimum', title: 'Minimum' },
      { value: 'linear', title: 'Linear' },
    ],
    default: 'minimum',
  }),
});

export type EqualizerSettings = z.infer<typeof equalizerSettings>;
