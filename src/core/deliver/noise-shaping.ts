/** Coefficients of an error filter, from the first delay on, and the sample rate in Hz that it is for. */
interface NoiseShaper {
  sampleRate: number;
  coefficients: readonly number[];
}

/**
 * Error filters of noise-shaped dither. That at 44.1 kHz is published: 9 taps, F-weighted (R. Wannamaker, "Psychoacoustically
 * Optimal Noise Shaping", JAES 1992; from memory). The others are ours, with the weighting that this one implies up to
 * 20 kHz; above, where nobody hears, the noise may go. They are the linear predictors of a signal with that spectrum, which
 * leave the least weighted noise (the test designs them again).
 */
export const NOISE_SHAPERS: readonly NoiseShaper[] = [
  { sampleRate: 44100, coefficients: [2.412, -3.37, 3.937, -4.174, 3.353, -2.205, 1.281, -0.569, 0.0847] },
  {
    sampleRate: 48000,
    coefficients: [2.7236, -4.1822, 5.0083, -4.9784, 3.7058, -2.1825, 1.0286, -0.2933, -0.0188],
  },
  {
    sampleRate: 88200,
    coefficients: [
      ...[3.8349, -6.4301, 5.6819, -1.9968, -1.119, 1.7299],
      ...[-0.8443, -0.253, 0.9641, -1.0153, 0.5805, -0.1519],
    ],
  },
  {
    sampleRate: 96000,
    coefficients: [
      ...[3.7466, -5.8114, 4.167, -0.2817, -1.737, 0.9863],
      ...[0.2404, -0.6038, 0.4221, -0.2031, 0.0867, -0.0255],
    ],
  },
  {
    sampleRate: 176400,
    coefficients: [
      ...[2.5575, -1.353, -0.9834, 0.219, 0.6745, 0.3333, -0.1765, -0.3502],
      ...[-0.1554, 0.1107, 0.1788, 0.0421, -0.0956, -0.0619, 0.0734, -0.0172],
    ],
  },
  {
    sampleRate: 192000,
    coefficients: [
      ...[2.3837, -0.9684, -0.9921, -0.0687, 0.5075, 0.4484, 0.0607, -0.2404],
      ...[-0.2577, -0.0714, 0.1079, 0.1359, 0.0332, -0.0649, -0.0504, 0.0334],
    ],
  },
];

/** Error filter for a sample rate in Hz: that of the nearest rate that has one. */
export function noiseShaper(sampleRate: number): readonly number[] {
  const distance = (rate: number) => Math.abs(Math.log(rate / sampleRate));
  return NOISE_SHAPERS.reduce((best, each) => (distance(each.sampleRate) < distance(best.sampleRate) ? each : best))
    .coefficients;
}

/** Power by which an error filter changes the noise at a share of the sample rate: |1 − H|². */
export function shapedPower(coefficients: readonly number[], share: number): number {
  let [real, imaginary] = [1, 0];
  coefficients.forEach((c, k) => {
    real -= c * Math.cos(2 * Math.PI * share * (k + 1));
    imaginary += c * Math.sin(2 * Math.PI * share * (k + 1));
  });
  return real * real + imaginary * imaginary;
}

/** Above this nobody hears anything, in Hz. */
const HEARD_HZ = 20000;

/**
 * Weight of noise at a frequency in Hz for an ear near its threshold, as power: what the published filter at 44.1 kHz takes
 * as given, which is the inverse of its own spectrum; falling steeply above 20 kHz.
 */
export function noiseWeight(hz: number): number {
  const published = NOISE_SHAPERS[0];
  const weight = (at: number) => 1 / shapedPower(published.coefficients, at / published.sampleRate);
  if (hz <= HEARD_HZ) return weight(hz);
  return weight(HEARD_HZ) * Math.max(0.01, 10 ** (-0.2 * ((hz - HEARD_HZ) / 1000)));
}
