import { z } from 'zod';
import { quantity } from '../definition';

export const limiterSettings = z.strictObject({
  inputGainDb: quantity({
    title: 'Input gain',
    unit: 'dB',
    min: -12,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Drives the programme against the ceiling. Good for loudness; costs punch: about 2 dB of gain reduction on the loudest passage is a normal amount.',
  }),
  ceilingDbtp: quantity({
    title: 'Ceiling',
    unit: 'dBTP',
    min: -12,
    max: 0,
    step: 0.1,
    default: -1,
    help: 'No true peak passes it, between the samples included. −1 dBTP leaves room for the lossy encode a listener gets; a higher one risks overs there.',
  }),
  lookAheadMs: quantity({
    title: 'Look-ahead',
    unit: 'ms',
    min: 1,
    max: 10,
    step: 0.1,
    default: 5,
    scale: 'logarithmic',
    help: 'How early the gain begins to fall before a peak. Longer is smoother and cleaner; shorter keeps more of the level around a peak, and costs distortion.',
  }),
  recoveryMs: quantity({
    title: 'Recovery',
    unit: 'ms',
    min: 10,
    max: 1000,
    step: 1,
    default: 120,
    scale: 'logarithmic',
    help: 'Time in which 63 % of the gain comes back after a peak. Slow recovery is gentle but pumps and costs loudness; fast recovery is loud but distorts the bass.',
  }),
});

export type LimiterSettings = z.infer<typeof limiterSettings>;
