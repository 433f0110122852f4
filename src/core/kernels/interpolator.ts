import { TAPS } from './layout';

/**
 * 48-tap interpolator of ITU-R BS.1770-4 Annex 2 (values from memory of the recommendation), phases 0 and 1 for the taps
 * of a window in time order; phases 2 and 3 are their mirrors.
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

/** Modified Bessel function of the first kind, order 0, by its power series (sums and products only, so the same everywhere). */
function besselI0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 40; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

const SIN_QUARTERS = [0, Math.SQRT1_2, 1];

/**
 * 4x interpolator: Kaiser-windowed sinc, 32 taps for each of the phases 0, 1/4 and 1/2; the phase 3/4 is the mirror of
 * 1/4. Each phase has unity gain at 0 Hz. Phase 0 is the signal itself.
 */
export const FINE_PHASES: readonly (readonly number[])[] = [0, 1, 2].map((quarter) => {
  const taps = Array.from({ length: TAPS }, (_, k) => {
    const distance = k - (TAPS / 2 - 1) - quarter / 4;
    if (distance === 0) return 1;
    // sin(π(n − q/4)) takes one of three magnitudes, so the table needs no sine function.
    const sine = SIN_QUARTERS[quarter] * (Math.abs(k - (TAPS / 2 - 1)) % 2 === 0 ? -1 : 1);
    const window = besselI0(BETA * Math.sqrt(1 - (distance / (TAPS / 2)) ** 2)) / besselI0(BETA);
    return (sine / (Math.PI * distance)) * window;
  });
  const sum = taps.reduce((a, b) => a + b, 0);
  return taps.map((tap) => tap / sum);
});
