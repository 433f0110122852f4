import { figure } from '../measure/figure';
import type { EqualizerBand } from '../stages/equalizer/settings';
import { fittedStrokes, regionOf, type FittedStroke } from './strokes';

/** A move towards the reference, with its reason. */
export interface ProposedMove {
  band: EqualizerBand;
  /** Why, as a sentence. */
  reason: string;
}

/** Why a stroke is proposed where the master lacks some dB, or has as many too much. */
function reasonFor({ band, lacksDb }: FittedStroke): string {
  const region = regionOf(band);
  // Strokes reach into each other.
  if (Math.sign(band.gainDb) !== Math.sign(lacksDb)) return `${region} it takes back what its neighbours do.`;
  const apart = `${figure(Math.abs(lacksDb))} dB ${lacksDb > 0 ? 'less' : 'more'}`;
  return `${region} the master has ${apart} than the reference, at equal loudness.`;
}

/**
 * Equalizer bands that bring a master closer to a reference, none of more than 3 dB. `difference` is the master above the
 * reference in dB, by third-octaves at equal loudness. Empty where they are alike.
 */
export function movesTowards(difference: readonly (number | null)[]): ProposedMove[] {
  return fittedStrokes(difference).map((stroke) => ({ band: stroke.band, reason: reasonFor(stroke) }));
}
