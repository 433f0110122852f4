import { z } from 'zod';
import { choice, quantity, toggle } from '../setting';

/** From this time in ms on, each channel recovers by itself. */
export const NEVER_REJOIN_MS = 2000;
/** The band of the transient emphasis is open at these ends, in Hz. */
export const EMPHASIS_OPEN_HZ = { low: 20, high: 20000 };

export const limiterSettings = z.strictObject({
  inputGainDb: quantity({
    title: 'Input gain',
    unit: 'dB',
    min: -12,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Drives the music into the ceiling. Good for loudness; costs punch: about 2 dB of gain reduction on the loudest passage is normal.',
  }),
  ceilingDbtp: quantity({
    title: 'Ceiling',
    unit: 'dBTP',
    min: -12,
    max: 0,
    step: 0.1,
    default: -1,
    help: 'No true peak passes it, including between samples, unless only sample peaks are detected. −1 dBTP leaves room for the lossy encode a listener gets; a higher ceiling risks overs there.',
  }),
  lookAheadMs: quantity({
    title: 'Look-ahead',
    unit: 'ms',
    min: 1,
    max: 10,
    step: 0.1,
    default: 5,
    scale: 'logarithmic',
    help: 'How early the gain starts to fall before a peak. Longer is smoother and cleaner; shorter keeps more of the level around a peak, and costs distortion.',
  }),
  recoveryMs: quantity({
    title: 'Recovery',
    unit: 'ms',
    min: 2.5,
    max: 4000,
    step: 0.5,
    default: 120,
    scale: 'logarithmic',
    help: 'Time in which 63 % of the gain comes back after a peak. Slow is gentle but pumps and costs loudness; fast is loud but distorts the bass.',
  }),
  autoRecoveryPercent: quantity({
    title: 'Auto recovery',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 0,
    help: 'How much of the gain reduction that lasts longer than a peak comes back slowly, over 16 times the recovery time. 0 treats peaks and loud passages alike; 100 recovers quickly from a single peak and calmly after a dense passage. Good for most music; costs a little level.',
  }),
  emphasisDb: quantity({
    title: 'Transient emphasis',
    unit: 'dB',
    min: 0,
    max: 6,
    step: 0.1,
    default: 0,
    help: 'The most by which a hit is raised before the limiter, so that it still stands out after it: a hit is what jumps above the last 40 ms. Good for drums that the limiter would flatten; costs more gain reduction.',
  }),
  emphasisLowHz: quantity({
    title: 'Emphasis from',
    unit: 'Hz',
    min: EMPHASIS_OPEN_HZ.low,
    max: 5000,
    step: 1,
    default: EMPHASIS_OPEN_HZ.low,
    scale: 'logarithmic',
    help: 'Only hits above this frequency are detected and raised. 20 Hz is off. Raise it to bring out sticks and consonants without the kick.',
  }),
  emphasisHighHz: quantity({
    title: 'Emphasis to',
    unit: 'Hz',
    min: 200,
    max: EMPHASIS_OPEN_HZ.high,
    step: 1,
    default: EMPHASIS_OPEN_HZ.high,
    scale: 'logarithmic',
    help: 'Only hits below this frequency are detected and raised. 20 kHz is off. Lower it to bring out the kick without the hi-hat.',
  }),
  detection: choice({
    title: 'Detects',
    help: 'Which peaks stay below the ceiling.',
    options: [
      {
        value: 'true4',
        title: 'True peaks, 4×',
        help: 'Looks at four points for each sample, through two filters. Holds for every true-peak meter in use.',
      },
      {
        value: 'true8',
        title: 'True peaks, 8×',
        help: 'Looks at eight points. Good for material full of treble at 44.1 kHz; costs CPU.',
      },
      {
        value: 'sample',
        title: 'Sample peaks only',
        help: 'Looks at the samples only: true peaks pass the ceiling, often by 1 dB. Good where only samples count; costs overs after a converter or an encode.',
      },
    ],
    default: 'true4',
  }),
  linkPercent: quantity({
    title: 'Stereo link',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: '100 %: a peak in one channel turns both down alike, and the image stays put. Less keeps the other channel loud; costs a moment in which the image moves.',
  }),
  rejoinMs: quantity({
    title: 'Rejoin time',
    unit: 'ms',
    min: 0,
    max: NEVER_REJOIN_MS,
    step: 1,
    default: 0,
    help: 'How long the channels take to come back together after a peak in one of them. 0: they recover together. Longer lets each recover by itself: louder and less steady; 2 s is never. Matters only while the stereo link is below 100 %.',
  }),
  preLimited: toggle({
    title: 'Limit each band first',
    help: 'Limits each of the lane’s bands before the whole signal, so a loud bass does not pull the voice down. Costs the balance between the bands while it works.',
    default: false,
  }),
  preLimitDb: quantity({
    title: 'Band ceiling',
    unit: 'dB',
    min: -12,
    max: 6,
    step: 0.1,
    default: 0,
    help: 'How far above or below the ceiling each band is limited first. Good for a bass that would pull everything down; costs the balance between the bands.',
  }),
  preLimitRecoveryMs: quantity({
    title: 'Band recovery',
    unit: 'ms',
    min: 10,
    max: 1000,
    step: 1,
    default: 120,
    scale: 'logarithmic',
    help: 'Time in which 63 % of a band’s gain comes back. Longer keeps the balance between the bands steady; shorter keeps each band loud.',
  }),
  listenEven: toggle({
    title: 'Listen without the gain',
    help: 'Takes the input gain back out after the limiter while you listen, so that louder does not sound better. Measurements and deliveries keep it.',
    default: false,
  }),
});

export type LimiterSettings = z.infer<typeof limiterSettings>;
