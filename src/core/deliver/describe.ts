import { clock, figure } from '../measure/figure';
import { reading, readingWords } from '../measure/reading';
import { deliveredWordLength, type Destination } from './destination';
import { encodeName } from './encode';
import { showRate } from './requirement';

function loudnessWords({ loudness }: Destination): string[] {
  if (!loudness) return [];
  const lufs = readingWords(reading('loudness', loudness.lufs));
  return [loudness.rule === 'target' ? `${lufs} ±${loudness.toleranceLu}` : `≤ ${lufs}`];
}

function rateWords({ sampleRate }: Destination): string {
  if (sampleRate.rule === 'mix') return 'the mix’s own rate';
  if (sampleRate.rule === 'minimum') return `the mix’s own rate from ${showRate(sampleRate.hertz)}`;
  return `${showRate(sampleRate.hertz)}${sampleRate.upsampling ? '' : ', never upsampled'}`;
}

/** What the file is, such as "24-bit FLAC" or "MP3 320 kb/s". */
function formatWords(destination: Destination): string {
  const { name, kbps } = destination.format;
  const bits = deliveredWordLength(destination);
  return bits === null ? `${name} ${kbps} kb/s` : `${bits}-bit ${name}`;
}

/**
 * One line that says the most important of what a destination asks for: loudness, true peak, rate, word length, format.
 */
export function describeDestination(destination: Destination): string {
  const { truePeak } = destination;
  return [
    ...loudnessWords(destination),
    `≤ ${figure(truePeak.maxDbtp)} dBTP`,
    ...(destination.sampleRate.rule === 'mix' ? [] : [rateWords(destination)]),
    formatWords(destination),
  ].join(', ');
}

/** All that a destination asks for, as one sentence. */
export function destinationSentence(destination: Destination): string {
  const { momentary, shortTerm, range, plr, truePeak, encodes, wordLength, silence, duration, tags } = destination;
  const lossless = deliveredWordLength(destination) !== null;
  const { minSeconds, maxSeconds } = duration ?? {};
  const parts = [
    ...loudnessWords(destination),
    ...(momentary ? [`at no moment over ${figure(momentary.maxLufs)} LUFS`] : []),
    ...(shortTerm ? [`nowhere over ${figure(shortTerm.maxLufs)} LUFS in 3 s`] : []),
    ...(range ? [`range up to ${figure(range.maxLu)} LU`] : []),
    ...(plr ? [`PLR of ${figure(plr.minLu)} LU or more`] : []),
    `at most ${figure(truePeak.maxDbtp)} dBTP`,
    ...encodes.map((each) => `at most ${figure(each.maxDbtp)} dBTP in ${encodeName(each)}`),
    rateWords(destination),
    formatWords(destination),
    ...(lossless ? [wordLength.dither === 'none' ? 'no dither' : wordLength.dither] : []),
    ...(lossless && wordLength.digitalSilence ? ['zeros in silence'] : []),
    ...(lossless && wordLength.reducedOnce ? ['only from mixes at full word length'] : []),
    ...(silence
      ? [
          `${figure(silence.head.minSeconds)} to ${figure(silence.head.maxSeconds)} s of silence at the head`,
          `${figure(silence.tail.minSeconds)} to ${figure(silence.tail.maxSeconds)} s at the tail`,
        ]
      : []),
    ...(minSeconds !== undefined && maxSeconds !== undefined
      ? [`from ${clock(minSeconds)} to ${clock(maxSeconds)} long`]
      : []),
    ...(tags && tags.required.length > 0 ? ['tags filled in'] : []),
    ...(destination.checksum ? ['with its checksum'] : []),
    ...(destination.cutting ? ['with advice for the lacquer'] : []),
  ];
  const text = parts.join(', ');
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
}

/** What the source of a destination is called that no standard gives. */
export const COMMON_PRACTICE = 'Common practice, no published source';

/** Where the figures of a destination come from, as a sentence. */
export function sourceSentence({ source }: Pick<Destination, 'source'>): string {
  if (source === '') return 'Its source is not given.';
  return source === COMMON_PRACTICE ? 'Based on common practice.' : `Source: ${source.replace(/\.$/, '')}.`;
}
