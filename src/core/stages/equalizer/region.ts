import { equalizerBand, type EqualizerBand } from './settings';

/** Sharper than any band needs to be heard, and still calm. */
const WIDEST_Q = 0.5;
const NARROWEST_Q = 12;

/**
 * Bands that pass only the region that a band works on, for listening to it alone; none for a tilt, which works
 * everywhere.
 */
export function regionBands({ shape, frequencyHz, q }: EqualizerBand): EqualizerBand[] {
  switch (shape) {
    case 'bell':
    case 'notch':
    case 'bandPass': {
      const held = Math.min(NARROWEST_Q, Math.max(WIDEST_Q, q));
      const pass = equalizerBand.parse({ shape: 'bandPass', frequencyHz, q: held });
      return [pass, pass];
    }
    case 'lowShelf':
    case 'highPass':
      return [equalizerBand.parse({ shape: 'lowPass', frequencyHz, slopeDbPerOctave: 24 })];
    case 'highShelf':
    case 'lowPass':
      return [equalizerBand.parse({ shape: 'highPass', frequencyHz, slopeDbPerOctave: 24 })];
    case 'tilt':
      return [];
  }
}
