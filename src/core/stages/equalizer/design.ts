import { biquadMagnitude, inverse, type Biquad } from '../../signal/biquad';
import { butterworthQs } from '../../signal/butterworth';
import {
  matched,
  matchedBell,
  matchedFirstHighPass,
  matchedFirstLowPass,
  matchedTilt,
  notch,
} from '../../signal/matched';
import {
  bandPassPrototype,
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

function passSections(shape: 'highPass' | 'lowPass', slopeDbPerOctave: number, radians: number): Biquad[] {
  const order = slopeDbPerOctave / 6;
  const prototype = shape === 'highPass' ? highPassPrototype : lowPassPrototype;
  const first = shape === 'highPass' ? matchedFirstHighPass : matchedFirstLowPass;
  const pairs = butterworthQs(order).map((q) => matched(prototype(q), radians));
  return order % 2 ? [first(radians), ...pairs] : pairs;
}

/**
 * Second-order sections of one band with its gain scaled; empty when it does nothing. Shapes with gain are designed in
 * the direction whose poles lie lower and turned over for the other, so that a cut undoes the same boost exactly.
 */
export function bandSections(band: EqualizerBand, sampleRate: number, scalePercent = 100): Biquad[] {
  const { shape, on, frequencyHz, q, slopeDbPerOctave } = band;
  if (!on) return [];
  const radians = Math.min((2 * Math.PI * frequencyHz) / sampleRate, HIGHEST);
  if (shape === 'highPass' || shape === 'lowPass') return passSections(shape, slopeDbPerOctave, radians);
  if (shape === 'bandPass') return [matched(bandPassPrototype(q), radians)];
  if (shape === 'notch') return [notch(radians, q)];
  const gainDb = (band.gainDb * scalePercent) / 100;
  const size = Math.abs(gainDb);
  if (size < NO_GAIN_DB) return [];
  const turned = (section: Biquad, designedDb: number) => [designedDb > 0 === gainDb > 0 ? section : inverse(section)];
  switch (shape) {
    case 'bell':
      return turned(matchedBell(bellPrototype(size, q), radians, q), size);
    case 'lowShelf':
      return turned(matched(lowShelfPrototype(size, q), radians), size);
    case 'highShelf':
      return turned(matched(highShelfPrototype(-size, q), radians), -size);
    case 'tilt':
      return turned(matchedTilt(-size, radians), -size);
  }
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
