import { z } from 'zod';
import { MAX_BAND_COUNT } from '../bands/crossovers';
import { slopeChoice } from '../equalizer/settings';
import { choice, quantity, toggle } from '../setting';

export const bandWidth = quantity({
  title: 'Width',
  unit: '%',
  min: 0,
  max: 200,
  step: 1,
  default: 100,
  help: 'Share of the side in this band: 0 is mono, 100 unchanged, 200 twice as wide. Wider sounds bigger on loudspeakers; costs level and balance in mono, and a hole in the middle.',
});

const trim = (channel: string) =>
  quantity({
    title: `${channel} trim`,
    unit: 'dB',
    min: -12,
    max: 12,
    step: 0.1,
    default: 0,
    help: `Level of the ${channel.toLowerCase()} channel. Good for a mix that leans to one side.`,
  });

export const stereoSettings = z.strictObject({
  swap: toggle({
    title: 'Swap channels',
    help: 'Left becomes right. For a mix that came in the wrong way round.',
    default: false,
  }),
  invertLeft: toggle({
    title: 'Invert left',
    help: 'Inverts the polarity of the left channel. For a mix with one channel inverted: correlation far below 0 and next to nothing left in mono.',
    default: false,
  }),
  invertRight: toggle({
    title: 'Invert right',
    help: 'Inverts the polarity of the right channel.',
    default: false,
  }),
  leftDb: trim('Left'),
  rightDb: trim('Right'),
  midSideDb: quantity({
    title: 'Mid/side',
    unit: 'dB',
    min: -12,
    max: 12,
    step: 0.1,
    default: 0,
    help: 'Balance of side against mid: the side gains half of it and the mid loses half. Above 0 opens up a narrow mix; costs weight in voice, kick and bass.',
  }),
  /** From the lowest band up; widths of bands that the crossovers do not make are kept but unused. */
  widthsPercent: z
    .array(bandWidth)
    .length(MAX_BAND_COUNT, `The stereo stage has widths for ${MAX_BAND_COUNT} bands.`)
    .default(() => new Array<number>(MAX_BAND_COUNT).fill(100)),
  monoBelow: toggle({
    title: 'Mono below',
    help: 'Takes the side out of the bass. Good for vinyl, clubs and phones; costs the width of low instruments.',
    default: false,
  }),
  monoUpperHz: quantity({
    title: 'Upper corner',
    unit: 'Hz',
    min: 20,
    max: 500,
    step: 1,
    default: 80,
    scale: 'logarithmic',
    help: 'Where the bass starts to turn mono. 40 Hz is a safe bet; 100 to 150 Hz for vinyl or a club. Costs the width of low instruments.',
  }),
  monoLowerHz: quantity({
    title: 'Lower corner',
    unit: 'Hz',
    min: 20,
    max: 500,
    step: 1,
    default: 40,
    scale: 'logarithmic',
    help: 'A second corner; below it the side falls off just as steeply again. A low one narrows the bass first and makes it mono further down.',
  }),
  monoShape: choice({
    title: 'Shape',
    help: 'How quickly the side falls off at each corner.',
    options: [
      {
        value: 'gentle',
        title: 'Gentle, 6 dB/octave',
        help: '6 dB/octave at each corner. Shifts the side 45° against the mid at a corner: the image hardly moves. The mono sum is untouched.',
      },
      {
        value: 'medium',
        title: 'Medium, 12 dB/octave',
        help: '12 dB/octave at each corner. Shifts the side 90° at a corner, so instruments there smear a little. The mono sum is untouched.',
      },
      {
        value: 'steep',
        title: 'Steep, 24 dB/octave',
        help: '24 dB/octave at each corner. Shifts the side 180° at a corner: off-centre instruments there can change sides. The mono sum is untouched.',
      },
    ],
    default: 'medium',
  }),
  sideHighPass: toggle({
    title: 'High-pass on the side',
    help: 'Clears the low end of the side with its own slope; mid and mono sum are untouched.',
    default: false,
  }),
  sideHighPassHz: quantity({
    title: 'Side high-pass',
    unit: 'Hz',
    min: 20,
    max: 2000,
    step: 1,
    default: 150,
    scale: 'logarithmic',
    help: 'Takes the low end out of the side only. Good for clearing mud at the edges; costs warmth there.',
  }),
  sideSlopeDbPerOctave: slopeChoice('Steeper keeps more of the side above the corner; costs more phase shift there.'),
});

/** Width, mono bass and channel balance. */
export type StereoSettings = z.infer<typeof stereoSettings>;
export type MonoShape = StereoSettings['monoShape'];
