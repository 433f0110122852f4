import { Problem } from '../problem';
import { fileNameOf, withinBytes } from './upload';

test('a name is cut to bytes between characters, whatever these are made of', () => {
  expect(withinBytes('夜'.repeat(108), 255)).toBe('夜'.repeat(85));
  // A letter with its accent, and a family of four, are one character each.
  expect(withinBytes(`${'a'.repeat(254)}e\u0301`, 255)).toBe('a'.repeat(254));
  expect(withinBytes(`${'a'.repeat(240)}👨‍👩‍👧‍👦`, 255)).toBe('a'.repeat(240));
  expect(withinBytes('short.wav', 255)).toBe('short.wav');
});

test.each([
  ['夜'.repeat(108), 85 * 3],
  [`${'ü'.repeat(200)}.wav`, 254],
])('a name of a file has at most 255 bytes: %s', (given, bytes) => {
  expect(Buffer.byteLength(fileNameOf(given))).toBe(bytes);
});

test('line breaks and invisible controls are left out of a name, as no title may have them', () => {
  expect([fileNameOf('two\nlines.wav'), fileNameOf('gpj.\u202evaw\u0000')]).toEqual(['twolines.wav', 'gpj.vaw']);
});

test.each([[''], ['  '], [null], ['a\ufffdb.wav'], ['\u2066\u2069']])(
  'an unusable file name is refused in words: %j',
  (given) => {
    expect(() => fileNameOf(given)).toThrow(Problem);
  },
);
