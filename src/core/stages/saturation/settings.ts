import { z } from 'zod';
import { MAX_BAND_COUNT } from '../bands/crossovers';
import { quantity } from '../definition';
import { oversamplingSchema } from '../oversampler';
import { CURVES } from './curves';

export const SATURATION_PARTS = ['stereo', 'mid', 'side'] as const;
/** What moves the amount. */
export const MOVEMENTS = ['still', 'level', 'wander'] as const;
export type Movement = (typeof MOVEMENTS)[number];
export const SPLITS = ['whole', 'bands'] as const;
/** The protection of the low end is off at this frequency in Hz. */
export const UNPROTECTED_HZ = 20;

export const bandDrive = quantity({
  title: 'Band drive',
  unit: 'dB',
  min: -24,
  max: 24,
  step: 0.1,
  default: 0,
  help: 'Drive of this band above or below that of the stage. Good for warming one range alone; costs the balance when bands differ much.',
});

export const bandAmount = quantity({
  title: 'Band amount',
  unit: '%',
  min: 0,
  max: 100,
  step: 1,
  default: 100,
  help: 'Share of the stage’s dry/wet in this band; 0 leaves the band as it is.',
});

const forEachBand = <Each extends z.ZodType>(each: Each, normal: number) =>
  z
    .array(each)
    .length(MAX_BAND_COUNT, `The saturation has settings for ${MAX_BAND_COUNT} bands.`)
    .default(() => new Array<never>(MAX_BAND_COUNT).fill(normal as never));

const tone = (title: string, help: string) =>
  quantity({ title, unit: 'dB', min: -12, max: 12, step: 0.1, default: 0, help });

export const saturationSettings = z.strictObject({
  curve: z.enum(CURVES).default('oddSoft'),
  part: z.enum(SATURATION_PARTS).default('stereo'),
  driveDb: quantity({
    title: 'Drive',
    unit: 'dB',
    min: -12,
    max: 36,
    step: 0.1,
    default: 6,
    help: 'Level into the curve. More bends more of the wave and adds harmonics; the level is held, so that you hear colour and not loudness.',
  }),
  biasPercent: quantity({
    title: 'Bias',
    unit: '%',
    min: -100,
    max: 100,
    step: 1,
    default: 0,
    help: 'Moves the wave off the middle of the curve, so that an odd curve adds even harmonics too. Good for warmth; costs headroom on one half of the wave.',
  }),
  mixPercent: quantity({
    title: 'Dry/wet',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: 'Share of the saturated sound. Low shares of a strong drive lift detail and leave the transients alone.',
  }),
  toneBeforeDb: tone(
    'Tone before',
    'Tilts what goes into the curve around 1 kHz: above 0 the treble is driven more, below 0 the bass. Costs nothing by itself when it is undone behind.',
  ),
  toneAfterDb: tone(
    'Tone after',
    'Tilts what comes out around 1 kHz. Good for harmonics that are too bright; it tilts the wet sound only.',
  ),
  toneUndone: z.boolean().default(true),
  protectBelowHz: quantity({
    title: 'Keep below',
    unit: 'Hz',
    min: UNPROTECTED_HZ,
    max: 500,
    step: 1,
    default: UNPROTECTED_HZ,
    scale: 'logarithmic',
    help: 'What lies below passes untouched, so that bass neither rattles nor drives what lies above. 20 Hz is off.',
  }),
  movement: z.enum(MOVEMENTS).default('still'),
  depthPercent: quantity({
    title: 'Depth',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 50,
    help: 'How far the amount moves below its dry/wet: with the level, so that quiet passages stay clean, or by itself.',
  }),
  rateHz: quantity({
    title: 'Rate',
    unit: 'Hz',
    min: 0.05,
    max: 8,
    step: 0.05,
    default: 0.3,
    scale: 'logarithmic',
    help: 'How fast the amount wanders. Slow is felt, fast is heard. It starts anew with playback, so that no two hearings need be alike.',
  }),
  makeupDb: quantity({
    title: 'Makeup',
    unit: 'dB',
    min: -24,
    max: 24,
    step: 0.01,
    default: 0,
    help: 'Gain behind the stage. Held, it is set by measurement after each full pass, so that the stage is as loud out as in.',
  }),
  makeupMatched: z.boolean().default(true),
  split: z.enum(SPLITS).default('whole'),
  bandDrivesDb: forEachBand(bandDrive, 0),
  bandAmountsPercent: forEachBand(bandAmount, 100),
  oversampling: oversamplingSchema(2, 4).prefault({}),
});

export type SaturationSettings = z.infer<typeof saturationSettings>;
