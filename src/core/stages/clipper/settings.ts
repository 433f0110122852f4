import { z } from 'zod';
import { quantity } from '../definition';
import { oversamplingSchema } from '../oversampler';
import { CLIP_CURVES } from './curves';

/** What the output follows: nothing, the input gain, or the ceiling. */
export const CLIP_LINKS = ['none', 'input', 'ceiling'] as const;
export type ClipLink = (typeof CLIP_LINKS)[number];

export const clipperSettings = z.strictObject({
  curve: z.enum(CLIP_CURVES).default('hard'),
  inputGainDb: quantity({
    title: 'Input gain',
    unit: 'dB',
    min: -12,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Drives the peaks into the ceiling. 1 to 3 dB off the loudest peaks is common; more is heard on bare material.',
  }),
  ceilingDbfs: quantity({
    title: 'Ceiling',
    unit: 'dBFS',
    min: -24,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'What is above is cut off. Lower it until only the tips are in copper; what is cut is gone.',
  }),
  kneePercent: quantity({
    title: 'Knee',
    unit: '%',
    min: 1,
    max: 100,
    step: 1,
    default: 30,
    help: 'How far below the ceiling the curve begins to bend, as a share of the ceiling. Wide is gentle and touches more; the hard curve has none.',
  }),
  outputGainDb: quantity({
    title: 'Output gain',
    unit: 'dB',
    min: -24,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Gain behind the ceiling.',
  }),
  link: z.enum(CLIP_LINKS).default('none'),
  truePeaks: z.boolean().default(false),
  oversampling: oversamplingSchema(4, 8).prefault({}),
});

/** Clips what passes a ceiling. */
export type ClipperSettings = z.infer<typeof clipperSettings>;

/** dB of gain behind the ceiling, by what it follows. */
export function outputGainDb({ link, inputGainDb, ceilingDbfs, outputGainDb }: ClipperSettings): number {
  if (link === 'input') return -inputGainDb;
  return link === 'ceiling' ? -ceilingDbfs : outputGainDb;
}

export const CLIP_LINK_HELP: Record<ClipLink, string> = {
  none: 'The output has a gain of its own.',
  input: 'The output falls as much as the input rises: you hear the clipping and not the loudness.',
  ceiling: 'The output rises as much as the ceiling falls: the peaks stay at full scale and the loudness grows.',
};
