import { z } from 'zod';
import { figure } from './figure';
import { decibels } from '../signal/decibels';
import type { IntakeMeasurement } from './intake';

/** What is known of the source file before a sample is read. */
export interface SourceFacts {
  container: string;
  channels: number;
  bits: number;
  float: boolean;
  /** Hz */
  sampleRate: number;
}

/** What can be found in a mix. */
const TITLES = {
  spectrumEnds: 'The spectrum stops early',
  channelMissing: 'A channel is missing',
  leaning: 'Leans to one side',
  channelInverted: 'A channel is inverted',
  wideBass: 'Wide bass',
  channelLate: 'One channel is late',
  hum: 'Mains hum',
  silent: 'Silent',
  clipped: 'Clipped',
  fullScale: 'Full scale',
  overs: 'Overs between samples',
  littleHeadroom: 'Little headroom',
  offset: 'DC offset',
  fewerBits: 'Fewer bits than the file',
  alreadyLoud: 'Already loud',
  veryDynamic: 'Very dynamic',
  mono: 'Mono',
  lowSampleRate: 'Low sample rate',
  silentHead: 'Silence at the head',
  silentTail: 'Silence at the tail',
  lowLevel: 'Low level',
} as const;
export type FindingKind = keyof typeof TITLES;
const KINDS = Object.keys(TITLES) as FindingKind[];

const currentSchema = z.object({
  kind: z.enum(KINDS),
  /** `fault`: better sent back; `caution`: know it before you start; `note`: good to know. */
  weight: z.enum(['fault', 'caution', 'note']),
  title: z.string(),
  sentence: z.string(),
  advice: z.string(),
});

/** What was found before kinds were kept with it is told by its title. */
function withKind(saved: unknown): unknown {
  if (typeof saved !== 'object' || saved === null || 'kind' in saved) return saved;
  const { title } = saved as { title?: unknown };
  return { ...saved, kind: KINDS.find((kind) => TITLES[kind] === title) };
}

/** One thing about a mix that matters, as a sentence with its figure, and what to do about it. */
export const findingSchema = z.preprocess(withKind, currentSchema);
export type Finding = z.infer<typeof currentSchema>;
export type FindingWeight = Finding['weight'];

/** What a weight is called. */
export const WEIGHT_TITLES: Record<FindingWeight, string> = { fault: 'Fault', caution: 'Caution', note: 'Note' };

const SILENCE_WORTH_SAYING = 0.5;
/** A healthy mix peaks inside the top 5 dB of the scale (common practice, no source). */
const LOW_PEAK_DB = -5;
/** More range than this is lost on most listeners (common practice, no source). */
const WIDE_RANGE_LU = 18;
/** The channels differ audibly from here on (common practice, no source). */
const LEANING_DB = 1.5;
const MISSING_DB = 60;
/** True peak below full scale that leaves room for what boosts (common practice, no source). */
const ROOM_DB = 4;
/** An offset of 0.01, −40 dBFS, takes 0.09 dB of headroom; less is only good to know. */
const MUCH_OFFSET = 0.01;
/** Bass that agrees less than this loses level in mono, if there is enough of it to matter. */
const BASS_AGREEMENT = 0.5;
const BASS_MATTERS_DB = -45;

type Add = (weight: FindingWeight, kind: FindingKind, sentence: string, advice: string) => void;

/** Where the highest frequency points to: a lower sample rate before, or a lossy encode. */
function originOf(endHz: number, sampleRate: number): string {
  if (sampleRate > 48000 && endHz > 19_000 && endHz < 22_100) return 'as if it had been upsampled from 44.1 kHz';
  if (sampleRate > 48000 && endHz > 22_100 && endHz < 24_100) return 'as if it had been upsampled from 48 kHz';
  return 'like a lossy encode';
}

function spectrumFindings(source: SourceFacts, { spectrum }: IntakeMeasurement, add: Add): void {
  const { balanceDb, correlation, bassCorrelation, bassDb, endHz, hum, delayFrames } = spectrum;
  if (endHz !== null) {
    add(
      'caution',
      'spectrumEnds',
      `There is nothing above ${figure(endHz / 1000)} kHz, ${originOf(endHz, source.sampleRate)}.`,
      'Ask for the mix at the rate and quality it was made in; don’t deliver at a higher rate than it really has.',
    );
  }
  if (Math.abs(balanceDb) > MISSING_DB) {
    add(
      'fault',
      'channelMissing',
      `The ${balanceDb > 0 ? 'right' : 'left'} channel is silent.`,
      'Send it back: ask for an export with both channels.',
    );
    return;
  }
  if (Math.abs(balanceDb) > LEANING_DB) {
    add(
      'caution',
      'leaning',
      `The ${balanceDb > 0 ? 'left' : 'right'} channel is ${figure(Math.abs(balanceDb))} dB louder over the whole track.`,
      'Ask whether it is intended; an unlinked trim fixes it.',
    );
  }
  if (correlation < -0.5) {
    add(
      'fault',
      'channelInverted',
      `The correlation is ${figure(correlation, 2)}: most of the mix disappears in mono.`,
      'Send it back: ask for an export with one channel’s polarity inverted.',
    );
  } else if (bassCorrelation < BASS_AGREEMENT && bassDb > BASS_MATTERS_DB) {
    add(
      'caution',
      'wideBass',
      `Below 120 Hz the correlation is ${figure(bassCorrelation, 2)}: the bass ${bassCorrelation < 0 ? 'falls apart' : 'loses weight'} in mono.`,
      'Ask for a mix with the bass in the centre, and check it in mono first.',
    );
  }
  if (delayFrames !== null) {
    const milliseconds = (1000 * Math.abs(delayFrames)) / source.sampleRate;
    add(
      'caution',
      'channelLate',
      `The ${delayFrames > 0 ? 'right' : 'left'} channel is ${Math.abs(delayFrames)} samples late (${figure(milliseconds, 2)} ms) throughout.`,
      'Ask whether a device delayed one channel: in mono it comb-filters the highs.',
    );
  }
  if (hum) {
    add(
      'caution',
      'hum',
      `Steady tones of ${hum.frequencyHz} Hz and its multiples are at ${figure(hum.levelDb)} dBFS.`,
      'Ask for a mix without it; loud processing brings it up. Narrow cuts are second best.',
    );
  }
}

/** The findings of a mix that matter, the gravest first; empty for a clean one. */
export function findings(source: SourceFacts, measured: IntakeMeasurement): Finding[] {
  const found: Finding[] = [];
  const add: Add = (weight, kind, sentence, advice) =>
    found.push({ kind, weight, title: TITLES[kind], sentence, advice });
  const samplePeakDb = decibels(Math.max(...measured.samplePeak));
  const truePeakDb = decibels(Math.max(...measured.truePeak));
  const seconds = (frames: number) => frames / source.sampleRate;

  if (measured.headFrames === measured.frames) {
    add('fault', 'silent', 'Nothing in the file is above −90 dBFS.', 'Check the export, and upload the mix again.');
    return found;
  }
  if (measured.clippedRuns > 0) {
    add(
      'fault',
      'clipped',
      `${measured.clippedRuns} ${measured.clippedRuns === 1 ? 'run' : 'runs'} of three or more samples sit at the same extreme, ${figure(samplePeakDb)} dBFS.`,
      'Send it back: ask for the mix without its clipper or limiter. Loud processing makes every clipped peak worse.',
    );
  } else if (measured.fullScaleSamples > 0) {
    add(
      'caution',
      'fullScale',
      `${measured.fullScaleSamples} samples reach full scale.`,
      'Ask for a mix that peaks near −3 dBFS, or turn it down with a trim first.',
    );
  }
  if (truePeakDb > 0) {
    add(
      samplePeakDb > 0 ? 'fault' : 'caution',
      'overs',
      `The true peak is ${figure(truePeakDb)} dBTP, ${figure(truePeakDb - samplePeakDb)} dB above the highest sample; ${measured.overs} frames are over full scale.`,
      `Turn it down first; a trim of ${figure(-Math.ceil(truePeakDb + ROOM_DB), 0)} dB puts the later stages in their working range.`,
    );
  } else if (truePeakDb > -1) {
    add(
      'note',
      'littleHeadroom',
      `The true peak is ${figure(truePeakDb)} dBTP.`,
      'Turn it down with a trim before boosts.',
    );
  }
  const offset = Math.max(...measured.dcOffset.map(Math.abs));
  if (offset > 0.001) {
    add(
      offset > MUCH_OFFSET ? 'caution' : 'note',
      'offset',
      `The mean of a channel is at ${figure(decibels(offset))} dBFS instead of zero.`,
      'A high-pass at 20 Hz removes it and gives the headroom back.',
    );
  }
  if (
    measured.bitsUsed !== null &&
    measured.bitsUsed > 0 &&
    measured.bitsUsed < source.bits &&
    !source.float &&
    measured.bitsUsed <= 16
  ) {
    add(
      'caution',
      'fewerBits',
      `The file has ${source.bits} bits, but only ${measured.bitsUsed} are used.`,
      'Ask whether there is a copy with the full word length: this one was truncated.',
    );
  }
  if (measured.rangeLu < 3 && measured.integratedLufs > -12) {
    add(
      'caution',
      'alreadyLoud',
      `Integrated loudness is ${figure(measured.integratedLufs)} LUFS with a range of ${figure(measured.rangeLu)} LU.`,
      'Ask whether the mix bus was limited: a mix without it leaves more room.',
    );
  }
  if (measured.rangeLu > WIDE_RANGE_LU) {
    add(
      'caution',
      'veryDynamic',
      `The loudness range is ${figure(measured.rangeLu)} LU: quiet parts disappear in a noisy place.`,
      'Ask how far to reduce it, and judge the quiet parts before the loud end.',
    );
  }
  if (source.channels === 1)
    add(
      'note',
      'mono',
      'The file has one channel; both loudspeakers play it.',
      'Fine if intended; otherwise ask for the stereo mix.',
    );
  if (source.sampleRate < 44100) {
    add(
      'note',
      'lowSampleRate',
      `The sample rate is ${source.sampleRate / 1000} kHz.`,
      'Ask whether the session ran at a higher rate.',
    );
  }
  const head = seconds(measured.headFrames);
  const tail = seconds(measured.tailFrames);
  if (head > SILENCE_WORTH_SAYING)
    add(
      'note',
      'silentHead',
      `${figure(head)} s of silence before the first sound.`,
      'Ask whether it is intended as a pause.',
    );
  if (tail > 4 * SILENCE_WORTH_SAYING)
    add(
      'note',
      'silentTail',
      `${figure(tail)} s of silence after the last sound.`,
      'Ask whether it is intended as a pause.',
    );
  spectrumFindings(source, measured, add);
  if (samplePeakDb < LOW_PEAK_DB && !found.some(({ kind }) => kind === 'channelMissing')) {
    add(
      'note',
      'lowLevel',
      `The highest sample is ${figure(samplePeakDb)} dBFS, below the top 5 dB of the scale.`,
      'Nothing is lost in a 24-bit file: bring it up with a trim.',
    );
  }
  const order: FindingWeight[] = ['fault', 'caution', 'note'];
  return found.sort((a, b) => order.indexOf(a.weight) - order.indexOf(b.weight));
}
