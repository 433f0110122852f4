import { z } from 'zod';
import { MAX_BAND_COUNT } from '../bands/crossovers';
import { quantity, toggle } from '../setting';

const attack = (value: number) =>
  quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.1,
    max: 300,
    step: 0.1,
    default: value,
    scale: 'logarithmic',
    help: 'Time to 63 % of a move. Short catches, long lets the hit through; a low band needs longer than a high one, or it distorts.',
  });
const release = (value: number) =>
  quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 3000,
    step: 1,
    default: value,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. Too short distorts the bass; too long holds a band down after a loud passage.',
  });
const range = (value: number) =>
  quantity({
    title: 'Range',
    unit: 'dB',
    min: 0,
    max: 48,
    step: 0.5,
    default: value,
    help: 'The most gain reduction in this band.',
  });

/** Turns down what is quieter than the threshold. */
export const bandExpansion = z.strictObject({
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -90,
    max: 0,
    step: 0.1,
    default: -50,
    help: 'Anything quieter in this band is turned down. Good for boom or hiss between the notes; costs the tails of fades.',
  }),
  ratio: quantity({
    title: 'Ratio',
    unit: ': 1',
    min: 1,
    max: 10,
    step: 0.05,
    default: 1,
    scale: 'logarithmic',
    help: 'How many dB the output falls for each dB below the threshold. 1 does nothing.',
  }),
  rangeDb: range(12),
  attackMs: attack(5),
  releaseMs: release(200),
});

/** Turns down what is louder than the threshold by a ratio. */
export const bandCompression = z.strictObject({
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -80,
    max: 0,
    step: 0.1,
    default: -24,
    help: 'Anything louder in this band is turned down. Good for a band that jumps out now and then; working all the time it costs the balance the mixer chose.',
  }),
  ratio: quantity({
    title: 'Ratio',
    unit: ': 1',
    min: 1,
    max: 20,
    step: 0.05,
    default: 1,
    scale: 'logarithmic',
    help: 'How many dB of input above the threshold give one dB of output. 1 does nothing; 1.5 to 2.5 is common on a master.',
  }),
  kneeDb: quantity({
    title: 'Knee',
    unit: 'dB',
    min: 0,
    max: 24,
    step: 0.5,
    default: 6,
    help: 'Width of the bend around the threshold.',
  }),
  rangeDb: range(24),
  attackMs: attack(20),
  releaseMs: release(150),
});

/** Keeps the level from staying above the threshold. */
export const bandLimiting = z.strictObject({
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -60,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'The highest level of this band after its compression. 0 dBFS is off. Good for single hits in one band; costs their punch.',
  }),
  rangeDb: range(24),
  attackMs: attack(1),
  releaseMs: release(80),
});

export const dynamicsBand = z.strictObject({
  on: toggle({ title: 'On', help: 'Off leaves the band as it is.', default: true }),
  expansion: bandExpansion.prefault({}),
  compression: bandCompression.prefault({}),
  limiting: bandLimiting.prefault({}),
  makeupDb: quantity({
    title: 'Makeup',
    unit: 'dB',
    min: -12,
    max: 12,
    step: 0.1,
    default: 0,
    help: 'Gain of the band after its dynamics.',
  }),
});

export type DynamicsBand = z.infer<typeof dynamicsBand>;

export const bandDynamicsSettings = z.strictObject({
  /** From the lowest up; bands that the crossovers do not make are kept but unused. */
  bands: z
    .array(dynamicsBand)
    .length(MAX_BAND_COUNT, `Band dynamics has settings for ${MAX_BAND_COUNT} bands.`)
    .default(() => Array.from({ length: MAX_BAND_COUNT }, () => dynamicsBand.parse({}))),
  linkPercent: quantity({
    title: 'Stereo link',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: '100 %: both channels of a band follow the louder one, and the image stays put. Less treats each channel by itself.',
  }),
});

/** Expansion, compression, limiting and makeup of each band. */
export type BandDynamicsSettings = z.infer<typeof bandDynamicsSettings>;
