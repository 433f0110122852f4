import { IDENTITY, type Biquad } from '../../signal/biquad';
import type { MovingBandDesign } from '../moving-band';
import { bandSections } from './design';
import type { BandDynamics, EqualizerBand } from './settings';

/** Q of what a shelf listens to: Butterworth. */
const SHELF_DETECTOR_Q = Math.SQRT1_2;

/** What of the signal decides how far a band moves: what a bell works on, or all beyond a shelf's midpoint. */
function detectorBand({ shape, frequencyHz, q }: EqualizerBand): Pick<EqualizerBand, 'shape' | 'q'> & {
  frequencyHz: number;
} {
  if (shape === 'lowShelf') return { shape: 'lowPass', frequencyHz, q: SHELF_DETECTOR_Q };
  if (shape === 'highShelf') return { shape: 'highPass', frequencyHz, q: SHELF_DETECTOR_Q };
  return { shape: 'bandPass', frequencyHz, q };
}

/** Section of what moves a band, at a sample rate in Hz. */
export function detectorSection(band: EqualizerBand, sampleRate: number): Biquad {
  return bandSections({ ...band, ...detectorBand(band), dynamics: null, slopeDbPerOctave: 12 }, sampleRate)[0];
}

/** A band of an equalizer that moves; `first` and `second` say which sides of its pair it works on. */
export function movingDesign(
  band: EqualizerBand & { dynamics: BandDynamics },
  sampleRate: number,
  scalePercent: number,
  { first, second }: { first: boolean; second: boolean },
): MovingBandDesign {
  const { thresholdDbfs, attackMs, releaseMs } = band.dynamics;
  const rangeDb = (band.dynamics.rangeDb * scalePercent) / 100;
  const baseDb = (band.gainDb * scalePercent) / 100;
  const at = (gainDb: number): Biquad => bandSections({ ...band, dynamics: null, gainDb }, sampleRate)[0] ?? IDENTITY;
  return {
    base: at(baseDb),
    full: at(baseDb + rangeDb),
    detector: detectorSection(band, sampleRate),
    ...{ first, second, rangeDb, attackMs, releaseMs },
    detectorHz: band.frequencyHz,
    thresholdDb: thresholdDbfs,
    relative: false,
  };
}
