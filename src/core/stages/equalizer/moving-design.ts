import type { Biquad } from '../../signal/biquad';
import type { MovingBandDesign } from '../moving-band';
import { bandSections } from './design';
import { FLAT_PASS_Q, type BandDynamics, type EqualizerBand } from './settings';

/** What of the signal decides how far a band moves: what a bell works on, or all beyond a shelf's midpoint. */
function detectorBand({ shape, frequencyHz, q }: EqualizerBand): Pick<EqualizerBand, 'shape' | 'q'> & {
  frequencyHz: number;
} {
  if (shape === 'lowShelf') return { shape: 'lowPass', frequencyHz, q: FLAT_PASS_Q };
  if (shape === 'highShelf') return { shape: 'highPass', frequencyHz, q: FLAT_PASS_Q };
  return { shape: 'bandPass', frequencyHz, q };
}

/** What a detector lets through 20 dB down decides nothing: a squared magnitude. */
const UNDECISIVE = 0.01;

/** Sections of what moves a band, at a sample rate in Hz. */
export function detectorSections(band: EqualizerBand, sampleRate: number): readonly Biquad[] {
  const listening = { ...band, ...detectorBand(band), dynamics: null, slopeDbPerOctave: 12 as const };
  return bandSections(listening, sampleRate, UNDECISIVE);
}

/** A band of an equalizer that moves; `first` and `second` say which channels of its pair it works on. */
export function movingDesign(
  band: EqualizerBand & { dynamics: BandDynamics },
  sampleRate: number,
  { first, second }: { first: boolean; second: boolean },
): MovingBandDesign {
  const { thresholdDbfs, rangeDb, attackMs, releaseMs } = band.dynamics;
  const baseDb = band.gainDb;
  const at = (gainDb: number) => bandSections({ ...band, dynamics: null, gainDb }, sampleRate);
  return {
    base: at(baseDb),
    full: at(baseDb + rangeDb),
    detector: detectorSections(band, sampleRate),
    ...{ first, second, rangeDb, attackMs, releaseMs },
    detectorHz: band.frequencyHz,
    thresholdDb: thresholdDbfs,
    relative: false,
  };
}
