import { z } from 'zod';
import { oversamplingSchema } from '../oversampler';
import { choice, quantity, toggle } from '../setting';
import { CLIP_CURVE_OPTIONS } from './curves';

export const clipperSettings = z.strictObject({
  curve: choice({
    title: 'Curve',
    help: 'How the peaks are shaved off.',
    options: CLIP_CURVE_OPTIONS,
    default: 'hard',
  }),
  inputGainDb: quantity({
    title: 'Input gain',
    unit: 'dB',
    min: -12,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Drives the peaks into the ceiling. 1 to 3 dB off the loudest peaks is common; more is audible on sparse material.',
  }),
  ceilingDbfs: quantity({
    title: 'Ceiling',
    unit: 'dBFS',
    min: -24,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'Anything above is cut off. Lower it until only the tips are copper; what is cut is gone.',
  }),
  kneePercent: quantity({
    title: 'Knee',
    unit: '%',
    min: 1,
    max: 100,
    step: 1,
    default: 30,
    help: 'How far below the ceiling the curve starts to bend, as a share of the ceiling. Wide is gentle and touches more; the hard curve has none.',
  }),
  outputGainDb: quantity({
    title: 'Output gain',
    unit: 'dB',
    min: -24,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Gain after the ceiling.',
  }),
  link: choice({
    title: 'Output',
    help: 'What the output gain follows.',
    options: [
      { value: 'none', title: 'Its own gain', help: 'The output has its own gain.' },
      {
        value: 'input',
        title: 'Falls with the input',
        help: 'The output falls as much as the input rises: you hear the clipping, not the loudness.',
      },
      {
        value: 'ceiling',
        title: 'Rises as the ceiling falls',
        help: 'The output rises as much as the ceiling falls: the peaks stay at full scale and the loudness grows.',
      },
    ],
    default: 'none',
  }),
  truePeaks: toggle({
    title: 'Hold true peaks too',
    help: 'The oversampling filters let peaks grow back, by 1 dB and more on dense material. A 1 ms limiter catches that. Good where no limiter follows; costs 2 ms of latency.',
    default: false,
  }),
  oversampling: oversamplingSchema(4, 8).prefault({}),
});

/** Clips whatever passes a ceiling. */
export type ClipperSettings = z.infer<typeof clipperSettings>;

/** dB of gain after the ceiling, by what it follows. */
export function outputGainDb({ link, inputGainDb, ceilingDbfs, outputGainDb }: ClipperSettings): number {
  if (link === 'input') return -inputGainDb;
  return link === 'ceiling' ? -ceilingDbfs : outputGainDb;
}
