import { reading, readingText, readingUnit, readingWords } from './reading';

test.each([
  [reading('loudness', -14), '−14.0 LUFS'],
  [reading('truePeak', -1, 0.26), '−1.0 / 0.3 dBTP'],
  [reading('gain', 2), '+2.0 dB'],
  [reading('gain', 0), '0.0 dB'],
  [reading('correlation', -0.924), '−0.92'],
  [reading('share', 68.4, 71.6), '68 / 72 %'],
  [reading('time', 83.25), '1:23.2 min'],
  [reading('loudness', -Infinity), '−∞ LUFS'],
  [reading('loudnessDifference', null), '– LU'],
  [reading('samplePeak', undefined, -3), '– / −3.0 dBFS'],
])('%p is written “%s”', (of, words) => {
  expect(readingWords(of)).toBe(words);
  expect(words.startsWith(readingText(of))).toBe(true);
  expect(words.endsWith(readingUnit(of))).toBe(true);
});
