import { figure } from './figure';
import { decibels } from '../signal/decibels';
import type { IntakeMeasurement } from './intake';

/** What is known of the source file before a sample is looked at. */
export interface SourceFacts {
  container: string;
  channels: number;
  bits: number;
  float: boolean;
  /** Hz */
  sampleRate: number;
}

/** `fault`: better sent back; `caution`: know it before you begin; `note`: good to know. */
export type FindingWeight = 'fault' | 'caution' | 'note';

/** One thing about a mix that matters, as a sentence with its figure, and what to do about it. */
export interface Finding {
  weight: FindingWeight;
  title: string;
  sentence: string;
  advice: string;
}

const SILENCE_WORTH_SAYING = 0.5;

/** The findings of a mix that matter, the gravest first; empty for a clean one. */
export function findings(source: SourceFacts, measured: IntakeMeasurement): Finding[] {
  const found: Finding[] = [];
  const add = (weight: FindingWeight, title: string, sentence: string, advice: string) =>
    found.push({ weight, title, sentence, advice });
  const samplePeakDb = decibels(Math.max(...measured.samplePeak));
  const truePeakDb = decibels(Math.max(...measured.truePeak));
  const seconds = (frames: number) => frames / source.sampleRate;

  if (measured.headFrames === measured.frames) {
    add('fault', 'Silent', 'Nothing in the file rises above −90 dBFS.', 'Check the export, and put the mix in again.');
    return found;
  }
  if (measured.clippedRuns > 0) {
    add(
      'fault',
      'Clipped',
      `${measured.clippedRuns} ${measured.clippedRuns === 1 ? 'run' : 'runs'} of three or more samples stand at the same extreme, ${figure(samplePeakDb)} dBFS.`,
      'Send it back: ask for the mix without its clipper or limiter. Loud processing makes every clipped peak worse.',
    );
  } else if (measured.fullScaleSamples > 0) {
    add(
      'caution',
      'Full scale',
      `${measured.fullScaleSamples} samples reach full scale.`,
      'Ask for a mix that peaks near −3 dBFS, or turn it down with a trim first.',
    );
  }
  if (truePeakDb > 0) {
    add(
      samplePeakDb > 0 ? 'fault' : 'caution',
      'Overs between samples',
      `The true peak is ${figure(truePeakDb)} dBTP, ${figure(truePeakDb - samplePeakDb)} dB above the highest sample; ${measured.overs} frames are over full scale.`,
      'Turn it down before anything else; a trim of −6 dB keeps the stages that follow where they should work.',
    );
  } else if (truePeakDb > -1) {
    add(
      'note',
      'Little headroom',
      `The true peak is ${figure(truePeakDb)} dBTP.`,
      'Turn it down with a trim before boosts.',
    );
  }
  const offset = Math.max(...measured.dcOffset.map(Math.abs));
  if (offset > 0.001) {
    add(
      'caution',
      'DC offset',
      `The mean of a side lies at ${figure(decibels(offset))} dBFS instead of at zero.`,
      'A high-pass at 20 Hz takes it out and gives its headroom back.',
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
      'Fewer bits than the file',
      `The file has ${source.bits} bits, but only ${measured.bitsUsed} are used.`,
      'Ask whether a copy with the full word length exists: this one was rounded on its way.',
    );
  }
  if (measured.rangeLu < 3 && measured.integratedLufs > -12) {
    add(
      'caution',
      'Already loud',
      `Integrated loudness is ${figure(measured.integratedLufs)} LUFS with a range of ${figure(measured.rangeLu)} LU.`,
      'Ask whether the mix bus was limited: a mix without it leaves more to shape.',
    );
  }
  if (source.channels === 1)
    add(
      'note',
      'Mono',
      'The file has one channel; both sides play it.',
      'Fine if it is meant; otherwise ask for the stereo mix.',
    );
  if (source.sampleRate < 44100) {
    add(
      'note',
      'Low sample rate',
      `The sample rate is ${source.sampleRate / 1000} kHz.`,
      'Ask whether the session ran at a higher rate.',
    );
  }
  const head = seconds(measured.headFrames);
  const tail = seconds(measured.tailFrames);
  if (head > SILENCE_WORTH_SAYING)
    add(
      'note',
      'Silence at the head',
      `${figure(head)} s of silence come before the first sound.`,
      'Ask whether it is meant as a pause.',
    );
  if (tail > 4 * SILENCE_WORTH_SAYING)
    add(
      'note',
      'Silence at the tail',
      `${figure(tail)} s of silence follow the last sound.`,
      'Ask whether it is meant as a pause.',
    );
  const order: FindingWeight[] = ['fault', 'caution', 'note'];
  return found.sort((a, b) => order.indexOf(a.weight) - order.indexOf(b.weight));
}
