import { NOISE_SHAPERS, noiseShaper, noiseWeight, shapedPower } from './noise-shaping';

const POINTS = 1024;
const decibels = (power: number) => 10 * Math.log10(power);
/** Mean over all frequencies, given as shares of the sample rate. */
const mean = (of: (share: number) => number) =>
  Array.from({ length: POINTS }, (_, i) => of((i + 0.5) / POINTS / 2)).reduce((sum, x) => sum + x, 0) / POINTS;

/** Linear predictor of a signal with the weighting's spectrum (Levinson and Durbin). */
function designed(sampleRate: number, taps: number): number[] {
  const correlation = Array.from({ length: taps + 1 }, (_, k) =>
    mean((share) => noiseWeight(share * sampleRate) * Math.cos(2 * Math.PI * share * k)),
  );
  let filter: number[] = [];
  let error = correlation[0];
  for (let order = 1; order <= taps; order++) {
    const miss = filter.reduce((sum, a, k) => sum - a * correlation[order - 1 - k], correlation[order]);
    const reflection = miss / error;
    filter = [...filter.map((a, k) => a - reflection * filter[order - 2 - k]), reflection];
    error *= 1 - reflection * reflection;
  }
  return filter;
}

test.each(NOISE_SHAPERS)(
  'at $sampleRate Hz noise goes from where it is heard to where it is not, and none of it for nothing',
  ({ sampleRate, coefficients }) => {
    // M. Gerzon and P. Craven, "Optimal Noise Shaping and Dither of Digital Signals", AES 1989: the mean of the log spectrum.
    expect(Math.abs(mean((share) => decibels(shapedPower(coefficients, share))))).toBeLessThan(0.01);
    const weighted = (of: (share: number) => number) => mean((share) => noiseWeight(share * sampleRate) * of(share));
    const less = decibels(weighted((share) => shapedPower(coefficients, share)) / weighted(() => 1));
    expect(less).toBeLessThan(sampleRate < 80000 ? -15 : -33);
    // The ear is keenest around 3 kHz.
    expect(decibels(shapedPower(coefficients, 3000 / sampleRate))).toBeLessThan(-24);
    // Total noise rises, by no more than the published filter lets it rise, and a little.
    const total = decibels(mean((share) => shapedPower(coefficients, share)));
    expect(total).toBeGreaterThan(9);
    expect(total).toBeLessThan(21);
  },
);

test.each(NOISE_SHAPERS.slice(1))(
  'the filter at $sampleRate Hz is what its design gives',
  ({ sampleRate, coefficients }) => {
    designed(sampleRate, coefficients.length).forEach((c, k) => expect(c).toBeCloseTo(coefficients[k], 2));
  },
);

test('a rate without a filter of its own takes that of its neighbour', () => {
  expect(noiseShaper(50000)).toBe(NOISE_SHAPERS[1].coefficients);
  expect(noiseShaper(96000)).toBe(NOISE_SHAPERS[3].coefficients);
  expect(noiseShaper(352800)).toBe(NOISE_SHAPERS[5].coefficients);
});
