import { biquadMagnitude } from './biquad';
import { linkwitzRiley, lowMagnitude } from './crossover';

test.each([0.005, 0.05, 0.4, 1.5, 2.6])(
  'at %f radians both sides are half, and their sum is an all-pass',
  (radians) => {
    const { low, high, allPass } = linkwitzRiley(radians);
    // −6.02 dB each at the crossover (Linkwitz, JAES 1976; from memory).
    expect(biquadMagnitude(low, radians) ** 2).toBeCloseTo(0.5, 9);
    expect(biquadMagnitude(high, radians) ** 2).toBeCloseTo(0.5, 9);
    for (const w of [0.001, 0.01, 0.1, 0.7, 1.9, 3.1]) {
      expect(biquadMagnitude(allPass, w)).toBeCloseTo(1, 9);
      expect(biquadMagnitude(low, w) ** 2 + biquadMagnitude(high, w) ** 2).toBeCloseTo(1, 9);
    }
  },
);

test('without phase the low side falls by 24 dB per octave', () => {
  const level = (ratio: number) => 20 * Math.log10(lowMagnitude(ratio));
  expect(level(1)).toBeCloseTo(-6.02, 2);
  expect(level(16) - level(8)).toBeCloseTo(-24.08, 1);
  expect(level(0.1)).toBeCloseTo(0, 2);
});
