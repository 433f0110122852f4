import { preferenceSentence } from './preference';

test('a preference counts when it is rare by chance in either direction', () => {
  // Binomial law: 6 of 6 come in 2 × 1/64 = 3.1 %, 5 of 6 in 2 × 7/64 = 22 %, 9 of 10 in 2 × 11/1024 = 2.1 % of tests.
  const names = ['the mix', '“Loud”'] as const;
  expect(preferenceSentence(names, 6, 6)).toBe('Chose “Loud” in 6 of 6 trials, the mix in 0. This is hardly chance.');
  expect(preferenceSentence(names, 0, 6)).toBe('Chose the mix in 6 of 6 trials, “Loud” in 0. This is hardly chance.');
  expect(preferenceSentence(names, 5, 6)).toContain('may well be chance');
  expect(preferenceSentence(names, 1, 10)).toContain('hardly chance');
  expect(preferenceSentence(names, 5, 10)).toContain('in 5 of 10 trials, the mix in 5. This may well be chance.');
});
