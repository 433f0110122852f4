import { biquadMagnitude, inverse, type Biquad } from '../../signal/biquad';
import { butterworthQs } from '../../signal/butterworth';
import { matched, matchedBell } from '../../signal/matched';
import {
  bellPrototype,
  highPassPrototype,
  highShelfPrototype,
  lowPassPrototype,
  lowShelfPrototype,
} from '../../signal/prototype';
import type { EqualizerBand } from './settings';

/** Less gain than this does nothing, and would leave the design nothing to hold on to. */
const NO_GAIN_DB = 0.0005;

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
  if (Math.abs(gainDb) < NO_GAIN_DB) return [];
  if (shape === 'highShelf') {
    const cut = matched(highShelfPrototype(-Math.abs(gainDb), q), radians);
    return [gainDb < 0 ? cut : inverse(cut)];
  }
  const boost =
    shape === 'bell'
      ? matchedBell(bellPrototype(Math.abs(gainDb), q), radians, q)
      : matched(lowShelfPrototype(Math.abs(gainDb), q), radians);
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
