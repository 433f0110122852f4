import { linedUpWords } from './lined-up-words';

const found = { toMix: 1, outcome: 'found', offsetFrames: 1632, offsetMs: 37.007, agreement: 0.99 } as const;

test.each([
  [found, 'The file begins 37.0 ms later than mix 1; it was moved to lie under it, to the sample.'],
  [
    { ...found, offsetFrames: -100, offsetMs: -2.27 },
    'The file begins 2.3 ms earlier than mix 1; it was moved to lie under it, to the sample.',
  ],
  [{ ...found, offsetFrames: 0, offsetMs: 0 }, 'Lies exactly where mix 1 lies.'],
  [
    { ...found, outcome: 'soundBefore' as const },
    'The file begins 37.0 ms later than mix 1, with sound that moving it would cut off: it stays as it came.',
  ],
  [
    { ...found, outcome: 'different' as const, toMix: 2 },
    'It is too unlike mix 2 to be lined up with it: it stays as it came.',
  ],
])('%p is said in a sentence', (linedUp, words) => {
  expect(linedUpWords(linedUp)).toBe(words);
});
