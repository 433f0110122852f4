import { z } from 'zod';
import { choice, quantity } from '../setting';

export const deEsserSettings = z.strictObject({
  part: choice({
    title: 'Works on',
    help: 'Vocals sit mostly in the mid: work there and the cymbals and guitars at the sides keep their brightness.',
    options: [
      { value: 'stereo', title: 'Left and right' },
      { value: 'mid', title: 'Mid only' },
      { value: 'side', title: 'Side only' },
    ],
    default: 'stereo',
  }),
  detection: choice({
    title: 'Detects',
    help: 'Around the frequency for one voice with one kind of s; above it for breath, hiss and cymbals together.',
    options: [
      { value: 'around', title: 'Around the frequency' },
      { value: 'above', title: 'Above the frequency' },
    ],
    default: 'around',
  }),
  reduction: choice({
    title: 'Reduces',
    help: 'The band only leaves the rest of the mix under an s alone. The full range suits a solo voice: the s keeps its tone.',
    options: [
      { value: 'split', title: 'The band only' },
      { value: 'wide', title: 'The full range' },
    ],
    default: 'split',
  }),
  frequencyHz: quantity({
    title: 'Frequency',
    unit: 'Hz',
    min: 2000,
    max: 16000,
    step: 10,
    default: 6800,
    scale: 'logarithmic',
    help: 'Where the sibilance is: solo the band and move this until it is loudest. 5 to 8 kHz for most voices; cymbals are higher.',
  }),
  q: quantity({
    title: 'Q',
    unit: '',
    min: 0.5,
    max: 6,
    step: 0.05,
    default: 1.4,
    scale: 'logarithmic',
    help: 'How narrow the band is. Narrow leaves the cymbals alone; wide catches every kind of s.',
  }),
  thresholdDb: quantity({
    title: 'Threshold',
    unit: 'dB',
    min: -40,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'Reduces when the band comes closer than this to the overall level. It is relative, so one setting works for quiet verses and loud choruses. Lower it until the sibilants trigger it and the vowels do not.',
  }),
  rangeDb: quantity({
    title: 'Range',
    unit: 'dB',
    min: 0,
    max: 18,
    step: 0.1,
    default: 4,
    help: 'The most it takes off. 2 to 4 dB tames an s; more makes the singer lisp.',
  }),
  attackMs: quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.5,
    max: 50,
    step: 0.1,
    default: 2,
    scale: 'logarithmic',
    help: 'Time to 63 % of a reduction. Short catches the start of an s; too short eats consonants.',
  }),
  releaseMs: quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 500,
    step: 1,
    default: 60,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. An s lasts about 100 ms: much longer dulls the vowel after it.',
  }),
});

/** Where to look for sibilants, and how to turn them down. */
export type DeEsserSettings = z.infer<typeof deEsserSettings>;
