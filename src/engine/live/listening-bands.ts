import { equalizerBand, type EqualizerBand } from '../../core/stages/equalizer/settings';

/** Where the bands that can be heard alone meet, in Hz. */
const EDGES_HZ = [80, 300, 1500, 6000];

/** Titles of the bands, from the lowest up. */
export const LISTENING_BANDS = ['Below 80 Hz', '80–300 Hz', '300 Hz–1.5 kHz', '1.5–6 kHz', 'Above 6 kHz'] as const;

/** Equalizer bands that pass one of the {@link LISTENING_BANDS}; none for everything. */
export function listeningBand(index: number | null): EqualizerBand[] {
  if (index === null) return [];
  const cut = (shape: 'highPass' | 'lowPass', frequencyHz: number | undefined) =>
    frequencyHz === undefined ? [] : [equalizerBand.parse({ shape, frequencyHz, slopeDbPerOctave: 24 })];
  return [...cut('highPass', EDGES_HZ[index - 1]), ...cut('lowPass', EDGES_HZ[index])];
}
