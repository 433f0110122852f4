import { linedUpWords } from './lined-up-words';

const found = { toMix: 1, outcome: 'found', offsetFrames: 1632, offsetMs: 37.007, agreement: 0.99 } as const;

test.each([
  [found, 'The file starts 37.0 ms later than mix 1; it was aligned to the sample.'],
  [
    { ...found, offsetFrames: -100, offsetMs: -2.27 },
    'The file starts 2.3 ms earlier than mix 1; it was aligned to the sample.',
  ],
  [{ ...found, offsetFrames: 0, offsetMs: 0 }, 'Already aligned with mix 1.'],
  [
    { ...found, outcome: 'soundBefore' as const },
    'The file starts 37.0 ms later than mix 1, with sound that aligning would cut off: it was left as it is.',
  ],
  [{ ...found, outcome: 'different' as const, toMix: 2 }, 'Too different from mix 2 to align: it was left as it is.'],
])('%p is said in a sentence', (linedUp, words) => {
  expect(linedUpWords(linedUp)).toBe(words);
});
