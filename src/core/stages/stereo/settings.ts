import { z } from 'zod';
import { MAX_BAND_COUNT } from '../bands/crossovers';
import { quantity } from '../definition';
import { SLOPES } from '../equalizer/settings';

/** How quickly the side goes at each of the two corners of the mono bass, with the order of each. */
export const MONO_SHAPES = ['gentle', 'medium', 'steep'] as const;
export type MonoShape = (typeof MONO_SHAPES)[number];

/** What each shape does to phase and to a mono sum. */
export const MONO_SHAPE_HELP: Record<MonoShape, string> = {
  gentle:
    '6 dB per octave at each corner. Turns the side against the middle by 45° at a corner: the image hardly moves. The mono sum stays as it is.',
  medium:
    '12 dB per octave at each corner. Turns the side by 90° at a corner, so instruments there smear a little. The mono sum stays as it is.',
  steep:
    '24 dB per octave at each corner. Turns the side by 180° at a corner: what sits off the middle there can change sides. The mono sum stays as it is.',
};

export const bandWidth = quantity({
  title: 'Width',
  unit: '%',
  min: 0,
  max: 200,
  step: 1,
  default: 100,
  help: 'Share of the side in this band: 0 is mono, 100 as it came, 200 twice as much. Wider sounds larger on loudspeakers; costs level and balance in mono, and a hole in the middle.',
});

const trim = (side: string) =>
  quantity({
    title: `${side} trim`,
    unit: 'dB',
    min: -12,
    max: 12,
    step: 0.1,
    default: 0,
    help: `Level of the ${side.toLowerCase()} side alone. Good for a mix that leans to one side.`,
  });

export const stereoSettings = z.strictObject({
  swap: z.boolean().default(false),
  invertLeft: z.boolean().default(false),
  invertRight: z.boolean().default(false),
  leftDb: trim('Left'),
  rightDb: trim('Right'),
  midSideDb: quantity({
    title: 'Mid/side',
    unit: 'dB',
    min: -12,
    max: 12,
    step: 0.1,
    default: 0,
    help: 'Balance of side against mid: the side gains half of it and the mid loses half. Above 0 opens a narrow mix; costs the weight of voice, kick and bass.',
  }),
  /** From the lowest band up; those that the lane's crossovers do not make rest. */
  widthsPercent: z
    .array(bandWidth)
    .length(MAX_BAND_COUNT, `The stereo stage has widths for ${MAX_BAND_COUNT} bands.`)
    .default(() => new Array<number>(MAX_BAND_COUNT).fill(100)),
  monoBelow: z.boolean().default(false),
  monoUpperHz: quantity({
    title: 'Upper corner',
    unit: 'Hz',
    min: 20,
    max: 500,
    step: 1,
    default: 80,
    scale: 'logarithmic',
    help: 'Where the bass begins to turn mono. 40 Hz is a safe bet; 100 to 150 Hz for vinyl or a club. Costs the width of low instruments.',
  }),
  monoLowerHz: quantity({
    title: 'Lower corner',
    unit: 'Hz',
    min: 20,
    max: 500,
    step: 1,
    default: 40,
    scale: 'logarithmic',
    help: 'A second corner, below which the side falls as steeply again: a low one makes the bass narrow first and mono further down.',
  }),
  monoShape: z.enum(MONO_SHAPES).default('medium'),
  sideHighPass: z.boolean().default(false),
  sideHighPassHz: quantity({
    title: 'Side high-pass',
    unit: 'Hz',
    min: 20,
    max: 2000,
    step: 1,
    default: 150,
    scale: 'logarithmic',
    help: 'Takes the low end out of the side alone. Good for clearing mud at the edges; costs warmth there.',
  }),
  sideSlopeDbPerOctave: z.literal(SLOPES, 'The slope must be a multiple of 6 from 6 to 48 dB per octave.').default(12),
});

/** Placement of what is heard between the loudspeakers. */
export type StereoSettings = z.infer<typeof stereoSettings>;
