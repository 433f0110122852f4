import { parseEan, parseIsrc } from './identifiers';

// ISRC Handbook, 4th edition: its example, with and without hyphens.
test.each(['AA-6Q7-20-00047', 'aa6q72000047', 'ISRC AA 6Q7 20 00047'])('“%s” is an ISRC', (text) => {
  expect(parseIsrc(text)).toBe('AA6Q72000047');
});

test.each(['', 'AA6Q7200004', 'AA6Q720000471', '1A6Q72000047', 'AA6Q72O00047', 'ÅA6Q72000047'])(
  '“%s” is no ISRC',
  (text) => expect(parseIsrc(text)).toBeNull(),
);

// GS1 General Specifications, figure 7.9-1: 6291041500213; the other two from memory.
test.each([
  ['6291041500213', '6291041500213'],
  ['4 006381 333931', '4006381333931'],
  ['0-36000-29145-2', '0036000291452'],
])('“%s” is an EAN', (text, stored) => expect(parseEan(text)).toBe(stored));

test('any single wrong digit, and most swaps, are found by the check digit', () => {
  const right = '6291041500213';
  for (let i = 0; i < 13; i++) {
    for (let digit = 0; digit < 10; digit++) {
      const changed = right.slice(0, i) + digit + right.slice(i + 1);
      expect(parseEan(changed)).toBe(changed === right ? right : null);
    }
  }
});

test.each(['', '62910415002', '62910415002134', '62910415OO213'])('“%s” is no EAN', (text) =>
  expect(parseEan(text)).toBeNull(),
);
