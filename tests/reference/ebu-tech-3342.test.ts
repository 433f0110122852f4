// Loudness range signals and tolerance (±1 LU) of EBU Tech 3342, from memory of the publication.
import { both, join, sine } from '../support/signals';
import { loudnessOf } from '../support/core';

describe.each([44100, 48000, 96000])('EBU Tech 3342 at %i Hz', (rate) => {
  test.each([
    [[-20, -30], 10],
    [[-20, -15], 5],
    [[-40, -20], 20],
    [[-50, -35, -20, -35, -50], 15],
  ])('tones at %p dBFS have a range of %i LU', (levels, range) => {
    const signal = both(join(...levels.map((level) => sine(1000, level, 20, rate))));
    expect(Math.abs(loudnessOf(signal, rate).range - range)).toBeLessThanOrEqual(1);
  });
});
