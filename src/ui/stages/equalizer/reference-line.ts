import { THIRD_OCTAVES_HZ } from '../../../core/measure/balance';
import { powerDecibels } from '../../../core/signal/decibels';
import { frequencyAt } from './equalizer-axes';

/** Width of a third-octave as a share of its centre. */
const WIDTH = 10 ** 0.05 - 10 ** -0.05;
/** Width of a bin of noise under a Hann window, in bins (F. J. Harris, "On the Use of Windows", 1978; from memory). */
const NOISE_BINS = 1.5;

/** What a line of third-octaves is drawn from. */
export interface ThirdOctaveLine {
  /** dBFS of each third-octave; null where there is nothing. */
  levelsDbfs: readonly (number | null)[];
  /** dB that are added to all of it. */
  gainDb: number;
  /** dB per octave that are added towards the highs. */
  tiltDb: number;
  /** Width in Hz of a bin of the spectra beside it. */
  binHz: number;
}

/**
 * Third-octaves as columns spread evenly over the octaves, in dB: at the level that a spectrum of noise so loud would have
 * in bins of a width. NaN outside what was measured.
 */
export function thirdOctaveColumns(
  { levelsDbfs, gainDb, tiltDb, binHz }: ThirdOctaveLine,
  columns: number,
): Float32Array {
  const inBins = levelsDbfs.map((level, i) =>
    level === null ? NaN : level + gainDb + powerDecibels((NOISE_BINS * binHz) / (WIDTH * THIRD_OCTAVES_HZ[i])),
  );
  return Float32Array.from({ length: columns }, (_, x) => {
    const hz = frequencyAt(x / (columns - 1));
    const at = 10 * Math.log10(hz / THIRD_OCTAVES_HZ[0]);
    const below = Math.floor(at);
    const share = at - below;
    const level = (place: number) => (place >= 0 && place < inBins.length ? inBins[place] : NaN);
    const between = share === 0 ? level(below) : (1 - share) * level(below) + share * level(below + 1);
    return between + tiltDb * Math.log2(hz / 1000);
  });
}
