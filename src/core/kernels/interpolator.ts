import { besselI0 } from '../signal/bessel';
import { TAPS } from './layout';

/**
 * 48-tap interpolator of ITU-R BS.1770-4 Annex 2 (values from memory of the recommendation), phases 0 and 1 for the
 * taps of a window in time order; phases 2 and 3 are their mirrors.
 */
export const ANNEX2_PHASES: readonly (readonly number[])[] = [
  [
    0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625, 0.97216796875,
    -0.102294921875, 0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125,
  ],
  [
    -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625, 0.77978515625,
    -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
  ],
];

/** Kaiser's β: the best compromise of 32 taps a phase between droop near 20 kHz and ripple below it, at 44.1 kHz. */
const BETA = 4.2;

/** sin(π e / 8) of e = 0 … 4, so that the tables need no sine function. */
const SIN_EIGHTHS = [0, 0.3826834323650898, Math.SQRT1_2, 0.9238795325112867, 1];

/**
 * Kaiser-windowed sinc of 32 taps that interpolates `eighth` eighths of the way to the next sample, with unity gain at
 * 0 Hz.
 */
function finePhase(eighth: number): number[] {
  const taps = Array.from({ length: TAPS }, (_, k) => {
    const distance = k - (TAPS / 2 - 1) - eighth / 8;
    if (distance === 0) return 1;
    const sine = SIN_EIGHTHS[eighth] * (Math.abs(k - (TAPS / 2 - 1)) % 2 === 0 ? -1 : 1);
    const window = besselI0(BETA * Math.sqrt(1 - (distance / (TAPS / 2)) ** 2)) / besselI0(BETA);
    return (sine / (Math.PI * distance)) * window;
  });
  const sum = taps.reduce((a, b) => a + b, 0);
  return taps.map((tap) => tap / sum);
}

/** 4x interpolator: the phases 0, 1/4 and 1/2; 3/4 is the mirror of 1/4. Phase 0 is the signal itself. */
export const FINE_PHASES: readonly (readonly number[])[] = [0, 2, 4].map(finePhase);

/** What an 8x interpolator needs as well: the phases 1/8 and 3/8; 7/8 and 5/8 are their mirrors. */
export const EIGHTH_PHASES: readonly (readonly number[])[] = [1, 3].map(finePhase);
