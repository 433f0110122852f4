import { pageAfterSignIn } from './signed-in';

jest.mock('./session', () => ({}));

test.each([
  ['/tracks/1?from=x', '/tracks/1?from=x'],
  ['/', '/'],
  // Nothing that leads elsewhere.
  ['https://example.com/', '/'],
  ['//example.com/x', '/'],
  ['/\\example.com', '/'],
  ['javascript:alert(1)', '/'],
  ['\t//example.com', '/'],
  ['tracks', '/'],
  ['http://[', '/'],
  [undefined, '/'],
  [['/a', '/b'], '/'],
])('after signing in, “%s” leads to %s', (next, page) => {
  expect(pageAfterSignIn(next)).toBe(page);
});
