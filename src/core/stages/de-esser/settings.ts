import { z } from 'zod';
import { quantity } from '../definition';

/** What counts as sibilant: a region around the frequency, or everything above it. */
export const DETECTIONS = ['around', 'above'] as const;
/** Whether only the region is turned down, or everything. */
export const REDUCTIONS = ['split', 'wide'] as const;
export const DE_ESSER_PARTS = ['stereo', 'mid', 'side'] as const;

export const deEsserSettings = z.strictObject({
  part: z.enum(DE_ESSER_PARTS).default('stereo'),
  detection: z.enum(DETECTIONS).default('around'),
  reduction: z.enum(REDUCTIONS).default('split'),
  frequencyHz: quantity({
    title: 'Frequency',
    unit: 'Hz',
    min: 2000,
    max: 16000,
    step: 10,
    default: 6800,
    scale: 'logarithmic',
    help: 'Where the sibilants lie: listen to the region and move until they are loudest. 5 to 8 kHz for most voices; cymbals lie higher.',
  }),
  q: quantity({
    title: 'Q',
    unit: '',
    min: 0.5,
    max: 6,
    step: 0.05,
    default: 1.4,
    scale: 'logarithmic',
    help: 'How narrow the region is around its frequency. Narrow leaves the cymbals alone; wide takes in every kind of s.',
  }),
  thresholdDb: quantity({
    title: 'Threshold',
    unit: 'dB',
    min: -40,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'The region is turned down when it comes closer than this to the level of everything: what is loud or quiet as a whole makes no difference, so one setting serves the whole song. Lower it until the sibilants move it and the vowels do not.',
  }),
  rangeDb: quantity({
    title: 'Range',
    unit: 'dB',
    min: 0,
    max: 18,
    step: 0.1,
    default: 4,
    help: 'The most that is taken. 2 to 4 dB calm an s; more makes the singer lisp.',
  }),
  attackMs: quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.5,
    max: 50,
    step: 0.1,
    default: 2,
    scale: 'logarithmic',
    help: 'Time to 63 % of a reduction. Short catches the beginning of an s; too short bites the consonants off.',
  }),
  releaseMs: quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 500,
    step: 1,
    default: 60,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. An s lasts about 100 ms: much longer dulls the vowel behind it.',
  }),
});

/** Where sibilants are looked for, and how they are turned down. */
export type DeEsserSettings = z.infer<typeof deEsserSettings>;
