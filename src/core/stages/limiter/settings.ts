import { z } from 'zod';
import { quantity } from '../definition';

/** How the gain comes back after a peak. */
export const RECOVERIES = ['fast', 'medium', 'slow', 'automatic'] as const;
export type Recovery = (typeof RECOVERIES)[number];
/** How much transients are raised ahead of the limiter. */
export const EMPHASES = ['off', 'soft', 'medium', 'hard'] as const;
/** What is held below the ceiling: true peaks by 4x or 8x interpolation, or the samples alone. */
export const DETECTIONS = ['true4', 'true8', 'sample'] as const;
export type LimiterDetection = (typeof DETECTIONS)[number];

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
    help: 'No true peak passes it, between the samples included, unless sample peaks alone are looked at. −1 dBTP leaves room for the lossy encode a listener gets; a higher one risks overs there.',
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
    title: 'Recovery time',
    unit: 'ms',
    min: 10,
    max: 1000,
    step: 1,
    default: 120,
    scale: 'logarithmic',
    help: 'Time in which 63 % of the gain comes back after a peak with medium recovery. Slow is gentle but pumps and costs loudness; fast is loud but distorts the bass.',
  }),
  recovery: z.enum(RECOVERIES).default('medium'),
  emphasis: z.enum(EMPHASES).default('off'),
  detection: z.enum(DETECTIONS).default('true4'),
  linkPercent: quantity({
    title: 'Link of transients',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: '100 %: a peak on one side turns both down alike, and the image stands still. Less keeps the other side loud; costs a moment in which the image moves.',
  }),
  recoveryLinkPercent: quantity({
    title: 'Link of recovery',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: '100 %: both sides come back together, so that the image settles at once after a peak. Less lets each side come back by itself; louder, and less steady. It has a say only where the transients are linked less than 100 %.',
  }),
  preLimited: z.boolean().default(false),
  preLimitDb: quantity({
    title: 'Band ceiling',
    unit: 'dB',
    min: -12,
    max: 6,
    step: 0.1,
    default: 0,
    help: 'How far above or below the ceiling each of the lane’s bands is held before everything is limited. Good for a bass that would pull everything down; costs the balance of the bands.',
  }),
  listenEven: z.boolean().default(false),
});

export type LimiterSettings = z.infer<typeof limiterSettings>;

/** What each recovery is good for, and what it costs. */
export const RECOVERY_HELP: Record<Recovery, string> = {
  fast: 'A quarter of the recovery time. Good for the most level; costs a bass that rattles, since the gain follows its waves.',
  medium: 'The recovery time. A fair place to begin.',
  slow: 'Four times the recovery time. Good for calm music; costs loudness, and pumps after a lone peak.',
  automatic:
    'A lone peak is let go of in a quarter of the recovery time, what lasts in four times of it. Good for most programme; costs a little level against fast.',
};

/** What each way of looking at peaks is good for, and what it costs. */
export const DETECTION_HELP: Record<LimiterDetection, string> = {
  true4: 'Looks at four points for each sample, by two filters. Holds for every meter of true peaks in use.',
  true8: 'Looks at eight points. Good for material full of treble at 44.1 kHz; costs time.',
  sample:
    'Looks at the samples alone: true peaks pass the ceiling, often by 1 dB. Good where only the samples count; costs overs behind a converter or an encode.',
};
