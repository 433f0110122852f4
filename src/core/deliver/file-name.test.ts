import { nameByPattern, patternProblem, STANDARD_PATTERN } from './file-name';

const WHOLE = {
  ...{ artist: 'Ashgrove', release: 'Slow Orbits', position: '03', title: 'Aphelion', destination: 'Disc' },
  ...{ version: 'Warmer', isrc: 'AA6Q72000047', ean: '', year: '2026' },
};

test.each([
  [STANDARD_PATTERN, WHOLE, 'Ashgrove - Slow Orbits - 03 Aphelion (Disc)'],
  [STANDARD_PATTERN, { ...WHOLE, artist: '' }, 'Slow Orbits - 03 Aphelion (Disc)'],
  [STANDARD_PATTERN, { ...WHOLE, destination: '' }, 'Ashgrove - Slow Orbits - 03 Aphelion'],
  ['{isrc}_{title}', WHOLE, 'AA6Q72000047_Aphelion'],
  ['{isrc}_{title}', { ...WHOLE, isrc: '  ' }, 'Aphelion'],
  ['{title} - {ean}', WHOLE, 'Aphelion'],
  ['{title} [{ean}] {ean}{ean} {year}', WHOLE, 'Aphelion 2026'],
  ['{title}{title}', { title: '{year} & $1' }, '{year} & $1{year} & $1'],
])('“%s” of %p', (pattern, values, name) => {
  expect(nameByPattern(pattern, values)).toBe(name);
});

test.each([
  ['{title} {label}', '{label} is not a part of a name.'],
  ['{title} {constructor}', '{constructor} is not a part of a name.'],
  ['{title', 'Each part stands between one { and one }.'],
  ['{release}', 'Use {title} or {position}'],
  ['', 'Use {title} or {position}'],
])('“%s” is refused in words', (pattern, start) => {
  expect(patternProblem(pattern)).toContain(start);
});

test('the standard pattern is fine', () => expect(patternProblem(STANDARD_PATTERN)).toBeNull());
