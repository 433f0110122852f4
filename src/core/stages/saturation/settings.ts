import { z } from 'zod';
import { MAX_BAND_COUNT } from '../bands/crossovers';
import { oversamplingSchema } from '../oversampler';
import { choice, quantity, toggle } from '../setting';
import { CURVE_OPTIONS } from './curves';

/** The low end is not protected at this frequency in Hz. */
export const UNPROTECTED_HZ = 20;

export const bandDrive = quantity({
  title: 'Band drive',
  unit: 'dB',
  min: -24,
  max: 24,
  step: 0.1,
  default: 0,
  help: 'Drive of this band above or below that of the stage. Good for warming up one range only; costs the balance when bands differ a lot.',
});

export const bandAmount = quantity({
  title: 'Band amount',
  unit: '%',
  min: 0,
  max: 100,
  step: 1,
  default: 100,
  help: 'Share of the stage’s dry/wet in this band; 0 leaves the band untouched.',
});

const forEachBand = <Each extends z.ZodType>(each: Each, normal: number) =>
  z
    .array(each)
    .length(MAX_BAND_COUNT, `The saturation has settings for ${MAX_BAND_COUNT} bands.`)
    .default(() => new Array<never>(MAX_BAND_COUNT).fill(normal as never));

const tone = (title: string, help: string) =>
  quantity({ title, unit: 'dB', min: -12, max: 12, step: 0.1, default: 0, help });

export const saturationSettings = z.strictObject({
  curve: choice({
    title: 'Curve',
    help: 'Which harmonics are added, and how firmly.',
    options: CURVE_OPTIONS,
    default: 'oddSoft',
  }),
  part: choice({
    title: 'Works on',
    help: 'Left and right, or mid or side only. Side only opens up a mix; what it adds is lost in mono.',
    options: [
      { value: 'stereo', title: 'Left and right' },
      { value: 'mid', title: 'Mid only' },
      { value: 'side', title: 'Side only' },
    ],
    default: 'stereo',
  }),
  driveDb: quantity({
    title: 'Drive',
    unit: 'dB',
    min: -12,
    max: 36,
    step: 0.1,
    default: 6,
    help: 'Level into the curve. More drive, more harmonics; the level is compensated so you hear colour, not loudness.',
  }),
  biasPercent: quantity({
    title: 'Bias',
    unit: '%',
    min: -100,
    max: 100,
    step: 1,
    default: 0,
    help: 'Shifts the wave off the centre of the curve, so an odd curve adds even harmonics too. Good for warmth; costs headroom on one half of the wave.',
  }),
  mixPercent: quantity({
    title: 'Dry/wet',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: 'Share of the saturated sound. A little of a strong drive lifts detail and leaves the transients alone.',
  }),
  toneBeforeDb: tone(
    'Tone before',
    'Tilts what goes into the curve around 1 kHz: above 0 the treble is driven more, below 0 the bass. Costs nothing by itself when it is undone after the curve.',
  ),
  toneAfterDb: tone(
    'Tone after',
    'Tilts what comes out around 1 kHz. Good for harmonics that are too bright; it tilts the wet sound only.',
  ),
  toneUndone: toggle({
    title: 'Undo after the curve',
    help: 'Takes the tilt back after the curve, so only the harmonics move. Off, you set the tone after it yourself.',
    default: true,
  }),
  protectBelowHz: quantity({
    title: 'Protect below',
    unit: 'Hz',
    min: UNPROTECTED_HZ,
    max: 500,
    step: 1,
    default: UNPROTECTED_HZ,
    scale: 'logarithmic',
    help: 'Anything below passes clean, so the bass neither rattles nor drives the rest. 20 Hz is off.',
  }),
  movement: choice({
    title: 'Movement',
    help: 'The amount can stay put, follow the level so quiet passages stay clean, or wander, which keeps a static sound alive.',
    options: [
      { value: 'still', title: 'None' },
      { value: 'level', title: 'Follows the level' },
      { value: 'wander', title: 'Wanders' },
    ],
    default: 'still',
  }),
  depthPercent: quantity({
    title: 'Depth',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 50,
    help: 'How far the amount moves below its dry/wet setting.',
  }),
  rateHz: quantity({
    title: 'Rate',
    unit: 'Hz',
    min: 0.05,
    max: 300,
    step: 0.05,
    default: 0.3,
    scale: 'logarithmic',
    help: 'How fast the amount wanders. Slow is felt, fast is heard; from about 20 Hz up it adds tones of its own around every note. The same place in the track always sounds the same, in the workspace and in the delivery.',
  }),
  makeupDb: quantity({
    title: 'Makeup',
    unit: 'dB',
    min: -24,
    max: 24,
    step: 0.01,
    default: 0,
    help: 'Gain after the stage. With auto makeup it is set from the measured loudness.',
  }),
  makeupMatched: toggle({
    title: 'Auto makeup',
    help: 'Sets the makeup after each measurement so that the output is as loud as the input: you hear colour, not level.',
    default: true,
  }),
  split: choice({
    title: 'Split',
    help: 'The whole signal through one curve, or each of the lane’s bands through its own. By bands, the bass no longer distorts the rest; multiplies CPU use by the number of bands.',
    options: [
      { value: 'whole', title: 'Whole signal' },
      { value: 'bands', title: 'Each band' },
    ],
    default: 'whole',
  }),
  bandDrivesDb: forEachBand(bandDrive, 0),
  bandAmountsPercent: forEachBand(bandAmount, 100),
  oversampling: oversamplingSchema(2, 4).prefault({}),
});

export type SaturationSettings = z.infer<typeof saturationSettings>;
