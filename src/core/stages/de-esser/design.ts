import { IDENTITY } from '../../signal/biquad';
import { amplitude } from '../../signal/decibels';
import { bandSections } from '../equalizer/design';
import { detectorSections } from '../equalizer/moving-design';
import { equalizerBand, type EqualizerBand } from '../equalizer/settings';
import type { MovingBandDesign } from '../moving-band';
import type { DeEsserSettings } from './settings';

/** The region as a band of an equalizer that is cut by some dB. */
export function deEsserBand({ detection, frequencyHz, q }: DeEsserSettings, gainDb: number): EqualizerBand {
  return equalizerBand.parse(
    detection === 'around'
      ? { shape: 'bell', frequencyHz, q, gainDb }
      : { shape: 'highShelf', frequencyHz, q: Math.SQRT1_2, gainDb },
  );
}

/** What a de-esser's settings mean: null when it can take nothing. */
export function deEsserDesign(settings: DeEsserSettings, sampleRate: number): MovingBandDesign | null {
  const { part, reduction, frequencyHz, thresholdDb, rangeDb, attackMs, releaseMs } = settings;
  if (rangeDb < 0.05 || thresholdDb >= 0) return null;
  const cut = deEsserBand(settings, -rangeDb);
  return {
    base: [],
    full: reduction === 'split' ? bandSections(cut, sampleRate) : [{ ...IDENTITY, b0: amplitude(-rangeDb) }],
    detector: detectorSections(cut, sampleRate),
    first: part !== 'side',
    second: part !== 'mid',
    // An average over more than a few periods, so that a hiss reads steady.
    detectorHz: frequencyHz / 16,
    thresholdDb,
    relative: true,
    rangeDb: -rangeDb,
    attackMs,
    releaseMs,
  };
}
