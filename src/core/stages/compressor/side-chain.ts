import { equalizerBand, type EqualizerBand } from '../equalizer/settings';
import { SIDE_CHAIN_OPEN_HZ, SIDE_CHAIN_TILT_PIVOT_HZ, type CompressorSettings } from './settings';

/** Bands of an equalizer that make what the detector hears of the input; a flat one where it hears it as it is. */
export function sideChainBands({ sideChainHighPassHz, sideChainTiltDb }: CompressorSettings): EqualizerBand[] {
  const highPass =
    sideChainHighPassHz > SIDE_CHAIN_OPEN_HZ
      ? [{ shape: 'highPass', frequencyHz: sideChainHighPassHz, slopeDbPerOctave: 12, q: Math.SQRT1_2 }]
      : [];
  const tilt = { shape: 'tilt', frequencyHz: SIDE_CHAIN_TILT_PIVOT_HZ, gainDb: sideChainTiltDb };
  return [...highPass, tilt].map((band) => equalizerBand.parse(band));
}
