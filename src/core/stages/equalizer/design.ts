import { biquadMagnitude, inverse, type Biquad } from '../../signal/biquad';
import { butterworthQs } from '../../signal/butterworth';
import { matched } from '../../signal/matched';
import {
  bellPrototype,
  highPassPrototype,
  highShelfPrototype,
  lowPassPrototype,
  lowShelfPrototype,
} from '../../signal/prototype';
import type { EqualizerBand } from './settings';

/** Bands above this share of the Nyquist frequency are designed as if they stood there. */
const HIGHEST = 0.98 * Math.PI;

/**
 * Second-order sections of one band; empty when it does nothing. Bells and shelves are designed in the direction whose
 * poles lie lower and turned over for the other, so that a cut undoes the same boost exactly.
 */
export function bandSections(band: EqualizerBand, sampleRate: number): Biquad[] {
  const { shape, on, frequencyHz, gainDb, q, slopeDbPerOctave } = band;
  if (!on) return [];
  const radians = Math.min((2 * Math.PI * frequencyHz) / sampleRate, HIGHEST);
  if (shape === 'highPass' || shape === 'lowPass') {
    const prototype = shape === 'highPass' ? highPassPrototype : lowPassPrototype;
    return butterworthQs(slopeDbPerOctave / 6).map((sectionQ) => matched(prototype(sectionQ), radians));
  }
  if (gainDb === 0) return [];
  if (shape === 'highShelf') {
    const cut = matched(highShelfPrototype(-Math.abs(gainDb), q), radians);
    return [gainDb < 0 ? cut : inverse(cut)];
  }
  const prototype = shape === 'bell' ? bellPrototype : lowShelfPrototype;
  const boost = matched(prototype(Math.abs(gainDb), q), radians);
  return [gainDb > 0 ? boost : inverse(boost)];
}

/** Gain in dB of a set of sections at a frequency in Hz, for drawing. */
export function sectionsGainDb(sections: readonly Biquad[], frequencyHz: number, sampleRate: number): number {
  const radians = Math.min((2 * Math.PI * frequencyHz) / sampleRate, Math.PI);
  return (
    20 *
    Math.log10(
      Math.max(
        1e-10,
        sections.reduce((gain, section) => gain * biquadMagnitude(section, radians), 1),
      ),
    )
  );
}
