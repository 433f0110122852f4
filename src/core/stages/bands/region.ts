import { equalizerBand, type EqualizerBand } from '../equalizer/settings';
import { bandEdges, type Crossovers } from './crossovers';

/** Equalizer bands that pass only one band of the lane, with the slopes of its crossovers: Butterworth twice. */
export function bandRegion(crossovers: Crossovers, band: number): EqualizerBand[] {
  const [from, to] = bandEdges(crossovers, Math.min(band, crossovers.frequenciesHz.length));
  const pass = (shape: 'highPass' | 'lowPass', frequencyHz: number) =>
    equalizerBand.parse({ shape, frequencyHz, slopeDbPerOctave: 12 });
  return [
    ...(from > 0 ? [pass('highPass', from), pass('highPass', from)] : []),
    ...(to < Infinity ? [pass('lowPass', to), pass('lowPass', to)] : []),
  ];
}
